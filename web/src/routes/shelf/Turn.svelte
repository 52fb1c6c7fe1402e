<!-- One from the shelf takes turns with the part in a machine: where, and what it is called. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Kind, ShelfState } from '../../lib/state/shelf.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Field from '../../lib/ui/Field.svelte';

  let { stock, kind, onclose }: { stock: ShelfState; kind: Kind; onclose: () => void } = $props();

  const LETTERS = 'ABCDEFG';
  let which = $state(0);
  const place = $derived(kind.places[which] ?? kind.places[0]);
  let name = $state(
    untrack(
      () => `${kind.places[0]?.slot_name ?? 'Part'} ${LETTERS[kind.places[0]?.turns_have ?? 1] ?? 'B'}`,
    ),
  );

  async function take(event: SubmitEvent) {
    event.preventDefault();
    if (place && (await stock.turn(kind, place, name))) onclose();
  }
</script>

<Modal title="One more takes turns" {onclose}>
  <form onsubmit={take} class="grid gap-4">
    {#if kind.places.length > 1}
      <label class="grid gap-1"
        >Where <select class="select w-full" bind:value={which}>
          {#each kind.places as one, i (one.machine_id + one.slot)}
            <option value={i}>{one.machine_name}, {one.slot_name.toLowerCase()}</option>
          {/each}
        </select></label
      >
    {/if}
    <Field label="Its name, to write on it" bind:value={name} of="TurnIn" name="name" required />
    <p class="soft">
      It leaves the shelf and lies ready for {place?.machine_name}. Mark the parts, so that each keeps its own
      clock.
    </p>
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={stock.busy}>Let it take turns</button>
    </div>
  </form>
</Modal>
