<!-- Before a run: what to see to on the floor, whether something may be picked up, and what if it happened. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, client, type Schemas } from '../lib/api/client';
  import { house } from '../lib/state/house.svelte';
  import { type Load, loaded, PENDING, Turns } from '../lib/state/load';
  import { session } from '../lib/state/session.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { didWord, MISHAP } from '../lib/words/tasks';

  let { params = {} }: { params?: { id?: string } } = $props();

  let floor = $state.raw<Load<Schemas['FloorOut']>>(PENDING);
  let ticked = $state<string[]>([]);
  let query = $state('');
  let chosen = $state('');

  if (house.round.status !== 'ok') void house.loadRound();
  const machines = $derived(house.round.status === 'ok' ? house.round.data.machines : []);
  const runners = $derived(machines.filter((one) => one.serves === null));
  const machine = $derived(
    runners.find((one) => one.id === (chosen || params.id)) ??
      runners.find((one) => one.itself) ??
      runners[0] ??
      null,
  );
  const checks = $derived(
    floor.status === 'ok'
      ? floor.data.checks.filter(
          (check) => check.only === null || (check.only === 'itself' && machine?.itself),
        )
      : [],
  );
  const ready = $derived(checks.length > 0 && checks.every((check) => ticked.includes(check.key)));
  const words = $derived(query.trim().toLowerCase());
  const pickups = $derived(
    floor.status === 'ok'
      ? floor.data.pickups.filter((one) =>
          [one.name, ...one.also].some((name) => name.toLowerCase().includes(words)),
        )
      : [],
  );
  const VERDICT = { yes: 'Yes', some: 'A little, with care', no: 'No' } as const;
  const INK = { yes: 'ink-fresh', some: 'ink-due', no: 'ink-overdue' } as const;
  const MISHAPS: Schemas['Mishap'][] = ['sticky', 'wet', 'fine_dust', 'sharp'];

  const tick = (key: string) => (ticked = [...new Set([...ticked, key])]);
  /** Left out of the run and wiped by hand later: Round reminds of it from today on. */
  async function later(check: Schemas['BeforeRunOut']) {
    if (!machine || floor.status !== 'ok') return;
    const text = check.by_hand.replace('{machine}', machine.name);
    const today = house.round.status === 'ok' ? house.round.data.today : '';
    if (await house.remind(machine.id, text, today, 'Round reminds of it until it is done.')) tick(check.key);
  }

  const turns = new Turns();
  async function load(id: string | null) {
    const query = id ? { machine_id: id } : {};
    const answer = await turns.latest(ask(client.GET('/api/floor', { params: { query } })));
    if (answer) floor = loaded(answer);
  }
  $effect(() => {
    const id = machine?.id ?? null;
    const known = house.round.status !== 'pending';
    untrack(() => known && void load(id));
  });

  /** "Drive wheels wiped, filter washed" for a mishap. */
  function forward(kind: Schemas['Mishap']): string {
    if (floor.status !== 'ok') return '';
    const told = (floor.data.brings_forward[kind] ?? []).map(
      ({ part, action }) => `${part} ${didWord(action)}`,
    );
    return told.join('; ').toLowerCase();
  }
  async function happened(kind: Schemas['Mishap']) {
    if (!machine) return;
    const due = forward(kind);
    const text = `${machine.name}, ${MISHAP[kind]}: ${due ? `due now: ${due}` : 'nothing is brought forward'}.`;
    await house.mishap(machine.id, { kind }, text);
  }
</script>

<svelte:head><title>Before a run · Yperon</title></svelte:head>

