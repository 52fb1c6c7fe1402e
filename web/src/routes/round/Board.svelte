<!-- The house board: every machine as its air path, like stations under each other. Of many, the calm ones fold. -->
<script lang="ts">
  import ChevronRight from '~icons/lucide/chevron-right';
  import { onMount } from 'svelte';
  import { MediaQuery, SvelteMap } from 'svelte/reactivity';
  import { push } from 'svelte-spa-router';

  import AirPath from '../../lib/airpath/AirPath.svelte';
  import { boardOrder, type Chamber, columnX, usedColumns } from '../../lib/airpath/layout';
  import { tag } from '../../lib/airpath/words';
  import type { Schemas } from '../../lib/api/client';
  import { restWords } from '../../lib/words/format';
  import { usualWeek } from '../../lib/words/round';

  type Strip = Schemas['StripOut'];
  let {
    round,
    query,
    only,
  }: { round: Schemas['RoundOut']; query: string; only: 'all' | 'hands' | 'unknown' } = $props();

  /** So many machines are drawn; of more, those that want hands most, and the rest is a line each. */
  const DRAWN = 10;
  const WHEN_MANY = 2;
  const phone = new MediaQuery('max-width: 639px');
  /** Asked once: each reading of a media query lays the page out. */
  const narrow = $derived(phone.current);
  /** The width of a strip [px]: taken from the window at first, so that nothing is drawn twice, then measured once. */
  let width = $state(firstGuess());
  /** What somebody opened or folded by hand. */
  const byHand = new SvelteMap<string, boolean>();

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
    const rem = 16;
    const padding = 2 * Math.min(Math.max(rem, window_px * 0.025), 1.75 * rem);
    const beside = window_px >= 960 ? 21 * rem : 0;
    return Math.max(200, Math.min(window_px, 84 * rem) - padding - beside - 12 * rem);
  }
  const machines = $derived(boardOrder(round.machines));
  const columns = $derived(usedColumns(machines));
  const many = $derived(machines.length > DRAWN);
  const size = $derived(machines.length <= 2 ? 'tall' : machines.length <= 4 ? 'low' : 'slim');
  const folds = $derived(many || (narrow && machines.length > 2));
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
  const wantHands = ['due', 'overdue', 'missing', 'drying'];
  function wanting(machine: Strip): Chamber[] {
    return machine.chambers.filter((one) => wantHands.includes(one.level ?? ''));
  }
  const words = $derived(query.trim().toLowerCase());
  function shows(machine: Strip): boolean {
    if (words && !`${machine.name} ${machine.kind}`.toLowerCase().includes(words)) return false;
    if (only === 'hands') return wanting(machine).length > 0;
    return only === 'all' || machine.unsure > 0;
  }
  const fitting = $derived(machines.filter(shows));
  /** Of hundreds so many are made; the next ones when the last comes near, so that a search never makes them all. */
  const BATCH = 8;
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
  /** Rows in sight are drawn first, the others a frame later: what is looked at must not wait for the rest. */
  const ROW_PX = 112;
  let inSight = $state(Math.ceil((window.innerHeight - 2 * ROW_PX) / ROW_PX));
  onMount(() => {
    requestAnimationFrame(() => setTimeout(() => (inSight = Infinity)));
  });
  const isOpen = (machine: Strip) => byHand.get(machine.id) ?? (!folds || drawn.has(machine.id));

  function show(machine: Strip, chamber: Chamber) {
    void push(`/machines/${machine.id}/${chamber.slots[0] ?? ''}`);
  }
</script>

