<!-- What comes round in one go: each task by itself, or together at an interval of the household's own; and kits. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Panel from '../../lib/ui/Panel.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { daysWords, plural } from '../../lib/words/format';
  import Field from '../../lib/ui/Field.svelte';

  let {
    machine_id,
    together,
    onplan,
  }: {
    machine_id: string;
    together: Schemas['OneGoOut'][];
    onplan: (key: string) => void;
  } = $props();

  let taking = $state.raw<Schemas['OneGoOut'] | null>(null);
  let days = $state<number | null>(null);
  const shown = $derived(together.filter((one) => one.is_round || one.is_kit));
  const locked = $derived(!session.mayWrite || house.busy);

  function ask(one: Schemas['OneGoOut']) {
    taking = one;
    days = one.days ?? one.high;
  }
  async function take(event: SubmitEvent) {
    event.preventDefault();
    if (!taking || days === null) return;
    const text = `${taking.name}: together every ${plural(days, 'day')}.`;
    if (await house.keepRound(machine_id, taking.key, days, text)) taking = null;
  }
</script>

{#if shown.length}
  <Panel title="In one go">
    <ul class="grid grid-cols-[repeat(auto-fit,minmax(min(24rem,100%),1fr))] gap-x-8 gap-y-4">
      {#each shown as one (one.key)}
        <li data-round={one.key}>
          <p>
            <b>{one.is_kit ? `Kit: ${one.name}` : one.name}</b>
            {#if one.days}<span class="ink-drying font-bold"
                >every {plural(one.days, 'day')} of usual use</span
              >
            {:else}<span class="soft">usually every {daysWords(one.low, one.high)}; here each by itself</span
              >{/if}
          </p>
          <p class="soft text-sm">
            {one.is_kit ? `Renews ${one.parts.join(', ').toLowerCase()}; one undo takes it back.` : one.why}
            {#if one.days && one.sooner.length}
              Sooner than that, as the book guards them: {one.sooner.join(', ').toLowerCase()}.
            {/if}
          </p>
          <div class="mt-1 flex flex-wrap gap-2">
            {#if one.is_kit}
              <button
                class="btn btn-sm"
                disabled={locked}
                onclick={() => void house.renewKit(machine_id, one)}>The kit was renewed today</button
              >
            {:else}
              <button class="btn btn-sm" disabled={!session.mayWrite} onclick={() => onplan(one.key)}
                >Plan it now</button
              >
            {/if}
            <button class="btn btn-sm btn-ghost" disabled={locked} onclick={() => ask(one)}
              >{one.days ? 'Another interval…' : 'Together from now on…'}</button
            >
            {#if one.days}
              <button
                class="btn btn-sm btn-ghost"
                disabled={locked}
                onclick={() =>
                  void house.keepRound(machine_id, one.key, null, `${one.name}: each by itself again.`)}
                >Each by itself again</button
              >
            {/if}
          </div>
        </li>
      {/each}
    </ul>
  </Panel>
{/if}
{#if taking}
  <Modal title={`${taking.name}: together`} onclose={() => (taking = null)}>
    <form class="grid gap-3" onsubmit={take}>
      <p>
        {taking.parts.join(', ')}: their dates become one. What the book guards keeps its own figure where
        that is shorter; figures that you set yourself stay.
      </p>
      <Field
        label="Every so many days of usual use"
        class="input w-32"
        type="number"
        step="1"
        of="RoundIn"
        name="days"
        bind:value={days}
        required
      />
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-ghost" onclick={() => (taking = null)}>Cancel</button>
        <button class="btn btn-primary" disabled={house.busy}>Together from now on</button>
      </div>
    </form>
  </Modal>
{/if}
