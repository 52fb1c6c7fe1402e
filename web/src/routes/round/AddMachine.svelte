<!-- A machine for the house: what it is, what it is called, when it usually runs and what silence means. -->
<script lang="ts">
  import { ask, client, type Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { type Load, loaded, PENDING } from '../../lib/state/load';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import Waiting from '../../lib/ui/Waiting.svelte';

  let { machines, onadded }: { machines: Schemas['StripOut'][]; onadded?: () => void } = $props();

  const DAYS = { MO: 'Mon', TU: 'Tue', WE: 'Wed', TH: 'Thu', FR: 'Fri', SA: 'Sat', SU: 'Sun' };

  let kinds = $state.raw<Load<Schemas['KindOut'][]>>(PENDING);
  let name = $state('');
  let chosen = $state<string | null>(null);
  let days = $state<string[]>(['MO', 'TU', 'WE', 'TH', 'FR']);
  let typed = $state<number | null>(null);
  let starts = $state('');
  let features = $state<string[]>([]);
  let silent = $state<Schemas['Silence'] | null>(null);
  let serves = $state('');
  const kind = $derived(
    kinds.status === 'ok' ? (kinds.data.find((one) => one.key === chosen) ?? kinds.data[0] ?? null) : null,
  );
  const minutes = $derived(typed ?? kind?.usual_run_min ?? 25);
  const silence = $derived(silent ?? kind?.silence ?? 'ran');

  void load();
  async function load() {
    kinds = loaded(await ask(client.GET('/api/kinds')));
  }
  function choose(key: string) {
    [chosen, typed, silent, features] = [key, null, null, []];
  }
  async function add(event: SubmitEvent) {
    event.preventDefault();
    if (!kind) return;
    const mops = kind.mops || features.includes('mops');
    const added = await house.addMachine({
      name,
      archetype: kind.key,
      days: kind.serves ? [] : days,
      minutes,
      starts: starts || null,
      mops: mops && !kind.serves,
      silence,
      features,
      serves: serves || null,
    });
    if (added) onadded?.();
  }
</script>

{#if machines.length === 0}<h1 class="text-3xl font-extrabold">Which machine comes first?</h1>{/if}
<p class="soft mt-1 mb-4">
  Its parts are taken as new today. Every date grows from its runs and from what you find.
</p>
{#if kinds.status === 'pending'}
  <Waiting what="Opening the care book" />
{:else if kinds.status === 'error'}
  <Trouble problem={kinds.problem} retry={() => void load()} />
{:else if kind}
  <form class={['grid gap-4', machines.length === 0 && 'panel p-4']} onsubmit={add}>
    <label class="grid gap-1">
      What is it?
      <select class="select w-full" value={kind.key} onchange={(e) => choose(e.currentTarget.value)}>
        {#each kinds.data as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
      </select>
    </label>
    <label class="grid gap-1">
      What do you call it?
      <input class="input w-full" bind:value={name} maxlength="60" required placeholder="Hall upright" />
    </label>
    {#if kind.options.length}
      <fieldset class="grid gap-1">
        <legend class="mb-1">About this one</legend>
        {#each kind.options as option (option.key)}
          <label class="flex items-center gap-2">
            <input
              type="checkbox"
              class="checkbox"
              value={option.key}
              bind:group={features}
            />{option.question}
          </label>
        {/each}
      </fieldset>
    {/if}
    {#if kind.serves}
      <label class="grid gap-1">
        Whose dock is it?
        <select class="select w-full" bind:value={serves}>
          <option value="">no robot of this house</option>
          {#each machines.filter((one) => one.serves === null) as one (one.id)}
            <option value={one.id}>{one.name}</option>
          {/each}
        </select>
      </label>
    {:else}
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
          >Minutes a run <input
            class="input w-full"
            type="number"
            step="any"
            value={minutes}
            oninput={(e) => (typed = e.currentTarget.valueAsNumber)}
            required
          /></label
        >
        <label class="grid gap-1"
          >Starts at, if it does <input class="input w-full" type="time" bind:value={starts} /></label
        >
      </div>
      <fieldset class="grid gap-1">
        <legend class="mb-1">If nobody says that it ran</legend>
        <label class="flex items-center gap-2">
          <input
            type="radio"
            class="radio"
            name="silence"
            checked={silence === 'ran'}
            onchange={() => (silent = 'ran')}
          />it ran as usual
        </label>
        <label class="flex items-center gap-2">
          <input
            type="radio"
            class="radio"
            name="silence"
            checked={silence === 'rested'}
            onchange={() => (silent = 'rested')}
          />it did not run
        </label>
      </fieldset>
    {/if}
    <button class="btn btn-primary" disabled={house.busy}>Add it</button>
  </form>
{/if}
