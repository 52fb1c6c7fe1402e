<!-- After a new part went in: whether it fits as the old one did. The Shelf keeps it, and never counts what does not. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, client, type Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { notice } from '../../lib/state/notice.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Field from '../../lib/ui/Field.svelte';

  let { machine_id, slot, name }: { machine_id: string; slot: string; name: string } = $props();

  /** Null where the Shelf keeps no kind of part for this place: nobody is asked then. */
  let numbers = $state.raw<string[] | null>(null);
  let number = $state('');
  let note = $state('');
  let answered = $state(false);
  let busy = $state(false);

  $effect(() => {
    const params = { path: { machine_id } };
    untrack(
      () =>
        void ask(client.GET('/api/machines/{machine_id}/prices', { params })).then((answer) => {
          numbers = answer.ok ? (answer.data.numbers[slot] ?? null) : null;
          number = numbers?.length === 1 ? (numbers[0] ?? '') : '';
        }),
    );
  });
  async function tell(check: Schemas['FitCheck']) {
    busy = true;
    const answer = await ask(
      client.POST('/api/machines/{machine_id}/parts/{slot}/fit', {
        params: { path: { machine_id, slot } },
        body: { number: number.trim(), check, note, maker: false },
      }),
    );
    busy = false;
    if (!answer.ok) return notice.refused(answer.problem);
    answered = true;
    notice.done(`${number.trim()}: kept on the Shelf.`, () => house.undo(answer.data.entry_id));
  }
  const locked = $derived(busy || !session.mayWrite || !number.trim());
</script>

{#if numbers && !answered}
  <section class="panel mt-4 grid gap-3 p-4" aria-label={`Did it fit: ${name}`}>
    <h2 class="text-lg font-extrabold">{name}: does the new one fit as the old one did?</h2>
    <label class="grid gap-1"
      >Its number <input class="input w-56" list={`numbers-${slot}`} bind:value={number} maxlength="40" />
      <datalist id={`numbers-${slot}`}
        >{#each numbers as one (one)}<option value={one}></option>{/each}</datalist
      >
    </label>
    <Field label="What is otherwise, if anything" bind:value={note} maxlength={200} />
    <div class="flex flex-wrap gap-2">
      <button class="btn" disabled={locked} onclick={() => void tell('fits')}>It fits</button>
      <button class="btn" disabled={locked || !note.trim()} onclick={() => void tell('differs')}
        >Looks otherwise, does the job</button
      >
      <button class="btn" disabled={locked || !note.trim()} onclick={() => void tell('no')}
        >It does not fit</button
      >
      <button class="btn btn-ghost" onclick={() => (answered = true)}>Leave it</button>
    </div>
  </section>
{/if}
