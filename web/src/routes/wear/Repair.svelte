<!-- Whether a repair pays against a new machine; the free causes are named before anybody spends. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { startOf } from '../../lib/state/faults.svelte';
  import type { WorthState } from '../../lib/state/worth.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import { figure } from '../../lib/words/format';
  import { estimate } from '../../lib/words/shelf';
  import CheapFirst from '../faults/CheapFirst.svelte';

  let { costs, worth, machine_id }: { costs: WorthState; worth: Schemas['WorthOut']; machine_id: string } =
    $props();

  let cheap = $state.raw<Schemas['CheapOut'][]>([]);
  let repair = $state({ cost: '', minutes: 30, adds_years: 3 });
  const weighed = $derived(costs.weighed);
  const about = (cents: number) => estimate(cents, worth.currency);

  async function weigh(event: SubmitEvent) {
    event.preventDefault();
    const start = await startOf(machine_id);
    cheap = start.status === 'ok' ? start.data.cheap : [];
    const { cost, minutes, adds_years } = repair;
    await costs.weigh({ cost: Math.round(Number(cost) * 100), minutes, adds_years });
  }
</script>

<div>
  <h3 class="mb-1 font-extrabold">Repair, or a new machine?</h3>
  {#if worth.told.price_new === null}
    <p class="soft">Tell what a new one costs first.</p>
  {:else}
    <form class="grid grid-cols-[repeat(auto-fit,minmax(11rem,1fr))] items-end gap-3" onsubmit={weigh}>
      <Field
        label={`The repair costs (${worth.currency})`}
        type="number"
        step="0.01"
        min="0"
        required
        bind:value={repair.cost}
      />
      <Field
        label="Minutes"
        type="number"
        of="RepairIn"
        name="minutes"
        required
        bind:value={repair.minutes}
      />
      <Field
        label="It then serves (years)"
        type="number"
        of="RepairIn"
        name="adds_years"
        required
        bind:value={repair.adds_years}
      />
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
        The repair about {about(weighed.repair_a_year)} a year, a new one {about(weighed.new_a_year)}. At {figure(
          worth.age_years,
        )} years it is still worth about {about(weighed.worth_left)}; {figure(weighed.years_left)} years are to
        be expected. Hidden dirt often is the only cause. A new one also throws this one away whole, which no figure
        here counts.
      </p>
      <CheapFirst {machine_id} {cheap} />
    {/if}
  {/if}
</div>
