<!-- A machine on the board: its name, how it last ran, its air path, and one tap when it ran. Folded, a line says what it wants. -->
<script lang="ts">
  import ChevronRight from '~icons/lucide/chevron-right';
  import { push } from 'svelte-spa-router';

  import AirPath from '../../lib/airpath/AirPath.svelte';
  import Glyph from '../../lib/airpath/Glyph.svelte';
  import type { Chamber, Column, Size } from '../../lib/airpath/layout';
  import { tag } from '../../lib/airpath/words';
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { figure } from '../../lib/words/format';
  import { isResting, lastRun } from '../../lib/words/round';
  import RanIt from './RanIt.svelte';

  let {
    machine,
    round,
    columns,
    size,
    width,
    narrow,
    folds,
    open,
    later,
    alone,
    ontoggle,
  }: {
    machine: Schemas['StripOut'];
    round: Schemas['RoundOut'];
    columns: Column[];
    size: Size;
    /** Of its strip [px]. */
    width: number;
    narrow: boolean;
    /** Whether it is a line that opens. */
    folds: boolean;
    open: boolean;
    /** So high is the place kept for a strip that is drawn a frame later [px]; null: it is drawn. */
    later: number | null;
    /** Whether the board is all there is on the page: its headings are one level higher. */
    alone: boolean;
    ontoggle: () => void;
  } = $props();

  const WANT_HANDS = ['due', 'overdue', 'missing', 'drying'];
  const wants = $derived(machine.chambers.filter((one) => WANT_HANDS.includes(one.level ?? '')));
  /** As many shapes as a line of a phone holds; those that want hands first. */
  const SHAPES = 7;
  const shapes = $derived([
    ...wants,
    ...machine.chambers.filter((one) => one.level && !WANT_HANDS.includes(one.level)),
  ]);
  const runs = $derived(machine.serves === null && !machine.dangers.length);

  const show = (chamber: Chamber) => void push(`/machines/${machine.id}/${chamber.slots[0] ?? ''}`);
</script>

<div class={['machine', machine.serves && 'serving', folds && 'folds']}>
  <div class="who">
    <svelte:element this={alone ? 'h2' : 'h3'}
      ><a class="hover:underline" href={`#/machines/${machine.id}`}>{machine.name}</a></svelte:element
    >
    {#if machine.dangers.length}
      <p class="ink-overdue font-bold">
        out of use: {machine.dangers.map((danger) => danger.name).join(', ')}
      </p>
    {:else if machine.empty_slots.length}
      <p class="ink-overdue font-bold">out of use: {machine.empty_slots.join(', ').toLowerCase()} is out</p>
    {:else if house.noting?.machine_id === machine.id}
      <p class="soft">{figure(house.noting.minutes)} min, noting…</p>
    {:else if !machine.serves}
      <p class={isResting(machine, round.today) ? 'ink-due font-bold' : 'soft'}>
        {lastRun(machine, round.today)}
      </p>
    {/if}
  </div>
  {#if folds}
    <button class="wants" aria-expanded={open} onclick={ontoggle}>
      <span class="sr-only">{machine.name}, {open ? 'fold' : 'show its air path'}:</span>
      <ChevronRight width="16" height="16" class={['soft', open && 'rotate-90']} aria-hidden="true" />
      {#if narrow}
        {#each shapes.slice(0, SHAPES) as chamber (chamber.key)}
          <svg
            class={`level-${chamber.level}`}
            width="18"
            height="18"
            viewBox="-13 -13 26 26"
            aria-hidden="true"
          >
            {#if chamber.level === 'fresh'}<circle r="4" class="fill-(--fresh)" />{:else}<Glyph
                level={chamber.level}
                r={8}
              />{/if}
          </svg>
        {/each}
        <span class="sr-only"
          >{wants.map((one) => `${one.label}: ${tag(one, round.now, true)}`).join(', ') ||
            'nothing wants hands'}</span
        >
      {:else}
        {#each wants as chamber (chamber.key)}
          <span class={`ink-${chamber.level}`}>{chamber.label}: {tag(chamber, round.now, true)}</span>
        {:else}
          <span class="soft font-normal">nothing wants hands</span>
        {/each}
      {/if}
      {#if machine.unsure}<span class="ink-unknown">{machine.unsure} not known</span>{/if}
    </button>
  {/if}
  {#if runs}<div class="run"><RanIt {machine} today={round.today} mayWrite={session.mayWrite} /></div>{/if}
  {#if open}
    <div class="path">
      {#if later !== null}
        <div style:height={`${later}px`}></div>
      {:else}
        <AirPath
          chambers={machine.chambers}
          now={round.now}
          name={machine.name}
          {columns}
          {size}
          given={narrow ? null : width}
          upright={narrow}
          onselect={show}
          onall={() => void push(`/machines/${machine.id}`)}
        />
      {/if}
    </div>
  {/if}
</div>

<style>
  .machine {
    display: grid;
    grid-template-columns: var(--who) minmax(0, 1fr) var(--run);
    align-items: center;
    column-gap: 0.5rem;
    padding-block: 0.05rem;
    border-bottom: 1px solid var(--color-base-300);
  }
  .machine:has(+ :global(.serving)) {
    border-bottom-color: transparent;
  }
  .who {
    min-width: 0;
  }
  .who > :is(h2, h3) {
    font-size: 1rem;
    font-weight: 800;
    line-height: 1.25;
    overflow-wrap: anywhere;
  }
  .who a {
    display: inline-block;
    min-height: 1.5rem;
    line-height: 1.5rem;
  }
  .who p {
    font-size: 0.84rem;
    line-height: 1.25;
  }
  .serving .who {
    padding-left: 0.7rem;
    border-left: 3px solid var(--duct);
  }
  .serving .who > :is(h2, h3) {
    font-size: 0.95rem;
    font-weight: 600;
  }
  /* Parts beside the path have the whole width under it. */
  .path {
    grid-column: 2 / -1;
    grid-row: 1;
    min-width: 0;
  }
  .run {
    grid-column: 3;
    grid-row: 1;
    z-index: 1;
  }
  .machine:not(.folds) .run {
    align-self: start;
    margin-top: 0.9rem;
  }
  .folds .path {
    grid-column: 1 / -1;
    grid-row: 2;
    padding-left: var(--who);
  }
  .wants {
    grid-column: 2;
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0 0.9rem;
    min-height: 2.25rem;
    font-size: 0.95rem;
    font-weight: 700;
    text-align: left;
    cursor: pointer;
    border-radius: 0.4rem;
  }
  .wants:hover {
    background: color-mix(in oklab, var(--color-base-content) 7%, transparent);
  }
  @media (max-width: 39.99rem) {
    .machine {
      grid-template-columns: minmax(0, 1fr) auto;
      padding-block: 0.3rem;
    }
    .run {
      grid-column: 2;
      grid-row: 1 / 3;
    }
    .wants {
      grid-column: 1;
      gap: 0 0.3rem;
      min-height: 1.75rem;
    }
    .path,
    .folds .path {
      grid-column: 1 / -1;
      grid-row: auto;
      padding-left: 0;
    }
  }
</style>
