<!-- The house board: every machine as its air path, like stations under each other. Of many, the calm ones fold. -->
<script lang="ts">
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import { MediaQuery, SvelteMap } from 'svelte/reactivity';
  import { push } from 'svelte-spa-router';

  import AirPath from '../../lib/airpath/AirPath.svelte';
  import { boardOrder, type Chamber, columnX, usedColumns } from '../../lib/airpath/layout';
  import { tag } from '../../lib/airpath/words';
  import type { Schemas } from '../../lib/api/client';
  import { restWords } from '../../lib/words/format';
  import { usualWeek } from '../../lib/words/tasks';

  type Strip = Schemas['StripOut'];
  let {
    round,
    query,
    only,
  }: { round: Schemas['RoundOut']; query: string; only: 'all' | 'hands' | 'unknown' } = $props();

  /** So many machines are drawn; of more, those that want hands most, and the rest is a line each. */
  const DRAWN = 10;
  const WHEN_MANY = 5;
  const narrow = new MediaQuery('max-width: 639px');
  let width = $state(600);
  /** What somebody opened or folded by hand. */
  const byHand = new SvelteMap<string, boolean>();

  const machines = $derived(boardOrder(round.machines));
  const columns = $derived(usedColumns(machines));
  const many = $derived(machines.length > DRAWN);
  const size = $derived(machines.length <= 2 ? 'tall' : machines.length <= 4 ? 'low' : 'slim');
  const folds = $derived(many || (narrow.current && machines.length > 2));
  const drawn = $derived(
    new Set(
      many && !narrow.current
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
  const shown = $derived(machines.filter(shows).length);
  const isOpen = (machine: Strip) => byHand.get(machine.id) ?? (!folds || drawn.has(machine.id));

  function show(machine: Strip, chamber: Chamber) {
    void push(`/machines/${machine.id}/${chamber.slots[0] ?? ''}`);
  }
</script>

<section class="board" aria-label="House board">
  {#if !narrow.current}
    <div class="head" aria-hidden="true">
      <span class="soft">the air goes this way →</span>
      <div class="columns" bind:clientWidth={width}>
        {#each columns as column (column)}
          <span style:left={`${columnX(column, columns, width)}px`}>{column}</span>
        {/each}
      </div>
    </div>
  {/if}
  {#each machines as machine (machine.id)}
    <div
      class={['machine', machine.serves && 'serving', size, folds && 'folds', many && 'many']}
      hidden={!shows(machine)}
    >
      <div class="who">
        <h2><a class="hover:underline" href={`#/machines/${machine.id}`}>{machine.name}</a></h2>
        {#if machine.empty_slots.length}
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
          <ChevronRight size={18} class={isOpen(machine) ? 'rotate-90' : ''} aria-hidden="true" />
          {#each wanting(machine) as chamber (chamber.key)}
            <span class={`ink-${chamber.level}`}>{chamber.label}: {tag(chamber, round.now, true)}</span>
          {:else}
            <span class="soft font-normal">nothing wants hands</span>
          {/each}
          {#if machine.unsure}<span class="ink-unknown">{machine.unsure} not known</span>{/if}
        </button>
      {/if}
      {#if isOpen(machine)}
        <div class="path">
          <AirPath
            chambers={machine.chambers}
            now={round.now}
            name={machine.name}
            {columns}
            {size}
            upright={narrow.current}
            onselect={(chamber) => show(machine, chamber)}
          />
        </div>
      {/if}
    </div>
  {/each}
  {#if shown === 0}<p class="soft p-3">No machine fits that. Clear the search to see them all.</p>{/if}
</section>

<style>
  .head,
  .machine {
    display: grid;
    grid-template-columns: 11.5rem minmax(0, 1fr);
    gap: 0.5rem;
  }
  .machine[hidden] {
    display: none;
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
    padding-left: 11.5rem;
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
