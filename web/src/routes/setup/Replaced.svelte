<!-- What becomes of the machine that is replaced: its name, and the spares that stay. -->
<script lang="ts">
  import { onMount } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { MachineSetup } from '../../lib/state/machineSetup.svelte';

  let {
    old,
    keep = $bindable(),
    sameName = $bindable(),
  }: { old: Schemas['StripOut']; keep: string[]; sameName: boolean } = $props();

  // svelte-ignore state_referenced_locally
  const setup = new MachineSetup(old.id);
  const spares = $derived(
    setup.load.status === 'ok'
      ? setup.load.data.parts.flatMap((part) => part.items.filter((item) => item.state === 'ready'))
      : [],
  );
  onMount(async () => {
    await setup.refresh();
    keep = spares.map((item) => item.id);
  });
</script>

<fieldset class="panel grid gap-2 p-3">
  <legend class="sr-only">What becomes of {old.name}</legend>
  <label class="flex items-center gap-2">
    <input type="checkbox" class="checkbox" bind:checked={sameName} />The new one is called {old.name}, too
  </label>
  {#each spares as item (item.id)}
    <label class="flex items-center gap-2">
      <input type="checkbox" class="checkbox" value={item.id} bind:group={keep} />{item.name} stays, for the new
      one if it fits
    </label>
  {/each}
</fieldset>
