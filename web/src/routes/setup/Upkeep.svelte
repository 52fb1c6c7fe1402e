<!-- What the machine takes to keep, told before it is added: minutes, what it uses up, where its filters are. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { figure, minutesWords, plural } from '../../lib/words/format';

  let {
    upkeep,
    filters,
  }: { upkeep: Schemas['UpkeepOut'] | null; filters: { slot: string; name: string; station: string }[] } =
    $props();

  const often = (a_year: number) =>
    a_year >= 0.95 ? `${figure(a_year)} a year` : `one every ${plural(Math.round(1 / a_year), 'year')}`;
</script>

<section class="panel p-4" aria-label="What it takes">
  {#if upkeep}
    <h2>About {minutesWords(upkeep.minutes_a_week)} of care a week</h2>
    <p class="soft text-sm">
      {upkeep.minutes_a_run > 0 ? `That is ${figure(upkeep.minutes_a_run)} min for each run, ` : 'That is '}
      {minutesWords(upkeep.minutes_a_year)} a year, at this week, in your household. Suction lasts only as long
      as filters, bin and brush are looked after.
    </p>
    {#if upkeep.uses_up.length}
      <h3>It uses up</h3>
      <ul class="uses">
        {#each upkeep.uses_up as one (one.part)}
          <li><span>{one.part}</span> <span>{often(one.a_year)}</span></li>
        {/each}
      </ul>
    {/if}
  {:else}
    <h2>What it takes</h2>
    <p class="soft">Say when it runs, and its minutes of care stand here.</p>
  {/if}
  {#if filters.length}
    <h3>Its {plural(filters.length, 'filter')}</h3>
    <ul class="uses">
      {#each filters as filter (filter.slot)}
        <li><span>{filter.name}</span> <span class="soft">at {filter.station}</span></li>
      {/each}
    </ul>
    {#if filters.length === 1}
      <p class="soft text-sm">
        Most machines have two, some three, one of them hidden. Look round the exhaust; a further one can be
        added on its page.
      </p>
    {/if}
  {/if}
</section>

<style>
  h2 {
    font-size: 1.15rem;
    font-weight: 800;
  }
  h3 {
    margin-top: 0.75rem;
    font-weight: 700;
  }
  .uses li {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
  }
</style>
