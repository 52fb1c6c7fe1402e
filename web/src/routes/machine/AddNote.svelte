<!-- A note in one's own words, with a photo if one likes: of a part, or of the whole machine. -->
<script lang="ts">
  import { house } from '../../lib/state/house.svelte';
  import type { NotesState } from '../../lib/state/notes.svelte';
  import Modal from '../../lib/ui/Modal.svelte';

  let {
    notes,
    slot,
    about,
    onclose,
  }: { notes: NotesState; slot: string; about: string; onclose: () => void } = $props();

  let text = $state('');
  let picture = $state.raw<File | null>(null);
  let whole = $state(false);

  async function add(event: SubmitEvent) {
    event.preventDefault();
    if (await notes.add(whole ? '' : slot, text, picture)) onclose();
  }
</script>

<Modal title={whole || !slot ? 'A note on the machine' : `A note on: ${about}`} {onclose}>
  <form class="grid gap-3" onsubmit={add}>
    <label class="grid gap-1"
      >In your words <textarea class="textarea w-full" rows="3" maxlength="1000" bind:value={text}
      ></textarea></label
    >
    <label class="grid gap-1"
      >A photo, if you like
      <input
        class="file-input w-full"
        type="file"
        accept="image/*"
        onchange={(e) => (picture = e.currentTarget.files?.[0] ?? null)}
      /></label
    >
    <p class="soft text-sm">
      It is made smaller and turned upright; where and with what it was taken is left out.
    </p>
    {#if slot}
      <label class="flex items-center gap-2"
        ><input type="checkbox" class="checkbox" bind:checked={whole} />It is about the whole machine</label
      >
    {/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={house.busy || (!text.trim() && !picture)}>Keep it</button>
    </div>
  </form>
</Modal>
