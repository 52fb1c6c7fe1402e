<!-- Leaving a step out, with a reason. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import Modal from '../../lib/ui/Modal.svelte';
  import { short } from '../../lib/words/steps';
  import Field from '../../lib/ui/Field.svelte';

  let {
    step,
    onclose,
    onskip,
  }: { step: Schemas['StepOut']; onclose: () => void; onskip: (why: string) => void } = $props();

  let reason = $state('');
  function onsubmit(event: SubmitEvent) {
    event.preventDefault();
    onskip(reason);
  }
</script>

<Modal title={`Skip: ${short(step)}`} {onclose}>
  <form class="grid gap-3" {onsubmit}>
    <Field
      label="Why?"
      bind:value={reason}
      of="AnswerIn"
      name="reason"
      required
      placeholder="no time, no water, part missing…"
    />
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Do it after all</button>
      <button class="btn btn-primary">Skip it</button>
    </div>
  </form>
</Modal>
