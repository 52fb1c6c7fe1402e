<!-- One part: its name and place, its school, each task with the book's figure and one's own, its items. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import type { MachineSetup } from '../../lib/state/machineSetup.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { plural } from '../../lib/words/format';
  import { SCHOOL } from '../../lib/words/tasks';
  import ItemLine from './ItemLine.svelte';
  import PartTasks from './PartTasks.svelte';

  let {
    part,
    data,
    setup,
    strips,
    mayWrite,
  }: {
    part: Schemas['SetupPartOut'];
    data: Schemas['SetupOut'];
    setup: MachineSetup;
    strips: Schemas['StripOut'][];
    mayWrite: boolean;
  } = $props();

  let open = $state(false);
  let removing = $state(false);
  let name = $state<string | null>(null);
  let spare = $state<string | null>(null);

  const at = $derived(data.stations.find((one) => one.key === part.station)?.label ?? '');
  const layers = $derived(data.parts.filter((other) => other.station === part.station));
  const own = $derived(part.rules.filter((rule) => rule.own_off || rule.own_figure !== null).length);
  const renamed = $derived(part.book_name !== null && part.book_name !== part.name);
  const notes = $derived(
    [
      part.added && 'your own part',
      renamed && `in the book: ${part.book_name}`,
      part.moved && 'moved',
      part.school && SCHOOL[part.school],
      own && plural(own, 'own figure'),
      part.items.length > 1 && plural(part.items.length - 1, 'spare'),
    ].filter(Boolean),
  );

  async function rename(event: SubmitEvent) {
    event.preventDefault();
    if (name !== null && (await setup.renamePart(part.slot, name.trim()))) name = null;
  }
  function place(some: Partial<Schemas['PlaceIn']>) {
    const { station, air_order, refit_order } = part;
    void setup.place(part.slot, { station, air_order, refit_order, ...some }, `${part.name} has its place.`);
  }
  function school(value: string) {
    const chosen = (value || null) as Schemas['School'] | null;
    void setup.school(
      part.slot,
      chosen,
      chosen ? `${part.name} is kept by: ${SCHOOL[chosen]}.` : `${part.name} is kept as the rest.`,
    );
  }
  async function addSpare(event: SubmitEvent) {
    event.preventDefault();
    if (spare !== null && (await setup.addSpare(part.slot, spare.trim()))) spare = null;
  }
  async function remove() {
    if (await setup.removePart(part)) removing = false;
  }
  const nextLetter = $derived(`${part.name} ${String.fromCharCode(65 + part.items.length)}`);
</script>

