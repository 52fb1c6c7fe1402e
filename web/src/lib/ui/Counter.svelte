<!-- What the machine's own counter says of a part: percent or hours, left or used. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { house } from '../state/house.svelte';
  import { notice } from '../state/notice.svelte';
  import { figure } from '../words/format';
  import Modal from './Modal.svelte';
  import Field from './Field.svelte';

  let { machine_id, part, onclose }: { machine_id: string; part: Schemas['PartOut']; onclose: () => void } =
    $props();

  let day = $state('');
  /** Both figures, where the machine's is so far from ours that somebody has to say which counts on. */
  let apart = $state<{ counter_h: number; ours_h: number; of_life: boolean } | null>(null);
  let value = $state<number | null>(null);
  let unit = $state<Schemas['CounterIn']['unit']>('percent');
  let sense = $state<Schemas['CounterIn']['sense']>('left');

  function record(event: SubmitEvent) {
    event.preventDefault();
    void send(null);
  }
  async function send(trusted: boolean | null) {
    if (value === null) return;
    const text = `${part.name}: the machine says ${value} ${unit === 'percent' ? '%' : 'h'} ${sense}.`;
    const counter = { slot: part.slot, value, unit, sense, day: day || null, trusted };
    if (await house.readCounter(machine_id, counter, text)) return onclose();
    const both = notice.problem?.field === 'trusted' ? notice.problem.values : null;
    if (both) notice.close(); // the question below says it
    apart = both && {
      counter_h: Number(both.counter_h),
      ours_h: Number(both.ours_h),
      of_life: Boolean(both.of_life),
    };
  }
</script>

<Modal title={`${part.name}: what does the machine's own list say?`} {onclose}>
  <form class="grid gap-4" onsubmit={record}>
    <div class="flex flex-wrap items-end gap-2">
      <Field
        label="It says"
        class="input w-28"
        type="number"
        of="CounterIn"
        name="value"
        bind:value
        oninput={() => (apart = null)}
        required
      />
      <label
        ><span class="sr-only">Unit</span>
        <select class="select" bind:value={unit}
          ><option value="percent">percent</option><option value="hours">hours</option></select
        ></label
      >
      <label
        ><span class="sr-only">Left or used</span>
        <select class="select" bind:value={sense}
          ><option value="left">left</option><option value="used">used</option></select
        ></label
      >
      <Field
        label="Read on, if not today"
        class="input"
        type="date"
        of="CounterIn"
        name="day"
        bind:value={day}
      />
    </div>
    {#if apart}
      <p>
        <b
          >The machine says {figure(apart.counter_h)} h used, we counted {figure(apart.ours_h)} h. Which counts
          on?</b
        >
        {apart.of_life
          ? 'A figure far below ours was often set back after a mere cleaning: then ours counts.'
          : 'If the work was done but not recorded, close this and record it first. If the counter was not set back then, ours counts.'}
      </p>
      <div class="grid gap-2">
        <button type="button" class="btn btn-primary" disabled={house.busy} onclick={() => void send(true)}
          >The machine's: {figure(apart.counter_h)} h</button
        >
        <button type="button" class="btn" disabled={house.busy} onclick={() => void send(false)}
          >Ours: {figure(apart.ours_h)} h</button
        >
      </div>
    {:else}
      <p class="soft">
        We count on from the machine's figure; where it is far from ours, you say which counts.
      </p>
    {/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      {#if !apart}<button class="btn btn-primary" disabled={house.busy}>Record it</button>{/if}
    </div>
  </form>
</Modal>
