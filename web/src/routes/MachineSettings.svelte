<!-- Changing a machine: its name, school, usual week, parts and their figures, spares, and whether it is in use. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../lib/api/client';
  import { house } from '../lib/state/house.svelte';
  import { MachineSetup } from '../lib/state/machineSetup.svelte';
  import { session } from '../lib/state/session.svelte';
  import { startOf } from '../lib/state/faults.svelte';
  import Choice from '../lib/ui/Choice.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { figure } from '../lib/words/format';
  import { doWord, SCHOOL, STATUS } from '../lib/words/tasks';
  import AddPart from './settings/AddPart.svelte';
  import Leaving from './settings/Leaving.svelte';
  import PartSettings from './settings/PartSettings.svelte';
  import Week from './settings/Week.svelte';

  let { params }: { params: { id: string } } = $props();

  const setup = $derived(new MachineSetup(params.id));
  let adding = $state(false);
  let leaving = $state(false);
  let cheap = $state.raw<Schemas['CheapOut'][]>([]);

  /** What is still worth a look is asked for first: what comes late would move the buttons under a finger. */
  async function goes() {
    const start = await startOf(params.id);
    cheap = start.status === 'ok' ? start.data.cheap : [];
    leaving = true;
  }
  let name = $state<string | null>(null);
  const LEFT_UNDONE: Record<string, string> = {
    due: 'Each task by its own date; what is optional is offered while it lies open.',
    good_enough:
      'What only smells or looks is let go half as long again; filters, seals, brushes and what keeps you safe come as ever.',
    thorough: 'What is optional is done in each sitting that lays it open, a few minutes more.',
  };

  /** Whatever was recorded, undone too, shows here. */
  $effect(() => {
    const now = setup;
    void house.round;
    untrack(() => void now.refresh());
  });
  if (house.round.status !== 'ok') void house.loadRound();

  const data = $derived(setup.load.status === 'ok' ? setup.load.data : null);
  const strips = $derived(house.round.status === 'ok' ? house.round.data.machines : []);
  const strip = $derived(strips.find((one) => one.id === params.id) ?? null);
  const mayWrite = $derived(session.mayWrite);

  async function rename(event: SubmitEvent) {
    event.preventDefault();
    if (name !== null && (await setup.rename(name.trim()))) name = null;
  }
  function school(value: Schemas['School'] | 'house') {
    const chosen = value === 'house' ? null : value;
    void setup.school(
      '',
      chosen,
      chosen ? `Kept by: ${SCHOOL[chosen]}.` : 'Kept as the household keeps the rest.',
    );
  }
</script>

<svelte:head><title>{data?.name ?? 'Machine'}: change it · Yperon</title></svelte:head>

