<!-- A machine: its air path, and the chosen part with both clocks, the reasons and what happened to it. -->
<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { MediaQuery } from 'svelte/reactivity';
  import { push, replace } from 'svelte-spa-router';

  import AirPath from '../lib/airpath/AirPath.svelte';
  import { boardOrder, type Chamber } from '../lib/airpath/layout';
  import { house } from '../lib/state/house.svelte';
  import { keys } from '../lib/state/keys.svelte';
  import { keepPicks } from '../lib/state/plan.svelte';
  import { session } from '../lib/state/session.svelte';
  import OutOfUse from '../lib/ui/OutOfUse.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { plural, restWords } from '../lib/words/format';
  import { usualWeek } from '../lib/words/round';
  import Dust from './machine/Dust.svelte';
  import AirLab from './machine/AirLab.svelte';
  import History from './machine/History.svelte';
  import Notes from './machine/Notes.svelte';
  import PutAway from './machine/PutAway.svelte';
  import Readings from './machine/Readings.svelte';
  import TimeLine from './machine/TimeLine.svelte';
  import Part from './machine/Part.svelte';
  import Rounds from './machine/Rounds.svelte';
  import Weeks from './machine/Weeks.svelte';

  let { params = {} }: { params?: { id?: string; slot?: string } } = $props();

  let lab = $state(false);
  const phone = new MediaQuery('max-width: 639px');
  const narrow = $derived(phone.current);
  const id = $derived(params.id ?? null);
  const page = $derived(
    house.machine.status === 'ok' && house.machine.data.strip.id === id ? house.machine.data : null,
  );
  const others = $derived(house.round.status === 'ok' ? boardOrder(house.round.data.machines) : []);
  const slot = $derived(params.slot ?? page?.first_slot ?? null);
  const part = $derived(page?.parts.find((one) => one.slot === slot) ?? page?.parts[0] ?? null);
  const chamber = $derived(page?.strip.chambers.find((one) => one.slots.includes(part?.slot ?? '')) ?? null);
  const together = $derived(page?.parts.filter((one) => chamber?.slots.includes(one.slot)) ?? []);

  /** All regular care of this machine: what has a date, of every part that is in; no new parts. */
  const service = $derived(
    (page?.parts ?? []).flatMap((one) =>
      one.item
        ? one.states
            .filter((state) => !state.is_life && state.action !== 'swap' && state.due !== null)
            .map((state) => ({ machine_id: page?.strip.id ?? '', slot: one.slot, action: state.action }))
        : [],
    ),
  );
  /** All regular care, or what is done against a complaint. */
  async function planService(which: string) {
    const together = page?.in_one_go.find((one) => one.key === which);
    keepPicks(together ? together.tasks : service);
    await push('/plan');
  }

  $effect(() => {
    const wanted = id;
    untrack(() => {
      if (wanted) void house.loadMachine(wanted);
      if (house.round.status !== 'ok') void house.loadRound();
    });
  });
  $effect(() => {
    const [first] = others;
    if (!id && first) void replace(`/machines/${first.id}`);
  });

  const go = (to: string) => void push(`/machines/${id}/${to}`);
  function select(one: Chamber) {
    if (!one.slots[0]) return;
    go(one.slots[0]);
    if (narrow) document.getElementById('part')?.scrollIntoView({ behavior: 'smooth' });
  }
  function walk(by: number) {
    const parts = page?.parts ?? [];
    const i = parts.findIndex((one) => one.slot === part?.slot);
    const next = parts[(i + by + parts.length) % parts.length];
    if (next) go(next.slot);
  }
  onDestroy(
    keys.lend('Machine', [
      { key: 'j', does: 'Next part', run: () => walk(1) },
      { key: 'k', does: 'Part before', run: () => walk(-1) },
    ]),
  );
</script>

<svelte:head><title>{page?.strip.name ?? 'Machine'} · Yperon</title></svelte:head>

