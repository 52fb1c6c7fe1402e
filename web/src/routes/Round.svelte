<!-- Round: the whole house at a glance, what to do first, and why. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { push } from 'svelte-spa-router';

  import { boardOrder } from '../lib/airpath/layout';
  import type { Schemas } from '../lib/api/client';
  import { keepPicks } from '../lib/state/plan.svelte';
  import { house } from '../lib/state/house.svelte';
  import { keys } from '../lib/state/keys.svelte';
  import { session } from '../lib/state/session.svelte';
  import { toOrder } from '../lib/state/shelf.svelte';
  import { openCases } from '../lib/state/faults.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import OutOfUse from '../lib/ui/OutOfUse.svelte';
  import { day } from '../lib/words/format';
  import { byOpening } from '../lib/words/groups';
  import { orderBy, TONE } from '../lib/words/shelf';
  import { sentence } from '../lib/words/round';
  import AtFault from './round/AtFault.svelte';
  import Board from './round/Board.svelte';
  import DidItRun from './round/DidItRun.svelte';
  import Rack from './round/Rack.svelte';
  import Tasks from './round/Tasks.svelte';
  import WholeHouse from './round/WholeHouse.svelte';

  type Task = Schemas['TaskOut'];

  /** So many machines fit beside the board as "did it run?"; of more, one is chosen. */
  const ASKED = 8;
  const SEARCH_FROM = 10;
  const left = new SvelteSet<string>();
  let at = $state(-1);
  let query = $state('');
  let only = $state<'all' | 'hands' | 'unknown'>('all');
  let tasks = $state<ReturnType<typeof Tasks> | null>(null);
  let search = $state<HTMLInputElement | null>(null);

  /** What lies beside and below the board is made one frame after the board can be seen. */
  let rest = $state(false);
  $effect(() => {
    if (!round || rest) return;
    requestAnimationFrame(() => setTimeout(() => (rest = true)));
    void openCases().then((told) => (cases = told.status === 'ok' ? told.data : []));
    void toOrder().then((told) => (wanted = told));
  });
  /** What is still being looked for. */
  let cases = $state.raw<Schemas['OpenCaseOut'][]>([]);
  /** Parts that want ordering soon. */
  let wanted = $state.raw<Schemas['ToOrderOut'][]>([]);
  const round = $derived(house.round.status === 'ok' ? house.round.data : null);
  const words = $derived(round ? sentence(round) : null);
  const machines = $derived(round ? boardOrder(round.machines) : []);
  const runners = $derived(machines.filter((machine) => machine.serves === null && !machine.dangers.length));
  /** Of many machines the one that is asked about; else all of them. */
  let which = $state('');
  const asked = $derived(
    runners.length > ASKED
      ? [runners.find((machine) => machine.id === which) ?? runners[0]].filter((one) => one !== undefined)
      : runners,
  );
  const keyOf = (task: Task) => `${task.machine_id}/${task.slot}/${task.action}`;
  const bench = $derived(round?.sheets[0] ?? null);
  /** The due tasks in the order in which they are listed. */
  const listed = $derived(byOpening(round?.due ?? []).flatMap((group) => group.tasks));
  const forSheet = $derived(listed.filter((task) => !left.has(keyOf(task))));

  void house.loadRound();
  const clock = setInterval(() => void refreshQuietly(), 60_000);
  onDestroy(() => clearInterval(clock));

  async function refreshQuietly() {
    if (!document.hidden && house.round.status === 'ok') await house.loadRound();
  }

  async function open() {
    if (bench) return push(`/bench/${bench.id}`);
    if (!forSheet.length) return;
    keepPicks(forSheet.map(({ machine_id, slot, action }) => ({ machine_id, slot, action })));
    await push('/plan');
  }

  function choose(task: Task, want: boolean) {
    if (want) left.delete(keyOf(task));
    else left.add(keyOf(task));
  }

  function move(by: number) {
    const count = listed.length;
    if (count) at = (at + by + count) % count;
  }

  const current = $derived(listed[at] ?? null);
  const takeBack = keys.lend('Round', [
    {
      key: 'r',
      does: 'The machine of the marked task, else the first, ran its usual minutes',
      run: () => void ranFirst(),
    },
    { key: 'b', does: 'Plan the sitting', run: () => void open() },
    { key: 'j', does: 'Next task', run: () => move(1) },
    { key: 'k', does: 'Task before', run: () => move(-1) },
    {
      key: 'x',
      does: 'Put the task on the sheet, or leave it off',
      run: () => current && choose(current, left.has(keyOf(current))),
    },
    { key: 'd', does: 'The task is already done', run: () => tasks?.tellDone(current) },
    { key: '/', does: 'Search machines', run: () => search?.focus() },
    {
      key: 'w',
      does: 'Why this date',
      run: () => current && void push(`/machines/${current.machine_id}/${current.slot}`),
    },
  ]);
  onDestroy(takeBack);

  async function ranFirst() {
    const wanted = current?.machine_id;
    const machine =
      runners.find((one) => one.id === wanted) ?? runners.find((one) => one.empty_slots.length === 0);
    if (machine && session.mayWrite && !house.busy)
      await house.logRun(machine, { minutes: machine.usual.minutes });
  }
