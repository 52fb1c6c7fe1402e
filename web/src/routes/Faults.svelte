<!-- Something is wrong: which machine, and what is noticed. Cases that are open wait here, too. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { push, replace } from 'svelte-spa-router';

  import { boardOrder } from '../lib/airpath/layout';
  import type { Problem, Schemas } from '../lib/api/client';
  import { house } from '../lib/state/house.svelte';
  import { type Load, PENDING, Turns } from '../lib/state/load';
  import { session } from '../lib/state/session.svelte';
  import { openCase, openCases, startOf } from '../lib/state/faults.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { dayAndTime } from '../lib/words/format';
  import { STAND } from '../lib/words/faults';

  let { params = {} }: { params?: { machine?: string } } = $props();

  const id = $derived(params.machine ?? null);
  let cases = $state.raw<Load<Schemas['OpenCaseOut'][]>>(PENDING);
  let start = $state.raw<Load<Schemas['StartOut']>>(PENDING);
  let picked = $state.raw<string[]>([]);
  let added = $state.raw<string[]>([]);
  let problem = $state.raw<Problem | null>(null);
  let busy = $state(false);
  const machines = $derived(house.round.status === 'ok' ? boardOrder(house.round.data.machines) : []);
  const spoken = $derived(start.status === 'ok' ? start.data.symptoms.filter((one) => one.message) : []);
  const felt = $derived(start.status === 'ok' ? start.data.symptoms.filter((one) => !one.message) : []);
  const danger = $derived(
    start.status === 'ok' ? start.data.symptoms.find((one) => one.danger && picked.includes(one.key)) : null,
  );

  /** What may be told beside what is noticed; what no longer goes with it counts no more. */
  const ticks = $derived(
    start.status === 'ok' && picked.length
      ? start.data.ticks.filter(
          (one) => !one.symptoms.length || one.symptoms.some((key) => picked.includes(key)),
        )
      : [],
  );
  const unasked = $derived(ticks.filter((one) => added.includes(one.key)));

  const turns = new Turns();
  $effect(() => {
    const wanted = id;
    untrack(() => {
      if (house.round.status !== 'ok') void house.loadRound();
      void openCases().then((answer) => (cases = answer));
      [start, picked, added, problem] = [PENDING, [], [], null];
      if (wanted) void turns.latest(startOf(wanted)).then((answer) => (start = answer ?? start));
    });
  });

  const toggled = (list: string[], key: string) =>
    list.includes(key) ? list.filter((one) => one !== key) : [...list, key];

  async function begin(event: SubmitEvent) {
    event.preventDefault();
    if (!id || !picked.length) return;
    busy = true;
    const answer = await openCase(
      id,
      picked,
      unasked.map((one) => one.key),
    );
    busy = false;
    if (answer.ok) return void push(`/faults/case/${answer.data.id}`);
    problem = answer.problem;
  }
</script>

<svelte:head><title>Faults · Yperon</title></svelte:head>

