<!-- What the machine takes to keep, told before it is added: minutes, what it uses up, where its filters are. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { figure, minutesWords, plural } from '../../lib/words/format';

  let {
    upkeep,
    filters,
    waits = [],
  }: {
    upkeep: Schemas['UpkeepOut'] | null;
    filters: { slot: string; name: string; station: string }[];
    /** Parts that are washed and that it does not run without while they dry. */
    waits?: string[];
  } = $props();

  let prices = $state<Record<string, number | null>>({});
  const priced = $derived((upkeep?.uses_up ?? []).filter(({ part }) => (prices[part] ?? 0) > 0));
  const yearly = $derived(priced.reduce((sum, { part, a_year }) => sum + a_year * (prices[part] ?? 0), 0));
  const store = $derived(
    (upkeep?.uses_up ?? []).filter(({ a_year }) => a_year >= 0.95).map(({ part }) => part),
  );

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
          <li>
            <span>{one.part}</span>
            <span class="flex items-center gap-2"
              >{often(one.a_year)}
              <label
                ><span class="sr-only">Price of one: {one.part}</span><input
                  class="input input-sm w-24"
                  type="number"
                  min="0"
                  max="10000"
                  step="any"
                  placeholder="one costs"
                  bind:value={prices[one.part]}
                /></label
              ></span
            >
          </li>
        {/each}
      </ul>
      <p role="status">
        {#if priced.length}<b>About {figure(yearly)} a year</b> for {plural(
            priced.length,
            'part',
          )}{priced.length < upkeep.uses_up.length
            ? `; ${upkeep.uses_up.length - priced.length} without a price`
            : ''}.{:else}<span class="soft">Type what one costs, and what it costs a year stands here.</span
          >{/if}
      </p>
      {#if store.length}
        <p class="soft text-sm">
          Keep in store from the first day: one of each that goes within the year ({store
            .join(', ')
            .toLowerCase()}){waits.length
            ? `, and a second ${waits.join(', ').toLowerCase()}, so that the machine runs while one dries`
            : ''}. What came in the box counts.
        </p>
      {/if}
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
  <h3>What may not go in</h3>
  <p class="soft text-sm">
    Plaster and masonry dust, ash and embers, liquids and damp dirt, fuel, sharp metal and glass: they burn
    out the motor, cut what holds the dust, and end the guarantee. <a class="link" href="#/floor"
      >May I pick this up?</a
    > knows more, and its label decides.
  </p>
</section>

<style>
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
