<!-- What a machine costs a year, whether washing pays, whether a repair does; each figure with its arithmetic. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { session } from '../../lib/state/session.svelte';
  import { WorthState } from '../../lib/state/worth.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import { figure, fullDay, minutesWords, percent, plural } from '../../lib/words/format';
  import { estimate, money } from '../../lib/words/shelf';
  import CostBasis from './CostBasis.svelte';
  import Repair from './Repair.svelte';

  let { machine_id }: { machine_id: string } = $props();

  const costs = new WorthState(untrack(() => machine_id));
  void costs.refresh();
  let telling = $state(false);
  const worth = $derived(costs.worth);
  const ORDINAL: Record<number, string> = { 2: 'second', 3: 'third', 4: 'fourth' };
  const price = (cents: number) => money(cents, worth?.currency ?? '');
  const about = (cents: number) => estimate(cents, worth?.currency ?? '');
</script>

{#if costs.load.status === 'error'}
  <Trouble problem={costs.load.problem} retry={() => void costs.refresh()} />
{:else if worth}
  <section class="panel grid gap-[0.9rem] py-4 px-[clamp(1rem,2vw,1.5rem)]" aria-label="What it costs">
    <div class="flex flex-wrap justify-between gap-y-2 gap-x-4">
      <h2>
        About {about(worth.cost)} a year to keep going{worth.told.hour_value ? ', your minutes counted' : ''}
      </h2>
      {#if session.mayWrite}
        <button class="btn btn-sm" aria-expanded={telling} onclick={() => (telling = !telling)}
          >Price, hour, guarantee…</button
        >
      {/if}
    </div>
    {#if telling}<CostBasis {costs} {worth} onkept={() => (telling = false)} />{/if}
    {#if worth.under_guarantee && worth.told.guarantee_until}
      <p class="pl-3 border-l-4 border-l-(--due)">
        <b>Under guarantee until {fullDay(worth.told.guarantee_until)}.</b> Opening what is screwed, or another
        maker’s part, may end it: its terms come first.
      </p>
    {/if}
    {#if costs.problem}<Trouble problem={costs.problem} />{/if}
    <div class="grid grid-cols-[repeat(auto-fit,minmax(min(24rem,100%),1fr))] gap-y-5 gap-x-8">
      <div>
        <h3>Parts, about {about(worth.parts_cost)}</h3>
        <ul>
          {#each worth.parts as part (part.name)}
            <li class="line">
              <span
                >{figure(part.a_year)} × {part.name.toLowerCase()}{part.price === null
                  ? ''
                  : ` at ${price(part.price)}`}</span
              ><span>{part.price === null ? 'no price' : about(part.cost)}</span>
            </li>
          {:else}
            <li class="soft">None is renewed by use or date.</li>
          {/each}
        </ul>
        <p class="soft">
          And {minutesWords(worth.minutes)} of work a year{worth.told.hour_value
            ? `, ${about(worth.minutes_worth)}`
            : ''}.
        </p>
        {#if worth.share_of_new !== null && worth.parts_cost}
          <p>
            The parts of a year are {percent(worth.share_of_new)} of what a new machine costs{worth.unpriced
              .length
              ? ', without the parts that have no price'
              : ''}.
          </p>
        {/if}
        {#if worth.unpriced.length}
          <p class="soft">
            Without a price: {worth.unpriced.join(', ').toLowerCase()}. A number on the shelf finds one.
          </p>
        {/if}
      </div>
      <div>
        <h3>Wash, or a new one each time?</h3>
        {#each worth.washing as one (one.name)}
          <p>
            <b
              >{one.name}: {one.washing_pays === null
                ? 'as good as each other.'
                : one.washing_pays
                  ? 'wash it.'
                  : 'a new one each time is cheaper.'}</b
            >
            <span class="soft"
              >{figure(one.washes)} washes and {figure(one.renewals)} new ones a year cost {about(
                one.wash_cost,
              )}; {figure(Math.max(one.washes, one.renewals))} new ones {about(one.replace_cost)}. Washing
              takes {minutesWords(one.wash_minutes)} a year and keeps {figure(one.saved)} out of the bin.</span
            >
          </p>
        {:else}
          <p class="soft">Nothing here is washed that has a price.</p>
        {/each}
        {#if worth.saved}
          <p class="soft">
            In the last year {plural(worth.saved, 'wash', 'washes')} kept parts out of the bin.
          </p>
        {/if}
      </div>
      {#if worth.often.length}
        <div>
          <h3>How often to run it?</h3>
          <ul aria-label="How often to run it">
            <li>
              <b>Now, {figure(worth.runs_a_week)} times a week:</b>
              {minutesWords(worth.minutes)} a year
            </li>
            {#each worth.often as one (one.days)}
              <li>
                <b>{one.days === 1 ? 'Every day' : `Every ${ORDINAL[one.days] ?? ''} day`}:</b>
                {minutesWords(one.minutes)} a year, {figure(one.minutes_a_week)} min a week{one.parts_cost
                  ? `; parts ${about(one.parts_cost)} a year`
                  : ''}
              </li>
            {/each}
          </ul>
          <p class="soft">
            For as long each time as now. As much dust falls however often it runs, so the runs get dirtier:
            that part of the work stays. Hair winds up by the hour, and some work is due by the calendar.
          </p>
        </div>
      {/if}
      <Repair {costs} {worth} {machine_id} />
    </div>
  </section>
{/if}

<style>
  h3 {
    margin-bottom: 0.3rem;
    font-weight: 800;
  }
  .line {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    padding-block: 0.15rem;
    border-bottom: 1px solid var(--color-base-300);
  }
  .line span:last-child {
    white-space: nowrap;
  }
</style>
