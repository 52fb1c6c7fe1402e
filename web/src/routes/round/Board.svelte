<!-- The house board: every machine as its air path, like stations under each other. Of many, the calm ones fold. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { flip } from 'svelte/animate';
  import { MediaQuery, SvelteMap } from 'svelte/reactivity';

  import { boardOrder, type Column, columnX, fitted, scale, usedColumns } from '../../lib/airpath/layout';
  import type { Schemas } from '../../lib/api/client';
  import { moving, whenSeen } from '../../lib/words/motion';
  import MachineRow from './MachineRow.svelte';

  type Strip = Schemas['StripOut'];
  let {
    round,
    alone = false,
  }: { round: Schemas['RoundOut']; /** Whether it has the whole page. */ alone?: boolean } = $props();

  /** So many machines are drawn; of more, those that want hands most, and the rest is a line each. */
  const DRAWN = 8;
  const WHEN_MANY = 2;
  const SEARCH_FROM = 10;
  const phone = new MediaQuery('max-width: 39.99rem');
  /** Asked once: each reading of a media query lays the page out. */
  const narrow = $derived(phone.current);
  /** The width of a strip [px]: taken from the window at first, so that nothing is drawn twice, then measured once. */
  let width = $state(firstGuess());
  let query = $state('');
  let only = $state<'all' | 'hands' | 'unknown'>('all');
  let search = $state<HTMLInputElement | null>(null);
  /** What somebody opened or folded by hand. */
  const byHand = new SvelteMap<string, boolean>();

  export function find(): void {
    search?.focus();
  }

  /** After the layout that happens anyway, not by asking for one. */
  function watchWidth(columns: HTMLElement) {
    const watch = new ResizeObserver(([entry]) => {
      const now = Math.round(entry?.contentRect.width ?? width);
      if (now > 0 && now !== Math.round(width)) width = now;
    });
    watch.observe(columns);
    return () => watch.disconnect();
  }
  function firstGuess(): number {
    const window_px = document.documentElement.clientWidth;
    const rem = 16 * scale();
    const padding = 2 * Math.min(Math.max(rem, window_px * 0.025), 1.75 * rem);
    const page = Math.min(window_px, 100 * rem) - padding;
    const board = window_px >= 68 * rem && !alone ? (page - 2.5 * rem) * (2 / 3) : page;
    return Math.max(200, board - (9 + 8 + 1) * rem);
  }
  const machines = $derived(boardOrder(round.machines));
  const columns = $derived(usedColumns(machines));
  const at = (column: Column) => columnX(column, columns, width / scale());
  const HEAD_PX = 12.8;
  const heads = $derived(
    fitted(
      columns.map((column) => ({ x: at(column), text: column })),
      HEAD_PX,
      width / scale(),
    ),
  );
  const many = $derived(machines.length > DRAWN);
  const size = $derived(machines.length <= 2 ? 'tall' : machines.length <= 4 ? 'low' : 'slim');
  const folds = $derived(many || narrow);
  const wantHands = ['due', 'overdue', 'missing', 'drying'];
  const wanting = (machine: Strip) => machine.chambers.filter((one) => wantHands.includes(one.level ?? ''));
  const drawn = $derived(
    new Set(
      many && !narrow
        ? [...machines]
            .sort((a, b) => wanting(b).length - wanting(a).length)
            .slice(0, WHEN_MANY)
            .map((one) => one.id)
        : [],
    ),
  );
  const words = $derived(query.trim().toLowerCase());
  function shows(machine: Strip): boolean {
    if (words && !`${machine.name} ${machine.kind}`.toLowerCase().includes(words)) return false;
    if (only === 'hands') return wanting(machine).length > 0;
    return only === 'all' || machine.unsure > 0;
  }
  const fitting = $derived(machines.filter(shows));
  /** Of hundreds so many are made; the next ones when the last comes near, so that a search never makes them all. */
  const BATCH = 12;
  let batches = $state(1);
  $effect(() => {
    void [words, only];
    batches = 1;
  });
  const made = $derived(many ? fitting.slice(0, BATCH * batches) : fitting);
  function whenNear(end: HTMLElement) {
    const watch = new IntersectionObserver(([seen]) => seen?.isIntersecting && batches++, {
      rootMargin: '800px',
    });
    watch.observe(end);
    return () => watch.disconnect();
  }
  /** The first rows are drawn first, the others a frame later: what is looked at must not wait for the rest. */
  const ROW_PX = 86;
  const FIRST_ROWS = 4;
  let inSight = $state(FIRST_ROWS);
  onMount(() => {
    whenSeen(() => (inSight = Infinity));
  });
  const isOpen = (machine: Strip) => byHand.get(machine.id) ?? (!folds || drawn.has(machine.id));
</script>

<section class="board" aria-label="House board">
  {#if machines.length > SEARCH_FROM}
    <div class="filter">
      <label class="input grow"
        ><span class="sr-only">Search machines</span><input
          type="search"
          placeholder="Search machines"
          bind:value={query}
          bind:this={search}
        /></label
      >
      <div class="join" role="group" aria-label="Which machines">
        {#each [{ key: 'all', text: 'All' }, { key: 'hands', text: 'Want hands' }, { key: 'unknown', text: 'Not known' }] as const as { key, text } (key)}
          <button
            class={['btn btn-sm join-item', only === key && 'btn-active']}
            aria-pressed={only === key}
            onclick={() => (only = key)}>{text}</button
          >
        {/each}
      </div>
    </div>
  {/if}
  {#if !narrow && !many}
    <div class="head" aria-hidden="true">
      <span class="soft">the air goes this way →</span>
      <div class="columns" {@attach watchWidth}>
        {#each columns as column, i (column)}
          <span style:left={`${at(column) * scale()}px`}>{heads[i]}</span>
        {/each}
      </div>
    </div>
  {:else if !narrow}
    <div class="head many" aria-hidden="true">
      <span></span>
      <div class="columns" {@attach watchWidth}></div>
    </div>
  {/if}
  {#each made as machine, row (machine.id)}
    <div class={[many && 'far']} animate:flip={{ duration: moving(250) }}>
      <MachineRow
        {machine}
        {round}
        {columns}
        {size}
        {width}
        {narrow}
        {folds}
        open={isOpen(machine)}
        {alone}
        later={row >= inSight ? ROW_PX - 10 : null}
        ontoggle={() => byHand.set(machine.id, !isOpen(machine))}
      />
    </div>
  {/each}
  {#if made.length < fitting.length}
    {#key batches}<div {@attach whenNear} class="soft p-3">
        And {fitting.length - made.length} more…
      </div>{/key}
  {/if}
  {#if fitting.length === 0}<p class="soft p-3">
      No machine fits that. Clear the search to see them all.
    </p>{/if}
</section>

<style>
  .board {
    --who: 9rem;
    --run: 8rem;
  }
  .head {
    display: grid;
    grid-template-columns: var(--who) minmax(0, 1fr) var(--run);
    column-gap: 0.5rem;
    height: 1.25rem;
    font-size: 0.8rem;
  }
  .head.many {
    height: 0;
  }
  .head > span {
    white-space: nowrap;
  }
  .columns {
    position: relative;
  }
  .columns span {
    position: absolute;
    transform: translateX(-50%);
    color: var(--soft);
  }
  .filter {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    margin-bottom: 0.4rem;
  }
  /* Of hundreds of machines only those in sight are laid out. */
  .far {
    content-visibility: auto;
    contain-intrinsic-size: auto 3rem;
  }
</style>
