<!-- What the machine's own counter says of a part: percent or hours, left or used. -->
<script lang="ts">
  import { bounds } from '../api/bounds';
  import type { Schemas } from '../api/client';
  import { house } from '../state/house.svelte';
  import Modal from './Modal.svelte';

  let { machine_id, part, onclose }: { machine_id: string; part: Schemas['PartOut']; onclose: () => void } =
    $props();

  let value = $state<number | null>(null);
  let unit = $state<Schemas['CounterIn']['unit']>('percent');
  let sense = $state<Schemas['CounterIn']['sense']>('left');

  async function record(event: SubmitEvent) {
    event.preventDefault();
    if (value === null) return;
    const text = `${part.name}: the machine says ${value} ${unit === 'percent' ? '%' : 'h'} ${sense}.`;
    if (await house.readCounter(machine_id, { slot: part.slot, value, unit, sense }, text)) onclose();
  }
</script>

<Modal title={`${part.name}: what does the machine's own list say?`} {onclose}>
  <form class="grid gap-4" onsubmit={record}>
    <div class="flex flex-wrap items-end gap-2">
      <label class="grid gap-1"
        >It says <input
          class="input w-28"
          type="number"
          step="any"
          {...bounds('CounterIn', 'value')}
          bind:value
          required
        /></label
      >
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
    </div>
    <p class="soft">
      We count on from the machine's figure. If it looks as if it was set back after a mere cleaning, ours
      counts on instead, and the part's reasons say so.
    </p>
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={house.busy}>Record it</button>
    </div>
  </form>
</Modal>
