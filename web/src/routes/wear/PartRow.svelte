<!-- One part in the table of wear: how far it is, what it did, what was found and measured on it. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { session } from '../../lib/state/session.svelte';
  import type { Gauge, Part } from '../../lib/state/wear.svelte';
  import { day, figure, percent, plural, when } from '../../lib/words/format';
  import { foundWords, GONE } from '../../lib/words/tasks';
  import { lineWhy, outlook, WHERE } from '../../lib/words/wear';
  import Line from './Line.svelte';

  let { part, today, onmeasure }: { part: Part; today: string; onmeasure: (gauge: Gauge) => void } = $props();

  const words = foundWords('replace');
  const gone = $derived(
    part.why_gone in GONE ? GONE[part.why_gone as Schemas['Gone']].toLowerCase() : part.why_gone,
  );
  const level = $derived((part.life ?? 0) >= 1 ? 'overdue' : (part.life ?? 0) >= 0.7 ? 'due' : 'fresh');
</script>

<div class="part" role="row" data-wear={part.name}>
  <div role="rowheader">
    <b>{part.name}</b><br /><span class="soft">{WHERE[part.state]}{gone ? `: ${gone}` : ''}</span>
  </div>
  <div role="cell">
    {#if part.life !== null}
      <div class={['life', `level-${level}`]} role="img" aria-label={`${percent(part.life)} of its life`}>
        <span style:width={`${Math.min(100, part.life * 100)}%`}></span>
      </div>
      <p>
        {percent(part.life)} of its life{part.life_due ? `: a new one ${when(part.life_due, today)}` : ''}.
      </p>
    {:else if part.state === 'fitted'}
      <p class="soft">Goes by what you find, not by a count.</p>
    {/if}
  </div>
  <div role="cell" class="soft">
    <p>
      {figure(part.used_h)} h in {plural(Math.round(part.runs), 'run')}{part.since
        ? ` since ${day(part.since)}`
        : ''}, cleaned {plural(part.cleanings, 'time')}{part.washes
        ? `, ${plural(part.washes, 'wash', 'washes')} among them`
        : ''}.
    </p>
    {#if part.found.length}
      <p>
        Found: {part.found
          .slice(-3)
          .map((one) => `${words[one.found].toLowerCase()} (${day(one.day)})`)
          .join(', ')}.
      </p>
    {/if}
    {#if part.recovery_first !== null && part.recovery_lately !== null}
      <p class={part.recovers_no_more ? 'ink-overdue font-bold' : ''}>
        {part.recovers_no_more ? 'Washing brings it back no more: replace it.' : 'Washing brings it back.'} After
        washes the machine pulled {figure(part.recovery_first)} of 5 at first, {figure(part.recovery_lately)} lately.
      </p>
    {/if}
  </div>
  <div role="cell" class="grid gap-[0.6rem]">
    {#each part.gauges as gauge (gauge.key)}
      <div class="gauge">
        <div class="min-w-0">
          <p><b>{gauge.name}</b></p>
          <p class={gauge.course === 'worn' ? 'ink-overdue font-bold' : ''}>
            {outlook(gauge, today, session.us)}
          </p>
          {#if gauge.course === 'wears'}
            <details class="soft">
              <summary>Why</summary>
              {#each lineWhy(gauge, session.us) as line (line)}<p>{line}</p>{/each}
            </details>
          {/if}
        </div>
        {#if gauge.points.length}<Line {gauge} used_h={part.used_h} />{/if}
        {#if session.mayWrite && part.state !== 'retired'}
          <button
            class="btn btn-sm"
            aria-label={`Measure: ${gauge.name}, ${part.name}`}
            onclick={() => onmeasure(gauge)}>Measure</button
          >
        {/if}
      </div>
    {/each}
  </div>
</div>

<style>
  .part {
    display: grid;
    grid-template-columns: subgrid;
    grid-column: 1 / -1;
    align-items: start;
    padding: 0.6rem 1rem;
    border-top: 1px solid var(--color-base-300);
    font-size: 0.95rem;
  }
  .life {
    height: 0.7rem;
    margin-block: 0.25rem;
    border: 1px solid var(--duct);
    border-radius: 0.3rem;
    background: var(--chamber);
    overflow: hidden;
  }
  .life span {
    display: block;
    height: 100%;
    background: var(--fill);
  }
  .gauge {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    align-items: center;
    gap: 0.4rem 0.9rem;
  }
  .gauge :global(svg) {
    width: 7.5rem;
  }
  @media (max-width: 59.99rem) {
    .part {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 0.4rem;
    }
  }
</style>
