<!-- A part this machine has beside those of its kind: one the book knows, or one of one's own. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import type { MachineSetup } from '../../lib/state/machineSetup.svelte';
  import Choice from '../../lib/ui/Choice.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { doWord } from '../../lib/words/tasks';
  import Field from '../../lib/ui/Field.svelte';

  let { data, setup, onclose }: { data: Schemas['SetupOut']; setup: MachineSetup; onclose: () => void } =
    $props();

  const OWN: Schemas['Action'][] = ['inspect', 'clean', 'wash', 'wipe', 'replace'];
  let use = $state('');
  let typed = $state<string | null>(null);
  // svelte-ignore state_referenced_locally
  let station = $state(data.stations[0]?.key ?? '');
  let material = $state('');
  let action = $state<Schemas['Action']>('clean');
  let meter = $state<Schemas['Meter']>('days');
  let figure = $state<number | null>(30);
  let isNew = $state(true);
  const name = $derived(typed ?? data.of_book.find((one) => one.key === use)?.name ?? '');

  async function add(event: SubmitEvent) {
    event.preventDefault();
    const own =
      use === '' ? { action, meter, figure } : { action: null, meter: 'days' as const, figure: null };
    const part = { name, station, use: use || null, material, is_new: isNew, ...own };
    if (await setup.addPart(part)) onclose();
  }
</script>

<Modal title={`A further part of ${data.name}`} {onclose}>
  <form class="grid gap-3" onsubmit={add}>
    <label class="grid gap-1"
      >What is it?
      <select class="select w-full" bind:value={use}>
        <option value="">something the care book does not know</option>
        {#each data.of_book as part (part.key)}<option value={part.key}>{part.name}</option>{/each}
      </select></label
    >
    <Field
      label="What do you call it?"
      value={name}
      oninput={(e) => (typed = e.currentTarget.value)}
      of="PartIn"
      name="name"
      required
    />
    <label class="grid gap-1"
      >Where does it sit?
      <select class="select w-full" bind:value={station}>
        {#each data.stations as one (one.key)}<option value={one.key}
            >{one.label}{one.column === 'off_path' ? ' (beside the air path)' : ''}</option
          >{/each}
      </select></label
    >
    <Field
      label="Made of, if you know"
      of="PartIn"
      name="material"
      bind:value={material}
      placeholder="foam, felt, pleated paper…"
    />
    {#if use === ''}
      <div class="flex flex-wrap items-end gap-2">
        <label class="grid gap-1"
          >What is done
          <select class="select w-40" bind:value={action}>
            {#each OWN as one (one)}<option value={one}>{doWord(one)}</option>{/each}
          </select></label
        >
        <Field
          label="every"
          class="input w-24"
          type="number"
          of="PartIn"
          name="figure"
          bind:value={figure}
          required
        />
        <label
          ><span class="sr-only">Unit</span>
          <select class="select w-44" bind:value={meter}>
            <option value="days">days</option>
            <option value="run_hours">hours of running</option>
            <option value="runs">runs</option>
            <option value="fills">full bins</option>
          </select></label
        >
      </div>
    {/if}
    <Choice
      legend="How far is it?"
      options={[
        ['new', 'new'],
        ['unknown', 'do not know'],
      ]}
      value={isNew ? 'new' : 'unknown'}
      small
      onchoose={(value) => (isNew = value === 'new')}
    />
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={house.busy}>Add it</button>
    </div>
  </form>
</Modal>
