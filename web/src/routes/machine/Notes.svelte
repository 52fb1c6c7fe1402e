<!-- Own notes and photos: of this part, and of the machine. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { NotesState, pictureOf } from '../../lib/state/notes.svelte';
  import Loaded from '../../lib/ui/Loaded.svelte';
  import Panel from '../../lib/ui/Panel.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { day } from '../../lib/words/format';
  import AddNote from './AddNote.svelte';

  let {
    machine_id,
    slot,
    slot_name,
    mayWrite,
  }: { machine_id: string; slot: string; slot_name: string; mayWrite: boolean } = $props();

  const notes = $derived(new NotesState(machine_id));
  let adding = $state(false);
  let removing = $state.raw<Schemas['NoteOut'] | null>(null);
  let shown = $state.raw<Schemas['NoteOut'] | null>(null);

  $effect(() => {
    const now = notes;
    untrack(() => void now.refresh());
  });
  const all = $derived(notes.load.status === 'ok' ? notes.load.data : []);
  const here = $derived(all.filter((note) => note.slot === slot || note.slot === ''));
  const elsewhere = $derived(all.length - here.length);

  async function remove() {
    if (removing) await notes.remove(removing);
    removing = null;
  }
</script>

<Panel title="Notes and photos">
  {#snippet beside()}
    <button class="btn btn-sm" disabled={!mayWrite} onclick={() => (adding = true)}>Add…</button>
  {/snippet}
  <Loaded load={notes.load} what="Looking for notes" retry={() => void notes.refresh()}>
    {#if here.length === 0}
      <p class="soft">
        None{elsewhere
          ? ` here; ${elsewhere} with other parts`
          : ' yet. A photo of how it sits saves a search later'}.
      </p>
    {:else}
      <ul class="grid grid-cols-[repeat(auto-fill,minmax(min(16rem,100%),1fr))] gap-3">
        {#each here as note (note.entry_id)}
          <li class="panel p-2">
            {#if note.width}
              <button class="block w-full cursor-zoom-in" onclick={() => (shown = note)}>
                <img
                  class="w-full h-auto rounded-[0.4rem]"
                  src={pictureOf(note)}
                  width={note.width}
                  height={note.height}
                  loading="lazy"
                  alt={note.text || `Photo of ${note.slot ? slot_name : 'the machine'}`}
                />
              </button>
            {/if}
            {#if note.text}<p class="px-1 pt-1 whitespace-pre-line">{note.text}</p>{/if}
            <p class="soft flex items-center justify-between px-1 text-sm">
              {day(note.day)}{note.by ? `, ${note.by}` : ''}{note.slot ? '' : ', whole machine'}
              {#if mayWrite}<button class="btn btn-ghost btn-xs" onclick={() => (removing = note)}
                  >Remove…</button
                >{/if}
            </p>
          </li>
        {/each}
      </ul>
    {/if}
  </Loaded>
</Panel>

{#if adding}
  <AddNote {notes} {slot} about={slot_name} onclose={() => (adding = false)} />
{/if}
{#if removing}
  <Modal title="Remove this note?" onclose={() => (removing = null)}>
    <p>{removing.width ? 'The photo goes with it.' : removing.text}</p>
    <div class="mt-4 flex justify-end gap-2">
      <button class="btn btn-ghost" onclick={() => (removing = null)}>Keep it</button>
      <button class="btn btn-error" disabled={house.busy} onclick={() => void remove()}>Remove it</button>
    </div>
  </Modal>
{/if}
{#if shown}
  <Modal title={shown.text || `${slot_name}, ${day(shown.day)}`} onclose={() => (shown = null)}>
    <img
      class="w-full h-auto rounded-[0.4rem]"
      src={pictureOf(shown)}
      width={shown.width}
      height={shown.height}
      alt={shown.text || slot_name}
    />
  </Modal>
{/if}
