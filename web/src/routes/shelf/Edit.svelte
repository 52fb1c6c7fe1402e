<!-- A kind of part to keep: its name, the places it fits, the numbers it is sold under, how many never to go below. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { bounds } from '../../lib/api/bounds';
  import type { Schemas } from '../../lib/api/client';
  import type { Kind, ShelfState } from '../../lib/state/shelf.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Stepper from '../../lib/ui/Stepper.svelte';
  import { CHECK } from '../../lib/words/shelf';
  import Field from '../../lib/ui/Field.svelte';

  let {
    stock,
    shelf,
    kind,
    onclose,
  }: { stock: ShelfState; shelf: Schemas['ShelfOut']; kind: Kind | null; onclose: () => void } = $props();

  const keyOf = (place: { machine_id: string; slot: string }) => `${place.machine_id}/${place.slot}`;
  let name = $state(untrack(() => kind?.name ?? ''));
  let least = $state(untrack(() => kind?.least ?? 0));
  let chosen = $state.raw(untrack(() => kind?.places.map(keyOf) ?? []));
  let numbers = $state(untrack(() => kind?.numbers.map((one) => ({ ...one })) ?? []));
  const places = $derived([...(kind?.places ?? []), ...shelf.loose]);

  function toggle(place: Schemas['PartPlaceOut']) {
    const key = keyOf(place);
    chosen = chosen.includes(key) ? chosen.filter((one) => one !== key) : [...chosen, key];
    if (!name && chosen.length) name = `${place.slot_name}, ${place.machine_name}`.slice(0, 60);
  }

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const part = {
      name,
      least,
      places: places
        .filter((one) => chosen.includes(keyOf(one)))
        .map(({ machine_id, slot }) => ({ machine_id, slot })),
      numbers: numbers.filter((one) => one.number.trim()),
    };
    if (await stock.keep(part, kind?.id)) onclose();
  }
</script>

<Modal title={kind ? kind.name : 'A part to keep'} {onclose}>
  <form onsubmit={keep} class="grid gap-4">
    <fieldset>
      <legend class="mb-1 font-bold">Where it goes</legend>
      <div class="places">
        {#each places as place (keyOf(place))}
          <label class="flex items-center gap-[0.6rem] min-h-9"
            ><input
              type="checkbox"
              class="checkbox"
              checked={chosen.includes(keyOf(place))}
              onchange={() => toggle(place)}
            />{place.machine_name}, {place.slot_name.toLowerCase()}</label
          >
        {:else}
          <p class="soft">Every place has its part kept.</p>
        {/each}
      </div>
    </fieldset>
    <Field label="Name" bind:value={name} of="SparePartIn" name="name" required />
    <fieldset class="grid gap-3">
      <legend class="mb-1 font-bold">Numbers it is sold under</legend>
      {#each numbers as number, i (i)}
        <div class="number">
          <label
            ><span class="sr-only">Number {i + 1}</span><input
              class="input w-full"
              bind:value={number.number}
              maxlength="40"
              placeholder="Number"
            /></label
          >
          <label class="flex items-center gap-[0.6rem] min-h-9"
            ><input type="checkbox" class="checkbox" bind:checked={number.maker} />the maker’s own</label
          >
          <label
            ><span class="sr-only">Does {number.number || 'it'} fit?</span><select
              class="select w-full"
              bind:value={number.check}
            >
              {#each Object.entries(CHECK) as [value, text] (value)}<option {value}>{text}</option>{/each}
            </select></label
          >
          {#if number.check === 'differs' || number.check === 'no' || number.note}
            <label class="wide"
              ><span class="sr-only">What is different</span><input
                class="input w-full"
                bind:value={number.note}
                {...bounds('NumberIn', 'note')}
                placeholder="What is different"
              /></label
            >
          {/if}
        </div>
      {/each}
      <p>
        <button
          type="button"
          class="btn btn-sm"
          onclick={() => numbers.push({ number: '', maker: true, check: 'unchecked', note: '' })}
          >Another number</button
        >
      </p>
    </fieldset>
    <div class="flex items-center justify-between gap-3">
      <span>Never go below</span>
      <Stepper label="never go below" value={least} most={50} onchange={(value) => (least = value)} />
    </div>
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={stock.busy}>Keep it</button>
    </div>
  </form>
</Modal>

<style>
  .places {
    display: grid;
    gap: 0.25rem;
    max-height: 13rem;
    overflow-y: auto;
  }
  .number {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0.4rem 0.75rem;
    padding-bottom: 0.75rem;
    border-bottom: 1px solid var(--color-base-300);
  }
  .number > :nth-child(3),
  .wide {
    grid-column: 1 / -1;
  }
</style>
