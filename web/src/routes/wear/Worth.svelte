<!-- What a machine costs a year, whether washing pays, whether a repair does; each figure with its arithmetic. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { bounds } from '../../lib/api/bounds';
  import type { Schemas } from '../../lib/api/client';
  import { session } from '../../lib/state/session.svelte';
  import { startOf } from '../../lib/state/faults.svelte';
  import { WorthState } from '../../lib/state/worth.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import { figure, fullDay, minutesWords, percent, plural } from '../../lib/words/format';
  import { money } from '../../lib/words/shelf';
  import CheapFirst from '../faults/CheapFirst.svelte';

  let { machine_id }: { machine_id: string } = $props();

  const costs = new WorthState(untrack(() => machine_id));
  void costs.refresh();
  let telling = $state(false);
  let cheap = $state.raw<Schemas['CheapOut'][]>([]);
  let told = $state({ price_new: '', life_years: 10, hour_value: '0', guarantee_until: '' });
  let repair = $state({ cost: '', minutes: 30, adds_years: 3 });
  const worth = $derived(costs.worth);
  const weighed = $derived(costs.weighed);
  const ORDINAL: Record<number, string> = { 2: 'second', 3: 'third', 4: 'fourth' };
  const price = (cents: number) => money(cents, worth?.currency ?? '');
  const cents = (text: string | number) => Math.round(Number(text) * 100);

  function begin() {
    telling = !telling;
    if (!worth) return;
    told = {
      price_new: worth.told.price_new ? (worth.told.price_new / 100).toFixed(2) : '',
      life_years: worth.told.life_years,
      hour_value: (worth.told.hour_value / 100).toFixed(2),
      guarantee_until: worth.told.guarantee_until ?? '',
    };
  }

  async function tell(event: SubmitEvent) {
    event.preventDefault();
    const done = await costs.tell({
      price_new: told.price_new ? cents(told.price_new) : null,
      life_years: told.life_years,
      hour_value: cents(told.hour_value),
      guarantee_until: told.guarantee_until || null,
    });
    if (done) telling = false;
  }

  async function weigh(event: SubmitEvent) {
    event.preventDefault();
    const start = await startOf(machine_id);
    cheap = start.status === 'ok' ? start.data.cheap : [];
    void costs.weigh({ cost: cents(repair.cost), minutes: repair.minutes, adds_years: repair.adds_years });
  }
</script>

{#if costs.load.status === 'error'}
  <Trouble problem={costs.load.problem} retry={() => void costs.refresh()} />
{:else if worth}
  <section class="panel worth" aria-label="What it costs">
    <div class="top">
      <h2>
        {price(worth.cost)} a year to keep going{worth.told.hour_value ? ', your minutes counted' : ''}
      </h2>
      {#if session.mayWrite}
        <button class="btn btn-sm" aria-expanded={telling} onclick={begin}>Price, hour, guarantee…</button>
      {/if}
    </div>
    {#if telling}
      <form class="form" onsubmit={tell}>
        <label class="grid gap-1"
          >A new one costs ({worth.currency})<input
            class="input w-full"
            type="number"
            step="0.01"
            min="0"
            bind:value={told.price_new}
          /></label
        >
        <label class="grid gap-1"
          >Such a one serves (years)<input
            class="input w-full"
            type="number"
            step="any"
            {...bounds('WorthToldIn', 'life_years')}
            bind:value={told.life_years}
            required
          /></label
        >
        <label class="grid gap-1"
          >An hour of yours is worth ({worth.currency})<input
            class="input w-full"
            type="number"
            step="0.01"
            bind:value={told.hour_value}
            required
          /></label
        >
        <label class="grid gap-1"
          >Under guarantee until<input
            class="input w-full"
            type="date"
            {...bounds('WorthToldIn', 'guarantee_until')}
            bind:value={told.guarantee_until}
          /></label
        >
        <button class="btn btn-primary" disabled={costs.busy}>Keep</button>
      </form>
    {/if}
    {#if worth.under_guarantee && worth.told.guarantee_until}
      <p class="mind">
        <b>Under guarantee until {fullDay(worth.told.guarantee_until)}.</b> Opening what is screwed, or another
        maker’s part, may end it: its terms come first.
      </p>
    {/if}
    {#if costs.problem}<Trouble problem={costs.problem} />{/if}
    <div class="columns">
      <div>
        <h3>Parts, {price(worth.parts_cost)}</h3>
        <ul>
          {#each worth.parts as part (part.name)}
            <li class="line">
              <span
                >{figure(part.a_year)} × {part.name.toLowerCase()}{part.price === null
                  ? ''
                  : ` at ${price(part.price)}`}</span
              ><span>{part.price === null ? 'no price' : price(part.cost)}</span>
            </li>
          {:else}
            <li class="soft">None is renewed by use or date.</li>
          {/each}
        </ul>
        <p class="soft">
          And {minutesWords(worth.minutes)} of work a year{worth.told.hour_value
            ? `, ${price(worth.minutes_worth)}`
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
              >{figure(one.washes)} washes and {figure(one.renewals)} new ones a year cost {price(
                one.wash_cost,
              )}; {figure(Math.max(one.washes, one.renewals))} new ones {price(one.replace_cost)}. Washing
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
                  ? `; parts ${price(one.parts_cost)} a year`
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
      <div>
        <h3>Repair, or a new machine?</h3>
        {#if worth.told.price_new === null}
          <p class="soft">Tell what a new one costs first.</p>
        {:else}
          <form class="form" onsubmit={weigh}>
            <label class="grid gap-1"
              >The repair costs ({worth.currency})<input
                class="input w-full"
                type="number"
                step="0.01"
                min="0"
                bind:value={repair.cost}
                required
              /></label
            >
            <label class="grid gap-1"
              >Minutes<input
                class="input w-full"
                type="number"
                {...bounds('RepairIn', 'minutes')}
                bind:value={repair.minutes}
                required
              /></label
            >
            <label class="grid gap-1"
              >It then serves (years)<input
                class="input w-full"
                type="number"
                step="any"
                {...bounds('RepairIn', 'adds_years')}
                bind:value={repair.adds_years}
                required
              /></label
            >
            <button class="btn" disabled={costs.busy}>Weigh it</button>
          </form>
          {#if weighed}
            <p class="mt-2" role="status">
              <b
                >{weighed.repair === null
                  ? 'As good as each other: keep what you have.'
                  : weighed.repair
                    ? 'Repair it.'
                    : 'A new one costs less a year.'}</b
              >
              The repair {price(weighed.repair_a_year)} a year, a new one {price(weighed.new_a_year)}. At {figure(
                worth.age_years,
              )} years it is still worth {price(weighed.worth_left)}; {figure(weighed.years_left)} years are to
              be expected. Hidden dirt often is the only cause. A new one also throws this one away whole, which
              no figure here counts.
            </p>
            <CheapFirst {machine_id} {cheap} />
          {/if}
        {/if}
      </div>
    </div>
  </section>
{/if}

<style>
  .worth {
    display: grid;
    gap: 0.9rem;
    padding: 1rem clamp(1rem, 2vw, 1.5rem);
  }
  .top {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0.5rem 1rem;
  }
  h2 {
    font-size: 1.3rem;
    font-weight: 800;
  }
  h3 {
    margin-bottom: 0.3rem;
    font-weight: 800;
  }
  .columns {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(min(24rem, 100%), 1fr));
    gap: 1.25rem 2rem;
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
  .form {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
    align-items: end;
    gap: 0.6rem;
  }
  .mind {
    padding-left: 0.75rem;
    border-left: 4px solid var(--due);
  }
</style>