</script>

<svelte:head><title>Round · Yperon</title></svelte:head>

<Loaded load={house.round} what="Looking at every machine" retry={() => void house.loadRound()}>
  {#if round && words}
    {#if round.machines.length === 0}
      <div class="mx-auto grid max-w-xl gap-4 p-6 pb-40">
        <h1>No machine yet.</h1>
        <p>
          Add the first one: pick it by its picture, say when it runs, and its dates stand here. It takes a
          minute or two.
        </p>
        <p class="flex flex-wrap gap-3">
          <a class="btn btn-primary btn-lg" href="#/add">Add a machine</a>
          <a class="btn btn-lg" href="#/household">Tell of your household</a>
        </p>
      </div>
    {:else}
      <div class="page">
        <section class="lead" aria-label="Today">
          <div class="min-w-0">
            <h1>{words.head}</h1>
            <p class="soft">{words.why}</p>
          </div>
          {#if bench}
            <button class="btn btn-primary btn-lg" onclick={() => void open()}>Go on at the bench</button>
          {:else if round.due.length}
            <button
              class="btn btn-primary btn-lg"
              disabled={!forSheet.length || !session.mayWrite}
              onclick={() => void open()}
            >
              Plan the sitting
            </button>
          {/if}
        </section>

        {#each machines as machine (machine.id)}
          {#each machine.dangers as danger (danger.key)}
            <div class="faults"><OutOfUse {machine} {danger} /></div>
          {/each}
        {/each}
        {#if round.reminders.length}
          <ul class="faults grid gap-2" aria-label="Reminders">
            {#each round.reminders as one (one.entry_id)}
              <li class="panel flex flex-wrap items-center justify-between gap-3 p-3">
                <span
                  ><b>{one.text}</b>
                  <span class="soft">asked for {one.on === round.today ? 'today' : day(one.on)}</span></span
                >
                <button
                  class="btn btn-sm"
                  disabled={!session.mayWrite || house.busy}
                  onclick={() => void house.reminded(one)}>Done</button
                >
              </li>
            {/each}
          </ul>
        {/if}
        {#if round.faults.length}
          <div class="faults grid gap-2">
            {#each round.faults as fault (fault.machine_id)}
              <AtFault {fault} mayWrite={session.mayWrite} />
            {/each}
          </div>
        {/if}

        <div class="board">
          {#if machines.length > SEARCH_FROM}
            <div class="filter">
              <label class="input grow"
                ><span class="sr-only">Search machines</span><input
                  type="search"
                  placeholder="Search machines"
                  bind:value={query}
                  bind:this={search}
                /></label
              >
              <div class="join" role="group" aria-label="Which machines">
                {#each [{ key: 'all', text: 'All' }, { key: 'hands', text: 'Want hands' }, { key: 'unknown', text: 'Not known' }] as const as { key, text } (key)}
                  <button
                    class={['btn btn-sm join-item', only === key && 'btn-primary']}
                    aria-pressed={only === key}
                    onclick={() => (only = key)}>{text}</button
                  >
                {/each}
              </div>
            </div>
          {/if}
          <Board {round} {query} {only} />
        </div>

        <div class="tasks">
          {#if rest}
            <Tasks
              bind:this={tasks}
              {round}
              {current}
              isLeft={(task) => left.has(keyOf(task))}
              onchoose={choose}
            />
          {/if}
        </div>

        <aside>
          {#if rest}
            <section>
              <h2>Did it run?</h2>
              <div class="grid gap-2">
                {#if runners.length > ASKED}
                  <label
                    ><span class="sr-only">Which machine?</span>
                    <select
                      class="select w-full"
                      value={asked[0]?.id}
                      onchange={(e) => (which = e.currentTarget.value)}
                    >
                      {#each runners as machine (machine.id)}<option value={machine.id}>{machine.name}</option
                        >{/each}
                    </select></label
                  >
                {/if}
                {#each asked as machine (machine.id)}
                  <DidItRun {machine} today={round.today} mayWrite={session.mayWrite} />
                {/each}
                <div class="flex flex-wrap gap-2">
                  <WholeHouse today={round.today} mayWrite={session.mayWrite} />
                  {#each cases as one (one.id)}
                    <a class="btn btn-sm" href={`#/faults/case/${one.id}`}
                      >Go on: {one.machine}, {one.symptoms.join(', ').toLowerCase()}</a
                    >
                  {/each}
                  <a class="btn btn-sm" href="#/faults">Something is wrong</a>
                  <a class="btn btn-sm" href="#/floor">Before a run</a>
                  {#if session.mayWrite}<a class="btn btn-sm" href="#/add">Add a machine</a>{/if}
                </div>
              </div>
            </section>
            <section>
              <h2>On the rack</h2>
              <Rack rack={round.rack} now={round.now} mayWrite={session.mayWrite} />
            </section>
            {#if wanted.length}
              <section>
                <h2>To buy</h2>
                <ul class="grid gap-2">
                  {#each wanted as one (one.id)}
                    <li>
                      <a class="wanted" href="#/shelf" style:--tone={`var(--${TONE[one.supply]})`}>
                        <b>{one.name}</b>
                        <span
                          >{one.supply === 'waits'
                            ? 'Needed now, and there is none.'
                            : `${one.on_hand} left. Order ${one.order_by ? orderBy(one.order_by, round.today) : 'soon'}.`}</span
                        >
                      </a>
                    </li>
                  {/each}
                </ul>
              </section>
            {/if}
          {/if}
        </aside>
      </div>
    {/if}
  {/if}
</Loaded>

<style>
  .page {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 19rem;
    grid-template-areas: 'lead lead' 'faults faults' 'board aside' 'tasks aside';
    grid-template-rows: auto auto auto 1fr;
    gap: 1.25rem 2rem;
    max-width: 84rem;
    margin-inline: auto;
    padding: 1.25rem clamp(1rem, 2.5vw, 1.75rem) 5rem;
  }
  .lead {
    grid-area: lead;
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 1.5rem;
  }
  .lead p {
    margin-top: 0.3rem;
    max-width: 60rem;
  }
  section > h2 {
    margin-bottom: 0.5rem;
    font-size: 1.1rem;
    font-weight: 800;
  }
  .faults {
    grid-area: faults;
  }
  .board {
    grid-area: board;
    min-width: 0;
  }
  .filter {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    margin-bottom: 0.6rem;
  }
  .tasks {
    grid-area: tasks;
    min-width: 0;
  }
  .wanted {
    display: grid;
    padding: 0.4rem 0.75rem;
    border-left: 4px solid var(--tone);
  }
  .wanted b {
    text-decoration: underline;
    text-underline-offset: 0.2em;
  }
  aside {
    grid-area: aside;
    display: grid;
    align-content: start;
    gap: 1.5rem;
  }
  @media (max-width: 959px) {
    .page {
      grid-template-columns: minmax(0, 1fr);
      grid-template-areas: 'lead' 'faults' 'aside' 'board' 'tasks';
      grid-template-rows: none;
    }
  }
  @media (max-width: 639px) {
    .page {
      grid-template-areas: 'lead' 'faults' 'aside' 'tasks' 'board';
      padding-top: 1rem;
    }
    .lead {
      flex-direction: column;
      align-items: stretch;
    }
  }
</style>
