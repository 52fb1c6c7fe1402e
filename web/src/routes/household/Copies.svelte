<!-- Copies of the whole installation: made, looked into, taken away, restored and that undone. -->
<script lang="ts">
  import { CopiesState } from '../../lib/state/data.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Loaded from '../../lib/ui/Loaded.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Panel from '../../lib/ui/Panel.svelte';
  import Row from '../../lib/ui/Row.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import { sizeWords } from '../../lib/words/data';
  import { clockTime, fullDay, listed, plural } from '../../lib/words/format';

  const copies = new CopiesState();
  void copies.refresh();
  let asking = $state<string | null>(null);

  async function restore(name: string) {
    const done = await copies.restore(name);
    asking = null;
    if (done) await copies.refresh();
  }
  const when = (at: string) => `${fullDay(at)}, ${clockTime(at, session.member?.time_zone)}`;
</script>

<Panel title="Copies of everything">
  <p class="soft mb-2">
    For you alone, who looks after this installation: a copy holds every household that it has.
  </p>
  {#if copies.problem}<div class="mb-3"><Trouble problem={copies.problem} /></div>{/if}
  {#if copies.before}
    <div class="mb-3 grid gap-2" role="status">
      <p class="font-bold">Restored. Load the page anew to see it.</p>
      <p>What was there before is kept as the copy of {when(copies.before.at)}: restoring that undoes it.</p>
      <p><button class="btn btn-primary" onclick={() => location.reload()}>Load the page anew</button></p>
    </div>
  {/if}
  <Loaded load={copies.load} what="Looking for copies" retry={() => void copies.refresh()}>
    {#snippet children(all)}
      <p class="mb-2 flex flex-wrap items-center gap-3">
        <button class="btn" disabled={copies.busy} onclick={() => void copies.make()}>Make one now</button>
        <span class="soft"
          >{all.nightly ? 'One is made each night' : 'The demo makes none by itself'}; kept in
          <code>{all.folder}</code></span
        >
      </p>
      {#each all.copies as copy (copy.name)}
        <Row
          open={copies.open?.name === copy.name}
          ontoggle={() => void copies.look(copy.name)}
          end={sizeWords(copy.size)}
        >
          {#snippet line()}{when(copy.at)}{/snippet}
          {#if copies.open}
            <p>
              {listed(
                copies.open.inside.households.map(
                  (one) => `${one.name} (${plural(one.machines, 'machine')})`,
                ),
              ) || 'No household'}; {plural(copies.open.inside.records, 'record')}{copies.open.inside
                .last_record
                ? `, the last of ${fullDay(copies.open.inside.last_record)}`
                : ''}.
            </p>
            <p class="mt-2 flex flex-wrap gap-2">
              <button class="btn" onclick={() => (asking = copy.name)}>Restore it…</button>
              <a class="btn" href={`/api/copies/${copy.name}/file`} download>Take it away</a>
            </p>
          {/if}
        </Row>
      {:else}
        <p class="soft">None yet.</p>
      {/each}
    {/snippet}
  </Loaded>
</Panel>
{#if asking}
  {@const name = asking}
  <Modal title="Put this copy in the place of everything?" onclose={() => (asking = null)}>
    <p>
      Every household goes back to what it was then; what was recorded since is not there any more. It is
      copied first, so that you can undo it. Everybody may have to sign in again.
    </p>
    <div class="mt-4 flex justify-end gap-2">
      <button class="btn btn-ghost" onclick={() => (asking = null)}>Leave it</button>
      <button class="btn btn-primary" disabled={copies.busy} onclick={() => void restore(name)}
        >{copies.busy ? 'Restoring…' : 'Restore it'}</button
      >
    </div>
  </Modal>
{/if}