<li>
  <button class="head" aria-expanded={open} onclick={() => (open = !open)}>
    <b>{part.name}</b>
    <span class="soft">{at}{notes.length ? ` · ${notes.join(', ')}` : ''}</span>
    <span class="link">{open ? 'Close' : 'Open'}</span>
  </button>
  {#if open}
    <div class="body">
      <form class="flex flex-wrap items-end gap-2" onsubmit={rename}>
        <label class="grid gap-1 text-sm"
          >Name <input
            class="input w-56"
            value={name ?? part.name}
            maxlength="60"
            required
            disabled={!mayWrite}
            oninput={(e) => (name = e.currentTarget.value)}
          /></label
        >
        <button
          class="btn btn-sm"
          disabled={!mayWrite || house.busy || name === null || name.trim() === part.name}>Rename</button
        >
        {#if renamed && !part.added}
          <button
            type="button"
            class="btn btn-sm btn-ghost"
            disabled={!mayWrite || house.busy}
            onclick={() => void setup.renamePart(part.slot, null)}>As the book: {part.book_name}</button
          >
        {/if}
      </form>
      <div class="flex flex-wrap items-end gap-3">
        <label class="grid gap-1 text-sm"
          >Place
          <select
            class="select w-48"
            value={part.station}
            disabled={!mayWrite || house.busy}
            onchange={(e) => place({ station: e.currentTarget.value })}
          >
            {#each data.stations as one (one.key)}<option value={one.key}
                >{one.label}{one.column === 'off_path' ? ' (beside the path)' : ''}</option
              >{/each}
          </select></label
        >
        {#if layers.length > 1}
          <label class="grid gap-1 text-sm"
            >The air meets it as number
            <input
              class="input w-24"
              type="number"
              min="1"
              max="20"
              value={part.air_order}
              disabled={!mayWrite || house.busy}
              onchange={(e) => place({ air_order: e.currentTarget.valueAsNumber })}
            /></label
          >
          <label class="grid gap-1 text-sm"
            >It goes back in as number
            <input
              class="input w-24"
              type="number"
              min="1"
              max="20"
              value={part.refit_order}
              disabled={!mayWrite || house.busy}
              onchange={(e) => place({ refit_order: e.currentTarget.valueAsNumber })}
            /></label
          >
        {/if}
        {#if part.moved}
          <button
            class="btn btn-sm btn-ghost"
            disabled={!mayWrite || house.busy}
            onclick={() =>
              void setup.place(
                part.slot,
                { station: null, air_order: 1, refit_order: 1 },
                `${part.name} sits where the book has it.`,
              )}>As the book has it</button
          >
        {/if}
        <label class="grid gap-1 text-sm"
          >School of this part
          <select
            class="select w-56"
            value={part.school ?? ''}
            disabled={!mayWrite || house.busy}
            onchange={(e) => school(e.currentTarget.value)}
          >
            <option value="">as the machine ({SCHOOL[data.school ?? data.household_school]})</option>
            {#each Object.entries(SCHOOL) as [key, name] (key)}<option value={key}>{name}</option>{/each}
          </select></label
        >
      </div>
      <PartTasks {part} {setup} {mayWrite} />
      {#if part.items.length}
        <ul>
          {#each part.items as item (item.id)}
            <ItemLine {item} {part} {data} {setup} {strips} {mayWrite} />
          {/each}
        </ul>
      {/if}
      <div class="flex flex-wrap items-end gap-2">
        {#if part.removable}
          {#if spare === null}
            <button class="btn btn-sm" disabled={!mayWrite} onclick={() => (spare = nextLetter)}
              >Add a spare…</button
            >
          {:else}
            <form class="flex items-end gap-2" onsubmit={addSpare}>
              <label class="grid gap-1 text-sm"
                >Name of the spare <input
                  class="input w-56"
                  maxlength="60"
                  bind:value={spare}
                  required
                /></label
              >
              <button class="btn btn-sm btn-primary" disabled={house.busy}>It lies ready</button>
              <button type="button" class="btn btn-sm btn-ghost" onclick={() => (spare = null)}>Cancel</button
              >
            </form>
          {/if}
        {/if}
        <button class="btn btn-sm btn-ghost" disabled={!mayWrite} onclick={() => (removing = true)}
          >This machine does not have it…</button
        >
      </div>
    </div>
  {/if}
</li>

{#if removing}
  <Modal title={`${data.name} does not have: ${part.name}?`} onclose={() => (removing = false)}>
    <p>
      Its tasks leave every list, and what sat there is retired. Its records stay.
      {part.added ? 'One undo brings it back.' : 'One undo, or “it has one after all”, brings it back.'}
    </p>
    <div class="mt-4 flex justify-end gap-2">
      <button class="btn btn-ghost" onclick={() => (removing = false)}>It has one</button>
      <button class="btn btn-error" disabled={house.busy} onclick={() => void remove()}>Take it off</button>
    </div>
  </Modal>
{/if}

<style>
  li + :global(li) {
    border-top: 1px solid var(--color-base-300);
  }
  .head {
    display: grid;
    grid-template-columns: 14rem minmax(0, 1fr) auto;
    gap: 0.25rem 1rem;
    width: 100%;
    padding: 0.6rem 1rem;
    text-align: left;
    cursor: pointer;
  }
  .head:hover {
    background: color-mix(in oklab, var(--color-base-content) 6%, transparent);
  }
  .body {
    display: grid;
    gap: 0.9rem;
    padding: 0.5rem 1rem 1rem;
  }
  @media (max-width: 39.99rem) {
    .head {
      grid-template-columns: minmax(0, 1fr) auto;
    }
    .head .soft {
      grid-column: 1 / -1;
      grid-row: 2;
    }
  }
</style>
