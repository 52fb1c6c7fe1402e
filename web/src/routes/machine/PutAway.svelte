<!-- The machines that are not in use: their history, and the way back. -->
<script lang="ts">
  import { onMount } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { MachineSetup, putAway } from '../../lib/state/machineSetup.svelte';
  import { STATUS } from '../../lib/words/tasks';

  let { mayWrite }: { mayWrite: boolean } = $props();

  let machines = $state.raw<Schemas['PutAwayOut'][]>([]);
  async function load() {
    const answer = await putAway();
    if (answer.ok) machines = answer.data;
  }
  onMount(() => void load());

  async function back(machine: Schemas['PutAwayOut']) {
    await new MachineSetup(machine.id).status('in_use', [], `${machine.name} is in use again.`);
    await load();
  }
</script>

{#if machines.length}
  <details class="panel p-3">
    <summary class="cursor-pointer"><b>Not in use: {machines.length}</b></summary>
    <ul>
      {#each machines as machine (machine.id)}
        <li class="flex flex-wrap items-center justify-between gap-2 py-1">
          <span
            ><a class="link" href={`#/machines/${machine.id}`}>{machine.name}</a>
            <span class="soft">{machine.kind}, {STATUS[machine.status]}</span></span
          >
          <button class="btn btn-sm" disabled={!mayWrite || house.busy} onclick={() => void back(machine)}
            >Back in use</button
          >
        </li>
      {/each}
    </ul>
  </details>
{/if}
