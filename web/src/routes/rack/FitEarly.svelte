<!-- A person's decision to fit a part before it is dry, with the reason that stays on record. -->
<script lang="ts">
  import { house } from '../../lib/state/house.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Field from '../../lib/ui/Field.svelte';

  let { item, onclose }: { item: { id: string; name: string }; onclose: () => void } = $props();

  let reason = $state('');

  async function fit(event: SubmitEvent) {
    event.preventDefault();
    const text = `${item.name} is fitted before it was dry. That is on record.`;
    if (await house.fit(item, reason, text)) onclose();
  }
</script>

<Modal title={`Fit ${item.name} before it is dry?`} {onclose}>
  <p>
    A damp filter takes water into the motor, brings error messages and grows mildew. It is better to wait. If
    you must, say why: it stays on record.
  </p>
  <form class="mt-3 grid gap-3" onsubmit={fit}>
    <Field label="Reason" bind:value={reason} of="FitIn" name="early_reason" required />
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-primary" onclick={onclose}>Leave it to dry</button>
      <button class="btn btn-error btn-outline" disabled={house.busy}>Fit it damp</button>
    </div>
  </form>
</Modal>
