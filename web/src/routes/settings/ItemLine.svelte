<!-- One physical part: where it is, and where it may go. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { MachineSetup } from '../../lib/state/machineSetup.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { plural } from '../../lib/words/format';
  import Field from '../../lib/ui/Field.svelte';

  let {
    item,
    part,
    data,
    setup,
    strips,
    mayWrite,
  }: {
    item: Schemas['ItemOut'];
    part: Schemas['SetupPartOut'];
    data: Schemas['SetupOut'];
    setup: MachineSetup;
    strips: Schemas['StripOut'][];
    mayWrite: boolean;
  } = $props();

  const WHERE: Record<string, string> = {
    fitted: 'in the machine',
    ready: 'lies ready',
    drying: 'on the rack',
    washed: 'on the rack',
    off: 'out',
    dry_cleaned: 'out, cleaned',
  };
  const others = $derived(strips.filter((one) => one.id !== data.id));
  let going = $state<'move' | 'retire' | null>(null);
  let to = $state('');
  let reason = $state('');
  /** The places of the chosen machine whose parts come out; the server refuses one that takes another kind of part. */
  let places = $state.raw<Schemas['SetupPartOut'][]>([]);
  let slot = $state('');

  async function choose(machine_id: string) {
    to = machine_id;
    const other = new MachineSetup(machine_id);
    await other.refresh();
    places = other.load.status === 'ok' ? other.load.data.parts.filter((one) => one.removable) : [];
    slot = places.find((one) => one.name === part.name)?.slot ?? places[0]?.slot ?? '';
  }
  async function go(event: SubmitEvent) {
    event.preventDefault();
    if (going === 'retire') {
      if (await setup.retire(item, reason)) going = null;
      return;
    }
    const place = { machine_id: to, slot };
    const name = others.find((one) => one.id === to)?.name ?? '';
    const ok =
      item.state === 'ready'
        ? await setup.assign(item, place, `${item.name} is meant for ${name} now.`)
        : await setup.move(item, place, `${item.name} is in ${name} now, with its hours.`);
    if (ok) going = null;
  }
</script>

<li class="flex flex-wrap items-center justify-between gap-2 py-1">
  <span
    ><b>{item.name}</b>
    <span class="soft">{WHERE[item.state] ?? item.state}, {plural(item.wash_count, 'wash', 'washes')}</span
    ></span
  >
  <span class="flex gap-2">
    {#if others.length && ['fitted', 'ready'].includes(item.state)}
      <button class="btn btn-sm btn-ghost" disabled={!mayWrite} onclick={() => (going = 'move')}
        >To another machine…</button
      >
    {/if}
    {#if item.state !== 'fitted'}
      <button class="btn btn-sm btn-ghost" disabled={!mayWrite} onclick={() => (going = 'retire')}
        >Throw away…</button
      >
    {/if}
  </span>
</li>

{#if going}
  <Modal
    title={going === 'move' ? `${item.name}: to another machine` : `Throw ${item.name} away?`}
    onclose={() => (going = null)}
  >
    <form class="grid gap-3" onsubmit={go}>
      {#if going === 'move'}
        <p class="soft">
          {item.state === 'ready'
            ? 'It stays ready, meant for the other machine.'
            : 'It comes out here and goes into the empty place there; its hours go with it.'}
        </p>
        <label class="grid gap-1"
          >Which machine?
          <select
            class="select w-full"
            value={to}
            required
            onchange={(e) => void choose(e.currentTarget.value)}
          >
            <option value="" disabled>choose</option>
            {#each others as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
          </select></label
        >
        {#if places.length}
          <label class="grid gap-1"
            >Which place?
            <select class="select w-full" bind:value={slot}>
              {#each places as one (one.slot)}<option value={one.slot}>{one.name}</option>{/each}
            </select></label
          >
        {/if}
      {:else}
        <Field
          label="Why"
          of="ReasonIn"
          name="reason"
          bind:value={reason}
          required
          placeholder="torn, no longer comes clean"
        />
      {/if}
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-ghost" onclick={() => (going = null)}>Cancel</button>
        <button class="btn btn-primary" disabled={house.busy || (going === 'move' && !slot)}
          >{going === 'move' ? 'Move it' : 'Throw it away'}</button
        >
      </div>
    </form>
  </Modal>
{/if}