<div class="page max-w-272">
  <header>
    <h1>
      {id && start.status === 'ok' ? `What is wrong with ${start.data.machine}?` : 'Something is wrong'}
    </h1>
    <p class="soft">
      Say what you notice. One thing to look at comes after the other, likeliest and cheapest first.
    </p>
  </header>

  {#if !id && cases.status === 'ok' && cases.data.length}
    <section aria-label="Open cases">
      <h2>Still being looked for</h2>
      <ul class="mt-2 grid gap-3">
        {#each cases.data as one (one.id)}
          <li>
            <a class="panel open" href={`#/faults/case/${one.id}`}>
              <span>
                <b class="text-lg">{one.machine}</b>: {one.symptoms.join(', ').toLowerCase()}<br />
                <span class="soft"
                  >{STAND[one.stand] ?? one.stand}, since {dayAndTime(
                    one.opened_at,
                    session.member?.time_zone,
                  )}</span
                >
              </span>
              <span class="btn btn-primary">Go on</span>
            </a>
          </li>
        {/each}
      </ul>
    </section>
  {:else if cases.status === 'error'}
    <Trouble problem={cases.problem} />
  {/if}

  {#if !id}
    <section aria-label="Machines">
      <h2>Which machine?</h2>
      {#if house.round.status === 'pending' || cases.status === 'pending'}
        <!-- Both, or what is above would push the machines away from under a finger. -->
        <Waiting what="Looking for machines" />
      {:else if house.round.status === 'error'}
        <Trouble problem={house.round.problem} retry={() => void house.loadRound()} />
      {:else if !machines.length}
        <p class="mt-2">No machine yet. <a class="link" href="#/add">Add the first one</a></p>
      {:else}
        <div class="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-3 mt-3">
          {#each machines as machine (machine.id)}
            <button class="btn pick" onclick={() => void push(`/faults/${machine.id}`)}>
              {machine.name}<span class="soft">{machine.kind}</span>
            </button>
          {/each}
        </div>
      {/if}
    </section>
  {:else if start.status === 'pending'}
    <Waiting what="Opening" />
  {:else if start.status === 'error'}
    <Trouble problem={start.problem} />
    <p><a class="link" href="#/faults">Another machine</a></p>
  {:else if start.data.open}
    <div class="panel p-4">
      <p class="font-bold">A case of {start.data.machine} is open.</p>
      <p class="mt-1">Go on with it, or close it first.</p>
      <button
        class="btn btn-primary mt-3"
        onclick={() => start.status === 'ok' && void replace(`/faults/case/${start.data.open}`)}>Go on</button
      >
    </div>
  {:else}
    <form class="grid gap-5" onsubmit={begin}>
      {#if problem}<Trouble {problem} />{/if}
      {#snippet choices(list: Schemas['SymptomOut'][])}
        <div class="grid grid-cols-[repeat(auto-fill,minmax(min(20rem,100%),1fr))] gap-[0.6rem] mt-[0.6rem]">
          {#each list as one (one.key)}
            <label class={['symptom panel', picked.includes(one.key) && 'on']}>
              <input
                type="checkbox"
                class="checkbox"
                checked={picked.includes(one.key)}
                onchange={() => (picked = toggled(picked, one.key))}
              />
              <span><b>{one.name}</b><br /><span class="soft">{one.feel}</span></span>
            </label>
          {/each}
        </div>
      {/snippet}
      <fieldset>
        <legend>What do you notice? Several are fine.</legend>
        {@render choices(felt)}
      </fieldset>
      {#if spoken.length}
        <fieldset>
          <legend>Does it say something itself?</legend>
          {@render choices(spoken)}
        </fieldset>
      {/if}
      {#if ticks.length}
        <fieldset>
          <legend>Anything of this? It counts as if it had been asked; none is needed.</legend>
          <div class="mt-2 flex flex-wrap gap-2">
            {#each ticks as one (one.key)}
              <button
                type="button"
                class={[
                  'btn h-auto min-h-11 text-left whitespace-normal',
                  added.includes(one.key) && 'btn-active',
                ]}
                aria-pressed={added.includes(one.key)}
                onclick={() => (added = toggled(added, one.key))}>{one.words}</button
              >
            {/each}
          </div>
        </fieldset>
      {/if}
      {#if start.data.dock}<p class="soft">{start.data.dock} is looked at with it.</p>{/if}
      {#if start.data.earlier.length}
        <p class="soft">It was before: {start.data.earlier.join(', ').toLowerCase()}. That counts.</p>
      {/if}
      {#if danger}<p class="py-3 px-4 border-l-4 border-l-(--overdue) bg-base-100" role="status">
          <b>{danger.danger}</b>
        </p>{/if}
      {#if unasked.some((one) => one.danger)}
        <p class="py-3 px-4 border-l-4 border-l-(--overdue) bg-base-100" role="status">
          <b>Switch it off and leave it closed. What to do, and who looks next, comes at once.</b>
        </p>
      {/if}
      <div class="flex flex-wrap items-center gap-y-3 gap-x-5">
        <button class="btn btn-primary btn-lg" disabled={!picked.length || busy || !session.mayWrite}
          >Find it</button
        >
        {#if !picked.length}<span class="soft">Tick at least one.</span>{/if}
        <a class="link ml-auto" href="#/faults">Another machine</a>
      </div>
    </form>
  {/if}
</div>

<style>
  .open {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 1rem;
    padding: 1rem;
  }
  .pick {
    display: grid;
    justify-items: start;
    justify-content: start;
    gap: 0;
    height: auto;
    min-height: 4rem;
    padding: 0.6rem 1rem;
    font-size: 1.1rem;
    text-align: left;
  }
  .pick span {
    font-size: 0.9rem;
    font-weight: 400;
  }
  legend {
    font-size: 1.1rem;
    font-weight: 800;
  }
  .symptom {
    display: flex;
    gap: 0.75rem;
    padding: 0.75rem;
    cursor: pointer;
  }
  .symptom.on {
    border-color: var(--color-base-content);
    box-shadow: inset 0 0 0 1px var(--color-base-content);
  }
  .symptom .soft {
    font-size: 0.95rem;
  }
</style>
