<!-- On the way: a note, a photo of how it sits, or wear that was found. Kept with the part at once. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { NotesState } from '../../lib/state/notes.svelte';
  import Modal from '../../lib/ui/Modal.svelte';

  let { step, onclose, onkept }: { step: Schemas['StepOut']; onclose: () => void; onkept: () => void } =
    $props();

  let text = $state('');
  let picture = $state.raw<File | null>(null);
  let worn = $state<Schemas['Found'] | null>(null);
  const notes = $derived(new NotesState(step.machine_id));
  const about = $derived(step.slot_name ?? step.machine_name);
  const looks: Schemas['Found'][] = ['light', 'due', 'overdue'];

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    if ((text.trim() || picture) && !(await notes.add(step.slot ?? '', text, picture))) return;
    [text, picture] = ['', null];
    if (worn && step.slot) {
      const look = { slot: step.slot, about: 'replace' as const, found: worn };
      if (!(await house.look(step.machine_id, look, `${about}: its wear is noted.`))) return;
    }
    onkept();
    onclose();
  }
</script>

<Modal title={`Found on: ${about}`} {onclose}>
  <form class="grid gap-4" onsubmit={keep}>
    {#if step.worn_words}
      <fieldset class="grid gap-1">
        <legend class="mb-1 font-bold">Is something wrong with it?</legend>
        <p class="soft mb-1 text-sm">
          What looks broken may only be bent: ease it straight first. Bent and firm serves on; loose, cracked
          or missing is replaced.
        </p>
        <label class="flex items-center gap-3 min-h-11 cursor-pointer"
          ><input
            type="radio"
            class="radio"
            name="worn"
            checked={worn === null}
            onchange={() => (worn = null)}
          />
          Nothing to tell</label
        >
        {#each looks as one (one)}
          <label class="flex items-center gap-3 min-h-11 cursor-pointer"
            ><input
              type="radio"
              class="radio"
              name="worn"
              checked={worn === one}
              onchange={() => (worn = one)}
            />
            {step.worn_words[one]}</label
          >
        {/each}
      </fieldset>
    {/if}
    <label class="grid gap-1"
      >A photo of how it sits, shown again when it goes back
      <input
        class="file-input w-full"
        type="file"
        accept="image/*"
        capture="environment"
        onchange={(e) => (picture = e.currentTarget.files?.[0] ?? null)}
      /></label
    >
    <label class="grid gap-1"
      >In your words <textarea class="textarea w-full" rows="2" maxlength="1000" bind:value={text}
      ></textarea></label
    >
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={house.busy || (!text.trim() && !picture && !worn)}
        >Keep it</button
      >
    </div>
  </form>
</Modal>