{#if !id && house.round.status === 'ok' && others.length === 0}
  <div class="mx-auto max-w-xl p-6">
    <h1 class="text-3xl font-extrabold">No machine yet.</h1>
    <p class="mt-3"><a class="btn btn-primary" href="#/add">Add the first one</a></p>
    <PutAway mayWrite={session.mayWrite} />
  </div>
{:else if house.machine.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={house.machine.problem} retry={() => id && void house.loadMachine(id)} />
    <p class="mt-3"><a class="link" href="#/">Back to Round</a></p>
  </div>
{:else if !page || !part}
  <Waiting what="Opening the machine" />
{:else}
  <div class="page">
    <header class="top">
      <div>
        <h1>{page.strip.name}</h1>
        <p class="soft">
          {page.strip.kind} ·
          {#if page.strip.serves}counts what its robot runs{:else}usually {usualWeek(page.strip.usual)}{page
              .strip.usual.rule
              ? `; ${page.strip.usual.silence === 'ran' ? 'taken as run unless you say' : 'counted only when told'}`
              : ''}{/if}
        </p>
        {#if page.strip.resting && !page.strip.dangers.length}<p class="ink-due font-bold">
            {restWords(page.strip.resting)}
          </p>{/if}
      </div>
      <div class="flex flex-wrap content-start gap-2">
        {#if others.length > 1}
          <label
            ><span class="sr-only">Machine</span>
            <select
              class="select"
              value={id}
              onchange={(e) => void push(`/machines/${e.currentTarget.value}`)}
            >
              {#if !others.some((other) => other.id === id)}<option value={id}>{page.strip.name}</option>{/if}
              {#each others as other (other.id)}<option value={other.id}>{other.name}</option>{/each}
            </select></label
          >
        {/if}
        {#if session.mayWrite && service.length}
          <label
            ><span class="sr-only">Plan a sitting</span>
            <select class="select" value="" onchange={(e) => void planService(e.currentTarget.value)}>
              <option value="" disabled>Plan a sitting…</option>
              <option value="full">Full service</option>
              {#each page.in_one_go.filter((one) => !one.is_kit) as one (one.key)}<option value={one.key}
                  >{one.name}</option
                >{/each}
            </select></label
          >
        {/if}
        <a class="btn" href={`#/faults/${id}`}>Something is wrong</a>
        <a class="btn" href={`#/wear/${id}`}>Wear</a>
        {#if !page.strip.serves}<a class="btn" href={`#/floor/${id}`}>Before a run</a>{/if}
        <a class="btn" href={`#/machines/${id}/set-up`}>Change it</a>
      </div>
    </header>
    {#each page.strip.dangers as danger (danger.key)}
      <OutOfUse machine={page.strip} {danger} />
    {/each}
    {#if page.strip.unsure}
      <p
        class="panel border-l-4 border-l-[var(--unknown)] flex flex-wrap items-center justify-between gap-3 p-3"
      >
        <span
          ><b
            >Nobody knows how far {plural(page.strip.unsure, 'part')}
            {page.strip.unsure === 1 ? 'is' : 'are'}.</b
          > One look at each makes its date firm.</span
        >
        <a class="btn btn-sm btn-primary" href={`#/look/${id}`}>Look round</a>
      </p>
    {/if}
    {#if page.strip.empty_slots.length}
      <p class="panel border-l-4 border-l-error p-3 font-bold" role="status">
        Out of use: {page.strip.empty_slots.join(', ').toLowerCase()} is out. Do not run it without.
      </p>
    {/if}
    <section class="panel strip" aria-label="Air path">
      <AirPath
        chambers={page.strip.chambers}
        now={page.now}
        name={page.strip.name}
        upright={narrow}
        selected={chamber?.key ?? null}
        onselect={select}
      />
    </section>
    <div class="below">
      <section id="part" class="min-w-0">
        {#if together.length > 1}
          <div class="mb-2 flex flex-wrap gap-2" role="group" aria-label="Parts here">
            {#each together as one (one.slot)}
              <button
                class={['btn btn-sm', one.slot === part.slot && 'btn-primary']}
                aria-pressed={one.slot === part.slot}
                onclick={() => go(one.slot)}>{one.name}</button
              >
            {/each}
          </div>
        {/if}
        {#key part.slot}
          <Part {part} machine={page.strip} now={page.now} today={page.today} mayWrite={session.mayWrite} />
        {/key}
        <div class="mt-5">
          <TimeLine parts={page.parts} today={page.today} selected={part.slot} onselect={go} />
        </div>
      </section>
      <div class="grid content-start gap-5">
        <History
          lines={page.history}
          parts={page.parts}
          slot={part.slot}
          today={page.today}
          mayWrite={session.mayWrite}
          filters={`#/filters/${id}`}
        />
        <Notes
          machine_id={page.strip.id}
          slot={part.slot}
          slot_name={part.name}
          mayWrite={session.mayWrite}
        />
        <Dust machine={page} />
        <Readings machine_id={page.strip.id} parts={page.parts} />
        <Weeks weeks={page.weeks} />
        <Rounds
          machine_id={page.strip.id}
          together={page.in_one_go}
          onplan={(key) => void planService(key)}
        />
      </div>
    </div>
    {#if page.strip.chambers.some((one) => one.column === 'motor')}
      <details class="panel" ontoggle={(event) => (lab = event.currentTarget.open)}>
        <summary class="p-4 font-bold">Air lab: what a full filter, a clog or a leak would do</summary>
        {#if lab}<AirLab strip={page.strip} now={page.now} />{/if}
      </details>
    {/if}
    <PutAway mayWrite={session.mayWrite} />
  </div>
{/if}

<style>
  .page {
    display: grid;
    gap: 1rem;
    max-width: 84rem;
    margin-inline: auto;
    padding: 1.25rem clamp(1rem, 2.5vw, 1.75rem) 5rem;
  }
  .top {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0.5rem 2rem;
  }
  .strip {
    padding: 1rem 0.75rem;
  }
  .below {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 22rem;
    gap: 1.25rem 2rem;
  }
  @media (max-width: 959px) {
    .below {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