<Loaded load={floor} what="Opening the list" retry={() => void load(machine?.id ?? null)}>
  <div class="page">
    <section aria-label="Before a run" class="card">
      <div class="flex flex-wrap items-baseline justify-between gap-3">
        <h1>Before {machine ? machine.name : 'a machine'} runs</h1>
        {#if runners.length > 1}
          <label class="noprint"
            ><span class="sr-only">Machine</span>
            <select class="select" value={machine?.id} onchange={(e) => (chosen = e.currentTarget.value)}>
              {#each runners as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
            </select></label
          >
        {/if}
      </div>
      {#each machine?.dangers ?? [] as danger (danger.key)}
        <p class="ink-overdue font-bold">Do not run it: {danger.name}. {danger.now}</p>
      {/each}
      {#if machine?.empty_slots.length}
        <p class="ink-overdue mt-2 font-bold" role="status">
          Do not run it: {machine.empty_slots.join(', ').toLowerCase()} is out.
        </p>
      {/if}
      <ul class="mt-3 grid gap-2">
        {#each checks as check (check.key)}
          <li>
            <label class="check">
              <input type="checkbox" class="checkbox checkbox-lg" value={check.key} bind:group={ticked} />
              <span
                ><b>{check.text}</b>
                <span class="soft block text-sm">Such as {check.such_as.join(', ')}.</span></span
              >
            </label>
            {#if check.by_hand}
              <p class="noprint flex flex-wrap items-center gap-2 pl-12">
                <button class="btn btn-sm" onclick={() => tick(check.key)}>Wiped up</button>
                <button class="btn btn-sm" onclick={() => tick(check.key)}>Fenced off</button>
                <button
                  class="btn btn-sm"
                  disabled={!machine || !session.mayWrite || house.busy}
                  onclick={() => void later(check)}>Left out: by hand later, remind me</button
                >
              </p>
            {/if}
          </li>
        {/each}
      </ul>
      <div class="noprint mt-3 flex flex-wrap items-center gap-3">
        <button class="btn" onclick={() => window.print()}>Print this card</button>
        <p aria-live="polite" class="font-bold">{ready ? 'The floor is ready.' : ''}</p>
      </div>
    </section>

    <section aria-label="It happened" class="noprint">
      <h2>Did it run over or take in something?</h2>
      <p class="soft">Stop it first. What that harms is due at once, and Round says so.</p>
      <div class="mt-2 grid gap-2 sm:grid-cols-2">
        {#each MISHAPS as kind (kind)}
          <button
            class="btn h-auto justify-start py-2 text-left"
            disabled={!machine || !session.mayWrite || house.busy}
            onclick={() => void happened(kind)}
          >
            <span
              ><b>{MISHAP[kind].replace('after s', 'S').replace('after very', 'Very')}</b><small
                class="block text-sm font-normal"
                >{forward(kind) ? `then: ${forward(kind)}` : 'brings nothing forward here'}</small
              ></span
            >
          </button>
        {/each}
      </div>
    </section>

    <section aria-label="May I pick this up?" class="noprint">
      <h2>May I pick this up?</h2>
      <label class="input mt-1 w-full max-w-md"
        ><span class="sr-only">What is it?</span><input
          type="search"
          placeholder="ash, glass, flour, wet leaves…"
          bind:value={query}
        /></label
      >
      <ul class="mt-3 grid gap-2">
        {#each pickups as one (one.key)}
          <li class="panel p-3">
            <p><b>{one.name}:</b> <b class={INK[one.verdict]}>{VERDICT[one.verdict]}.</b> {one.why}</p>
            {#if one.instead}<p class="text-[0.95rem]">{one.instead}</p>{/if}
            {#if one.mishap && forward(one.mishap)}
              <p class="soft text-sm">If it happened: {forward(one.mishap)}.</p>
            {/if}
          </li>
        {:else}
          <li class="panel p-3">
            Not on this list. When in doubt, leave it: the label of the machine says what it is made for.
          </li>
        {/each}
      </ul>
      <p class="soft mt-2 text-sm">This advises. The label, local rules and licensed firms decide.</p>
    </section>
  </div>
</Loaded>

<style>
  .page {
    display: grid;
    gap: 1.75rem;
    max-width: 56rem;
    margin-inline: auto;
    padding: 1.25rem clamp(1rem, 2.5vw, 1.75rem) 6rem;
  }
  h2 {
    font-size: 1.2rem;
    font-weight: 800;
  }
  .card {
    padding: 1.25rem;
    background: var(--color-base-100);
    border: 1px solid var(--color-base-300);
    border-radius: var(--radius-box);
  }
  .check {
    display: flex;
    gap: 0.9rem;
    padding: 0.5rem;
    cursor: pointer;
    border-radius: 0.5rem;
  }
  .check:hover {
    background: var(--color-base-200);
  }
  @media print {
    .noprint {
      display: none;
    }
    .card {
      border: none;
    }
  }
</style>
