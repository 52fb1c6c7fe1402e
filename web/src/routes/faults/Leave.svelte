<!-- Closing a case: settled, at once; on the way, with a reason. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import type { SearchState } from '../../lib/state/faults.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import Field from '../../lib/ui/Field.svelte';

  let { search, onclose }: { search: SearchState; onclose: () => void } = $props();

  let reason = $state('');
  const settled = $derived(search.case?.settled ?? false);

  async function close(event: SubmitEvent) {
    event.preventDefault();
    if (await search.close(reason)) onclose();
  }
  async function rest() {
    onclose();
    await push('/faults');
  }
</script>

<Modal title="Close the case" {onclose}>
  <form class="grid gap-4" onsubmit={close}>
    {#if search.problem}<Trouble problem={search.problem} />{/if}
    {#if !settled}
      <p>
        It is not settled: nothing was tried after the work. It can also rest, and be taken up on another
        device.
      </p>
      <Field label="Why does it end here?" of="CloseIn" name="reason" bind:value={reason} />
    {/if}
    <div class="flex flex-wrap justify-end gap-2">
      {#if !settled}<button type="button" class="btn" onclick={() => void rest()}>Let it rest</button>{/if}
      <button class="btn btn-primary" disabled={search.busy || (!settled && !reason.trim())}>Close it</button>
    </div>
  </form>
</Modal>
