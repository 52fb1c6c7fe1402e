<!-- "Not now": a due task waits until a day, with a reason that stays beside it. -->
<script lang="ts">
  import { bounds } from '../../lib/api/bounds';
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { day as dayWords, daysAfter } from '../../lib/words/format';
  import { doWord } from '../../lib/words/tasks';

  let { task, today, onclose }: { task: Schemas['TaskOut']; today: string; onclose: () => void } = $props();

  const REASONS = [
    'no time this week',
    'waiting for the part',
    'somebody else will do it',
    'it still works well',
  ];
  // svelte-ignore state_referenced_locally
  let until = $state(daysAfter(today, 7));
  let reason = $state('');

  async function wait(event: SubmitEvent) {
    event.preventDefault();
    const text = `${task.slot_name}: waits until ${dayWords(until)}.`;
    const { slot, action } = task;
    if (await house.putOff(task.machine_id, { slot, action, until, reason }, text)) onclose();
  }
</script>

<Modal title={`${task.slot_name}: ${doWord(task.action)}, but not now`} {onclose}>
  <form class="grid gap-4" onsubmit={wait}>
    <fieldset>
      <legend class="mb-1 font-bold">Until when?</legend>
      <div class="flex flex-wrap items-center gap-2">
        {#each [{ n: 3, text: 'In 3 days' }, { n: 7, text: 'In a week' }, { n: 14, text: 'In two weeks' }] as { n, text } (n)}
          <button
            type="button"
            class={['btn', until === daysAfter(today, n) && 'btn-active']}
            aria-pressed={until === daysAfter(today, n)}
            onclick={() => (until = daysAfter(today, n))}>{text}</button
          >
        {/each}
        <label class="input w-44"
          ><span class="sr-only">Until another day</span><input
            type="date"
            {...bounds('WaitIn', 'until')}
            min={daysAfter(today, 1)}
            bind:value={until}
            required
          /></label
        >
      </div>
    </fieldset>
    <fieldset>
      <legend class="mb-1 font-bold">Why?</legend>
      <div class="mb-2 flex flex-wrap gap-2">
        {#each REASONS as text (text)}
          <button
            type="button"
            class={['btn btn-sm', reason === text && 'btn-active']}
            aria-pressed={reason === text}
            onclick={() => (reason = text)}>{text}</button
          >
        {/each}
      </div>
      <label class="grid gap-1 text-sm"
        >In your words <input
          class="input w-full"
          {...bounds('WaitIn', 'reason')}
          bind:value={reason}
          required
        /></label
      >
    </fieldset>
    {#if task.stake <= 2}
      <p class="ink-due">This one guards {task.stake === 1 ? 'you' : 'the motor'}: sooner is better.</p>
    {/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={house.busy || !reason.trim()}>Let it wait</button>
    </div>
  </form>
</Modal>
