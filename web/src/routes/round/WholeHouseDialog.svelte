<!-- What concerns all machines at once: everybody away, a time of more load than usual. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import Modal from '../../lib/ui/Modal.svelte';

  let { today, onclose }: { today: string; onclose: () => void } = $props();

  // svelte-ignore state_referenced_locally
  let first = $state(today);
  let last = $state('');
  let kind = $state<Schemas['LoadKind']>('hair');
  let note = $state('');
  let from = $state('');
  let until = $state('');

  async function away(event: SubmitEvent) {
    event.preventDefault();
    const text = 'Everybody is away: nothing is assumed to run meanwhile.';
    if (await house.rest({ why: 'away', first, last: last || null }, text)) onclose();
  }
  async function load(event: SubmitEvent) {
    event.preventDefault();
    const text = 'Noted: runs of that time count for more.';
    if (await house.moreLoad({ kind, first: from, last: until, level: 1, note }, text)) onclose();
  }
</script>

<Modal title="The whole house" {onclose}>
  <form class="grid gap-2" onsubmit={away}>
    <p class="font-bold">Everybody is away</p>
    <div class="grid grid-cols-2 gap-2">
      <Field label="From" type="date" of="RestIn" name="first" required bind:value={first} />
      <Field label="Until, if known" type="date" of="RestIn" name="last" bind:value={last} />
    </div>
    <button class="btn btn-primary" disabled={house.busy}>We are away</button>
  </form>
  <form class="mt-5 grid gap-2 border-t border-base-300 pt-4" onsubmit={load}>
    <p class="font-bold">More load than usual</p>
    <label class="text-sm"
      >What of
      <select class="select w-full" bind:value={kind}>
        <option value="hair">hair: an animal moults, guests with long hair</option>
        <option value="dust">fine dust: building work, sanding, ash from next door</option>
        <option value="volume">everything: a visit, a party, a move</option>
      </select></label
    >
    <div class="grid grid-cols-2 gap-2">
      <Field label="From" type="date" of="MoreLoadIn" name="first" required bind:value={from} />
      <Field label="Until" type="date" of="MoreLoadIn" name="last" required bind:value={until} />
    </div>
    <Field label="In your words" of="MoreLoadIn" name="note" bind:value={note} />
    <button class="btn" disabled={house.busy}>Count it</button>
  </form>
</Modal>
