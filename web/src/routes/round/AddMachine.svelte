<!-- The first machine of a household: what it is, what it is called, when it usually runs. -->
<script lang="ts">
  import { ask, client, type Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { type Load, loaded, PENDING } from '../../lib/state/load';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import Waiting from '../../lib/ui/Waiting.svelte';

  const DAYS = { MO: 'Mon', TU: 'Tue', WE: 'Wed', TH: 'Thu', FR: 'Fri', SA: 'Sat', SU: 'Sun' };

  let kinds = $state.raw<Load<Schemas['KindOut'][]>>(PENDING);
  let name = $state('');
  let chosen = $state<string | null>(null);
  let days = $state<string[]>(['MO', 'TU', 'WE', 'TH', 'FR']);
  let minutes = $state(50);
  let starts = $state('');
  const kind = $derived(chosen ?? (kinds.status === 'ok' ? (kinds.data[0]?.key ?? '') : ''));

  void load();
  async function load() {
    kinds = loaded(await ask(client.GET('/api/kinds')));
  }
  async function add(event: SubmitEvent) {
    event.preventDefault();
    await house.addMachine({ name, archetype: kind, days, minutes, starts: starts || null });
  }
</script>

<h1 class="text-3xl font-extrabold">Which machine comes first?</h1>
<p class="soft mt-1 mb-4">
  Its parts are taken as new today. Every date grows from its runs and from what you find.
</p>
{#if kinds.status === 'pending'}
  <Waiting what="Opening the care book" />
{:else if kinds.status === 'error'}
  <Trouble problem={kinds.problem} retry={() => void load()} />
{:else}
  <form class="panel grid gap-4 p-4" onsubmit={add}>
    <label class="grid gap-1">
      What is it?
      <select class="select w-full" value={kind} onchange={(e) => (chosen = e.currentTarget.value)}>
        {#each kinds.data as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
      </select>
    </label>
    <label class="grid gap-1">
      What do you call it?
      <input class="input w-full" bind:value={name} maxlength="60" required placeholder="Hall robot" />
    </label>
    <fieldset>
      <legend class="mb-1">It usually runs on</legend>
      <div class="flex flex-wrap gap-2">
        {#each Object.entries(DAYS) as [key, text] (key)}
          <label class="flex items-center gap-2 pr-2">
            <input type="checkbox" class="checkbox" value={key} bind:group={days} />{text}
          </label>
        {/each}
      </div>
    </fieldset>
    <div class="grid grid-cols-2 gap-3">
      <label class="grid gap-1"
        >Minutes a run <input class="input w-full" type="number" bind:value={minutes} required /></label
      >
      <label class="grid gap-1"
        >Starts at, if it does <input class="input w-full" type="time" bind:value={starts} /></label
      >
    </div>
    <button class="btn btn-primary" disabled={house.busy}>Add it</button>
  </form>
{/if}
