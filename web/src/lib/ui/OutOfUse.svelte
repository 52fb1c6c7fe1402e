<!-- A danger at a machine: what to do at once, who may put it right, and the one way back into use. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { house } from '../state/house.svelte';
  import { session } from '../state/session.svelte';
  import { dayAndTime } from '../words/format';
  import Modal from './Modal.svelte';

  let { machine, danger }: { machine: { id: string; name: string }; danger: Schemas['DangerOut'] } = $props();

  let asking = $state(false);

  async function over() {
    const text = `${machine.name} is in use again: ${danger.over.toLowerCase()}.`;
    if (await house.danger(machine.id, { danger: danger.key, over: true }, text)) asking = false;
  }
</script>

<section
  class="panel flex flex-wrap items-center gap-4 p-4 border-l-6 border-l-error"
  role="alert"
  aria-label={`${machine.name} is out of use`}
>
  <div class="min-w-0 grow">
    <h2>{machine.name} is out of use: {danger.name}.</h2>
    <p class="mt-1 font-bold">{danger.now}</p>
    <p>{danger.who}</p>
    <p class="soft mt-1 text-sm">
      Told {dayAndTime(danger.since, session.member?.time_zone)}{danger.by ? ` by ${danger.by}` : ''}. Until
      it is put right, it is neither run nor worked on.
    </p>
  </div>
  {#if session.mayWrite}
    <div class="flex flex-wrap gap-2">
      <button class="btn" disabled={house.busy} onclick={() => (asking = true)}>It is put right…</button>
      <button class="btn btn-ghost" disabled={house.busy} onclick={() => void house.undo(danger.entry_id)}
        >Told by mistake</button
      >
    </div>
  {/if}
</section>
{#if asking}
  <Modal title={`${machine.name}: back into use?`} onclose={() => (asking = false)}>
    <p>Only if this is so:</p>
    <p class="mt-2 text-lg font-bold">{danger.over}.</p>
    <div class="mt-4 flex flex-wrap justify-end gap-2">
      <button class="btn btn-ghost" onclick={() => (asking = false)}>No, it stays out of use</button>
      <button class="btn btn-primary" disabled={house.busy} onclick={() => void over()}>It is so</button>
    </div>
  </Modal>
{/if}