<section class="board" aria-label="House board">
  {#if !narrow}
    <div class="head" aria-hidden="true">
      <span class="soft">the air goes this way →</span>
      <div class="columns" {@attach watchWidth}>
        {#each columns as column (column)}
          <span style:left={`${columnX(column, columns, width)}px`}>{column}</span>
        {/each}
      </div>
    </div>
  {/if}
  {#each made as machine, row (machine.id)}
    <div class={['machine', machine.serves && 'serving', size, folds && 'folds', many && 'many']}>
      <div class="who">
        <h2><a class="hover:underline" href={`#/machines/${machine.id}`}>{machine.name}</a></h2>
        {#if machine.dangers.length}
          <p class="ink-overdue font-bold">
            out of use: {machine.dangers.map((danger) => danger.name).join(', ')}
          </p>
        {:else if machine.empty_slots.length}
          <p class="ink-overdue font-bold">
            out of use: {machine.empty_slots.join(', ').toLowerCase()} is out
          </p>
        {:else if machine.resting}
          <p class="ink-due font-bold">{restWords(machine.resting)}</p>
        {:else if !machine.serves}
          <p class="soft">{usualWeek(machine.usual)}</p>
        {/if}
      </div>
      {#if folds}
        <button
          class="wants"
          aria-expanded={isOpen(machine)}
          onclick={() => byHand.set(machine.id, !isOpen(machine))}
        >
          <span class="sr-only">{machine.name}, {isOpen(machine) ? 'fold' : 'show its air path'}:</span>
          <ChevronRight
            width="18"
            height="18"
            class={isOpen(machine) ? 'rotate-90' : ''}
            aria-hidden="true"
          />
          {#each wanting(machine) as chamber (chamber.key)}
            <span class={`ink-${chamber.level}`}>{chamber.label}: {tag(chamber, round.now, true)}</span>
          {:else}
            <span class="soft font-normal">nothing wants hands</span>
          {/each}
          {#if machine.unsure}<span class="ink-unknown">{machine.unsure} not known</span>{/if}
        </button>
      {/if}
      {#if isOpen(machine) && row >= inSight}
        <div style:height={`${ROW_PX - 10}px`}></div>
      {:else if isOpen(machine)}
        <div class="path">
          <AirPath
            chambers={machine.chambers}
            now={round.now}
            name={machine.name}
            {columns}
            {size}
            given={narrow ? null : width}
            upright={narrow}
            onselect={(chamber) => show(machine, chamber)}
          />
        </div>
      {/if}
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
  .head,
  .machine {
    display: grid;
    grid-template-columns: 11.5rem minmax(0, 1fr);
    gap: 0.5rem;
  }
  .head {
    font-size: 0.85rem;
  }
  .columns {
    position: relative;
  }
  .columns span {
    position: absolute;
    transform: translateX(-50%);
    color: var(--soft);
  }
  .machine {
    padding-block: 0.5rem 0.75rem;
    border-bottom: 1px solid var(--color-base-300);
  }
  /* Of hundreds of machines only those in sight are laid out. */
  .machine.many {
    content-visibility: auto;
    contain-intrinsic-size: auto 4rem;
  }
  .machine.slim {
    padding-block: 0.15rem 0.25rem;
  }
  .machine:has(+ .serving) {
    border-bottom-color: transparent;
  }
  .folds .path {
    grid-column: 1 / -1;
    padding-left: 12rem;
  }
  .serving .who {
    padding-left: 0.9rem;
    border-left: 3px solid var(--duct);
  }
  .serving .who h2 {
    font-size: 1rem;
    font-weight: 600;
  }
  .wants {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0 1rem;
    min-height: 2.5rem;
    font-weight: 700;
    text-align: left;
    cursor: pointer;
    border-radius: 0.4rem;
  }
  .wants:hover {
    background: color-mix(in oklab, var(--color-base-content) 7%, transparent);
  }
  .who {
    align-self: center;
    min-width: 0;
  }
  .who h2 a {
    display: inline-block;
    min-height: 1.6rem;
  }
  .who h2 {
    font-size: 1.15rem;
    font-weight: 800;
    overflow-wrap: anywhere;
  }
  .who p {
    font-size: 0.9rem;
  }
  @media (max-width: 639px) {
    .machine {
      grid-template-columns: minmax(0, 1fr);
    }
    .folds .path {
      padding-left: 0;
    }
  }
</style>
