<!-- A machine that cannot be worked out: which record keeps it from that, and the way to take it back. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { fullDay } from '../../lib/words/format';
  import { ENTRY } from '../../lib/words/entries';

  let { fault, mayWrite }: { fault: Schemas['MachineAtFaultOut']; mayWrite: boolean } = $props();

  const entry = $derived(fault.entry);
</script>

<div class="panel flex flex-wrap items-center gap-4 border-l-4 border-l-error p-4" role="alert">
  <div class="min-w-0 grow">
    <p class="font-bold">{fault.machine_name} cannot be worked out; the other machines are shown.</p>
    {#if entry}
      <p class="mt-1">
        The record “{ENTRY[entry.kind] ?? entry.kind}” of {fullDay(entry.at.slice(0, 10))}{entry.by
          ? `, recorded by ${entry.by},`
          : ''} keeps it from that.
      </p>
    {:else}
      <p class="mt-1">
        No single record is at fault. The terminal that runs Yperon says more: {fault.detail}
      </p>
    {/if}
  </div>
  {#if entry}
    <button class="btn" disabled={!mayWrite || house.busy} onclick={() => void house.undo(entry.entry_id)}
      >Undo that record</button
    >
  {/if}
</div>
