<!-- A device to connect: what it is, and of which machine or place it speaks. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import type { DevicesState } from '../../lib/state/devices.svelte';
  import Choice from '../../lib/ui/Choice.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import Panel from '../../lib/ui/Panel.svelte';
  import { DEVICES, TELLS } from '../../lib/words/devices';
  import { capital } from '../../lib/words/format';

  type Kind = Schemas['DeviceIn']['kind'];
  let { devices, all, first }: { devices: DevicesState; all: Schemas['DevicesOut']; first: boolean } =
    $props();

  let kind = $state<Kind>('machine');
  let name = $state('');
  let machine_id = $state('');
  let place = $state('');
  const machines = $derived(all.machines.filter((one) => kind === 'gauge' || !one.is_dock));
  const ofMachine = $derived(kind === 'machine' || kind === 'gauge');
  const options = Object.entries(DEVICES).map(([key, words]) => [key as Kind, capital(words)] as const);
  const missing = $derived(kind === 'climate' ? !all.places.length : ofMachine && !machines.length);

  async function connect(event: SubmitEvent) {
    event.preventDefault();
    const of = machines.find((one) => one.id === machine_id) ?? machines[0];
    const body = {
      kind,
      name:
        name.trim() ||
        (kind === 'machine' && of ? of.name : capital(DEVICES[kind].split(' ').slice(1).join(' '))),
      machine_id: ofMachine ? (of?.id ?? null) : null,
      place: kind === 'climate' ? place || (all.places[0] ?? '') : '',
    };
    if (await devices.connect(body)) name = '';
  }
</script>

<Panel title="Connect a device">
  <form class="grid gap-3" onsubmit={connect}>
    <Choice legend="What it is" {options} value={kind} onchoose={(one) => (kind = one)} />
    <p class="soft">It tells {TELLS[kind]}. It gets a token that is good for that and nothing else.</p>
    {#if missing}
      <p>
        {#if kind === 'climate'}Tell of your drying places on <a class="link" href="#/household">The home</a> first.
        {:else}<a class="link" href="#/add">Add a machine</a> first.{/if}
      </p>
    {:else}
      <div class="grid max-w-160 gap-3 sm:grid-cols-2">
        {#if ofMachine}
          <label class="grid gap-1"
            >Machine <select class="select w-full" bind:value={machine_id}>
              {#each machines as one, n (one.id)}<option value={n === 0 && !machine_id ? '' : one.id}
                  >{one.name}</option
                >{/each}
            </select></label
          >
        {:else if kind === 'climate'}
          <label class="grid gap-1"
            >Place <select class="select w-full" bind:value={place}>
              {#each all.places as one, n (one)}<option value={n === 0 && !place ? '' : one}>{one}</option
                >{/each}
            </select></label
          >
        {/if}
        <Field label="What you call it, if otherwise" of="DeviceIn" name="name" bind:value={name} />
      </div>
      <button class={['btn justify-self-start', first && 'btn-primary']} disabled={devices.busy}
        >Make a token</button
      >
    {/if}
  </form>
</Panel>