{#if setup.load.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={setup.load.problem} retry={() => void setup.refresh()} />
  </div>
{:else if !data}
  <Waiting what="Opening what can be changed" />
{:else}
  <div class="page max-w-272">
    <header class="flex flex-wrap items-start justify-between gap-3">
      <div>
        <h1>{data.name}: change it</h1>
        <p class="soft">
          {data.kind}{data.status === 'in_use' ? '' : `, ${STATUS[data.status]}`}. What you set stands beside
          the book's; the book's is always shown.
        </p>
      </div>
      <a class="btn btn-sm" href={`#/machines/${data.id}`}>To its page</a>
    </header>
    {#if data.replaces}
      <p>
        <a class="link" href={`#/machines/${data.replaces}`}>The machine it stands in for, with its history</a
        >
      </p>
    {/if}

    <section class="panel grid gap-4 p-4" aria-label="The machine">
      <form class="flex flex-wrap items-end gap-2" onsubmit={rename}>
        <label class="grid gap-1"
          ><span class="font-bold">Name</span>
          <input
            class="input w-72 max-w-full"
            value={name ?? data.name}
            maxlength="60"
            required
            disabled={!mayWrite}
            oninput={(e) => (name = e.currentTarget.value)}
          /></label
        >
        <button class="btn" disabled={!mayWrite || house.busy || name === null || name.trim() === data.name}
          >Rename it</button
        >
      </form>
      {#if strip && !strip.serves}<Week {strip} {mayWrite} />{/if}
      <Choice
        legend="Its school"
        options={[
          ['house', `as the household (${SCHOOL[data.household_school]})`],
          ['label', SCHOOL.label ?? ''],
          ['workshop', SCHOOL.workshop ?? ''],
          ['thrifty', SCHOOL.thrifty ?? ''],
        ]}
        value={data.school ?? 'house'}
        small
        disabled={!mayWrite || house.busy}
        onchoose={school}
      />
      <Choice
        legend="How far it is cleaned"
        options={[
          ['due', 'as its tasks fall due'],
          ['good_enough', 'good enough'],
          ['thorough', 'thorough'],
        ]}
        value={data.level ?? 'due'}
        small
        disabled={!mayWrite || house.busy}
        onchoose={(value: string) =>
          void setup.level(
            value === 'due' ? null : (value as 'good_enough' | 'thorough'),
            LEFT_UNDONE[value] ?? '',
          )}
      />
      <p class="soft text-sm">{LEFT_UNDONE[data.level ?? 'due']}</p>
      {#each data.features as feature (feature.key)}
        <Choice
          legend={feature.question}
          options={[
            ['yes', 'yes'],
            ['no', 'no'],
          ]}
          value={feature.has ? 'yes' : 'no'}
          small
          disabled={!mayWrite || house.busy}
          onchoose={(value: string) => void setup.feature(feature, value === 'yes')}
        />
      {/each}
      {#if data.extras.length}
        <fieldset class="grid gap-1">
          <legend class="mb-1 font-bold">Done besides, in every sitting that lays it open</legend>
          {#each data.extras as extra (extra.slot + extra.action)}
            <label class="flex items-start gap-2"
              ><input
                type="checkbox"
                class="checkbox"
                checked={extra.kept}
                disabled={!mayWrite || house.busy}
                onchange={(e) => void setup.habit(extra, e.currentTarget.checked)}
              /><span
                >{extra.slot_name}: {doWord(extra.action)}, {figure(extra.effort_min)} min.
                <span class="soft">{extra.why}</span></span
              ></label
            >
          {/each}
        </fieldset>
      {/if}
      <div class="flex flex-wrap gap-2">
        {#if data.status === 'in_use'}
          <button class="btn" disabled={!mayWrite} onclick={() => void goes()}>Put away, lend, sell…</button>
          <a class="btn" href={`#/add/${data.id}`}>Another one stands in for it…</a>
        {:else}
          <button
            class="btn btn-primary"
            disabled={!mayWrite || house.busy}
            onclick={() => void setup.status('in_use', [], `${data.name} is in use again.`)}
            >Back in use</button
          >
        {/if}
      </div>
    </section>

    <section aria-label="Parts">
      <div class="mb-2 flex flex-wrap items-baseline justify-between gap-2">
        <h2>Its {data.parts.length} parts</h2>
        <button class="btn btn-sm" disabled={!mayWrite} onclick={() => (adding = true)}>Add a part…</button>
      </div>
      <ul class="panel">
        {#each data.parts as part (part.slot)}
          <PartSettings {part} {data} {setup} {strips} {mayWrite} />
        {/each}
      </ul>
    </section>
    {#if data.gone.length}
      <section aria-label="Not on this machine">
        <h2 class="mb-2">Not on this machine</h2>
        <ul class="flex flex-wrap gap-2">
          {#each data.gone as part (part.slot)}
            <li>
              <button
                class="btn btn-sm"
                disabled={!mayWrite || house.busy}
                onclick={() => void setup.bringBack(part)}>{part.name}: it has one after all</button
              >
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </div>
  {#if adding}<AddPart {data} {setup} onclose={() => (adding = false)} />{/if}
  {#if leaving}<Leaving {data} {setup} {cheap} onclose={() => (leaving = false)} />{/if}
{/if}
