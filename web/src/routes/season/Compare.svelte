<!-- This plan beside doing each task on its own date. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { figure, minutesWords, percent } from '../../lib/words/format';
  import { money } from '../../lib/words/shelf';

  let { season }: { season: Schemas['SeasonOut'] } = $props();

  const ours = $derived(season.score);
  const own = $derived(season.own_dates);
  const rows = $derived(
    [
      { name: 'days with a visit', ours: figure(ours.visits), own: figure(own.visits) },
      { name: 'at the bench', ours: minutesWords(ours.minutes), own: minutesWords(own.minutes) },
      {
        name: 'getting ready',
        ours: minutesWords(ours.ready_min),
        own: minutesWords(own.ready_min),
      },
      {
        name: 'in all',
        ours: minutesWords(ours.minutes + ours.ready_min),
        own: minutesWords(own.minutes + own.ready_min),
        strong: true,
      },
      { name: 'runs missed, drying', ours: figure(ours.missed_runs), own: figure(own.missed_runs) },
      { name: 'days past a date', ours: figure(ours.late_days), own: figure(own.late_days) },
      { name: 'work done early', ours: minutesWords(ours.early_min), own: minutesWords(own.early_min) },
      ...(ours.early_cents >= 50
        ? [
            {
              name: 'parts, thrown early',
              ours: money(Math.round(ours.early_cents), season.currency),
              own: money(Math.round(own.early_cents), season.currency),
            },
          ]
        : []),
    ].filter((row) => row.ours !== '0' || row.own !== '0'),
  );
</script>

<table>
  <caption class="sr-only">This plan and each task on its own date</caption>
  <thead>
    <tr><td></td><th scope="col">this plan</th><th scope="col">each on its date</th></tr>
  </thead>
  <tbody>
    {#each rows as row (row.name)}
      <tr class={[row.strong && 'font-bold']}
        ><th scope="row">{row.name}</th><td><b>{row.ours}</b></td><td>{row.own}</td></tr
      >
    {/each}
  </tbody>
</table>
<p class="soft text-sm">
  {#if season.gap < 0.005}No plan for these days takes less.
  {:else}At best {percent(season.gap)} less could be had: so far it is proven.{/if}
  {#if season.sittings >= 3}
    Minutes are yours: in {season.sittings} sittings you took {percent(season.pace)} of the book’s.
  {/if}
</p>

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }
  tr {
    border-top: 1px solid var(--color-base-300);
  }
  th,
  td {
    padding: 0.28rem 0;
    text-align: right;
    font-weight: inherit;
  }
  td,
  thead th {
    white-space: nowrap;
  }
  thead th {
    color: var(--soft);
    font-size: 0.875rem;
  }
  tbody th {
    text-align: left;
    color: var(--soft);
  }
  td + td,
  th + th {
    padding-left: 0.75rem;
  }
</style>
