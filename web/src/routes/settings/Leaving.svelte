<!-- A machine goes: for a while or for good, and what becomes of its spares. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import type { MachineSetup } from '../../lib/state/machineSetup.svelte';
  import Choice from '../../lib/ui/Choice.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { STATUS } from '../../lib/words/tasks';
  import CheapFirst from '../faults/CheapFirst.svelte';

  let {
    data,
    setup,
    cheap,
    onclose,
  }: {
    data: Schemas['SetupOut'];
    setup: MachineSetup;
    cheap: Schemas['CheapOut'][];
    onclose: () => void;
  } = $props();

  const spares = $derived(
    data.parts.flatMap((part) =>
      part.items.filter((item) => ['ready', 'drying', 'washed'].includes(item.state)),
    ),
  );
  let status = $state<Schemas['StatusIn']['status']>('archived');
  let keep = $state<string[]>([]);

  async function leave(event: SubmitEvent) {
    event.preventDefault();
    const text = `${data.name} is ${STATUS[status]}. Its history stays; one undo takes it back.`;
    if (await setup.status(status, keep, text)) {
      onclose();
      await push('/machines');
    }
  }
</script>

<Modal title={`${data.name} goes`} {onclose}>
  <form class="grid gap-4" onsubmit={leave}>
    <Choice
      legend="Where to?"
      options={[
        ['archived', 'put away'],
        ['lent', 'lent'],
        ['sold', 'sold or given away'],
      ]}
      value={status}
      onchoose={(value) => (status = value)}
    />
    <p class="soft">
      It leaves the board and nothing is taken as run meanwhile. Every record stays under Machines, “Not in
      use”.
    </p>
    {#if status !== 'lent'}<CheapFirst machine_id={data.id} {cheap} />{/if}
    {#if status === 'sold' && spares.length}
      <fieldset class="grid gap-1">
        <legend class="mb-1 font-bold">Its spares go with it. Which stay?</legend>
        {#each spares as item (item.id)}
          <label class="flex items-center gap-2"
            ><input type="checkbox" class="checkbox" value={item.id} bind:group={keep} />{item.name}</label
          >
        {/each}
      </fieldset>
    {/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>It stays</button>
      <button class="btn btn-primary" disabled={house.busy}>It is {STATUS[status]}</button>
    </div>
  </form>
</Modal>
