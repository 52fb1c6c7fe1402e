<!-- Round: the whole house at a glance, what to do first, and why. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { MediaQuery, SvelteSet } from 'svelte/reactivity';
  import { push } from 'svelte-spa-router';

  import AirPath from '../lib/airpath/AirPath.svelte';
  import { tag } from '../lib/airpath/words';
  import { boardOrder, type Chamber, columnX, usedColumns } from '../lib/airpath/layout';
  import type { Schemas } from '../lib/api/client';
  import { openSheet } from '../lib/state/bench.svelte';
  import { house } from '../lib/state/house.svelte';
  import { keys } from '../lib/state/keys.svelte';
  import { session } from '../lib/state/session.svelte';
  import AlreadyDone from '../lib/ui/AlreadyDone.svelte';
  import Modal from '../lib/ui/Modal.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { restWords, when } from '../lib/words/format';
  import { doWord, sentence, usualWeek } from '../lib/words/tasks';
  import AddMachine from './round/AddMachine.svelte';
  import DidItRun from './round/DidItRun.svelte';
  import Rack from './round/Rack.svelte';
  import TaskRow from './round/TaskRow.svelte';
  import WholeHouse from './round/WholeHouse.svelte';

  type Task = Schemas['TaskOut'];

  const narrow = new MediaQuery('max-width: 639px');
  const left = new SvelteSet<string>();
  let done = $state.raw<Task | null>(null);
  let at = $state(-1);
  let boardWidth = $state(600);

  const round = $derived(house.round.status === 'ok' ? house.round.data : null);
  const words = $derived(round ? sentence(round) : null);
  const machines = $derived(round ? boardOrder(round.machines) : []);
  const columns = $derived(usedColumns(machines));
  const runners = $derived(machines.filter((machine) => machine.serves === null));
  const keyOf = (task: Task) => `${task.machine_id}/${task.slot}/${task.action}`;
  const bench = $derived(round?.sheets[0] ?? null);
  /** A sheet is for one machine: the one with the first task that is chosen. */
  const chosen = $derived((round?.due ?? []).filter((task) => !left.has(keyOf(task))));
  const first = $derived(chosen[0] ?? null);
  const forSheet = $derived(chosen.filter((task) => task.machine_id === first?.machine_id));
  const size = $derived(machines.length <= 2 ? 'tall' : machines.length <= 4 ? 'low' : 'slim');
  let adding = $state(false);
  /** On a phone each machine is one line of what it wants; its upright strip opens below. */
  const folds = $derived(narrow.current && machines.length > 2);
  const wanting = (machine: Schemas['StripOut']) =>
    machine.chambers.filter((one) => ['due', 'overdue', 'missing', 'drying'].includes(one.level ?? ''));

  void house.loadRound();
  const clock = setInterval(() => void refreshQuietly(), 60_000);
  onDestroy(() => clearInterval(clock));

  async function refreshQuietly() {
    if (!document.hidden && house.round.status === 'ok') await house.loadRound();
  }

  async function open() {
    if (bench) return push(`/bench/${bench.id}`);
    if (!first) return;
    const picks = forSheet.map(({ slot, action }) => ({ slot, action }));
    const id = await openSheet(first.machine_id, picks);
    if (id) await push(`/bench/${id}`);
  }

  function choose(task: Task, want: boolean) {
    if (want) left.delete(keyOf(task));
    else left.add(keyOf(task));
  }

  function show(machine: Schemas['StripOut'], chamber: Chamber) {
    void push(`/machines/${machine.id}/${chamber.slots[0] ?? ''}`);
  }

  function move(by: number) {
    const count = round?.due.length ?? 0;
    if (count) at = (at + by + count) % count;
  }

  const current = $derived(round?.due[at] ?? null);
  const takeBack = keys.lend('Round', [
    {
      key: 'r',
      does: 'The machine of the marked task, else the first, ran its usual minutes',
      run: () => void ranFirst(),
    },
    { key: 'b', does: 'Open the bench sheet', run: () => void open() },
    { key: 'j', does: 'Next task', run: () => move(1) },
    { key: 'k', does: 'Task before', run: () => move(-1) },
    {
      key: 'x',
      does: 'Put the task on the sheet, or leave it off',
      run: () => current && choose(current, left.has(keyOf(current))),
    },
    { key: 'd', does: 'The task is already done', run: () => (done = current) },
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

{#snippet who(machine: Schemas['StripOut'])}
  <div class="who">
    <h2><a class="hover:underline" href={`#/machines/${machine.id}`}>{machine.name}</a></h2>
    {#if machine.serves === null}<p class="soft">{usualWeek(machine.usual)}</p>{/if}
    {#if machine.resting}<p class="ink-due">{restWords(machine.resting)}</p>{/if}
    {#if machine.empty_slots.length}
      <p class="ink-overdue font-bold">out of use: {machine.empty_slots.join(', ').toLowerCase()} is out</p>
    {/if}
  </div>
{/snippet}

{#snippet strip(machine: Schemas['StripOut'])}
  {#if round}
    <AirPath
      chambers={machine.chambers}
      now={round.now}
      name={machine.name}
      {columns}
      {size}
      upright={narrow.current}
      onselect={(chamber) => show(machine, chamber)}
    />
  {/if}
{/snippet}

{#if house.round.status === 'pending'}
  <Waiting what="Looking at every machine" />
{:else if house.round.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={house.round.problem} retry={() => void house.loadRound()} />
  </div>
{:else if round && words}
  {#if round.machines.length === 0}
    <div class="mx-auto max-w-xl p-6 pb-40">
      <AddMachine machines={[]} />
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
            Open the bench sheet
          </button>
        {/if}
      </section>

      <section class="board" aria-label="House board">
        {#if !narrow.current}
          <div class="head" aria-hidden="true">
            <span class="soft">the air goes this way →</span>
            <div class="columns" bind:clientWidth={boardWidth}>
              {#each columns as column (column)}
                <span style:left={`${columnX(column, columns, boardWidth)}px`}>{column}</span>
              {/each}
            </div>
          </div>
        {/if}
        {#each machines as machine (machine.id)}
          <div class={['machine', machine.serves && 'serving', size]}>
            {@render who(machine)}
            {#if folds}
              <details>
                <summary>
                  <span class="wants">
                    {#each wanting(machine) as chamber (chamber.key)}
                      <span class={`ink-${chamber.level}`}>{chamber.label}: {tag(chamber, round.now)}</span>
                    {:else}
                      <span class="soft">nothing wants hands</span>
                    {/each}
                  </span>
                </summary>
                {@render strip(machine)}
              </details>
            {:else}
              {@render strip(machine)}
            {/if}
          </div>
        {/each}
      </section>

      <section class="tasks">
        <h2>Due, most at stake first</h2>
        {#if round.due.length}
          <ol class="panel">
            {#each round.due as task, i (keyOf(task))}
              <TaskRow
                {task}
                chosen={!left.has(keyOf(task))}
                current={i === at}
                mayWrite={session.mayWrite}
                onchoose={(want) => choose(task, want)}
                ondone={() => (done = task)}
              />
            {/each}
          </ol>
          {#if round.due_count > round.due.length}
            <p class="soft mt-2">
              And {round.due_count - round.due.length} more, less at stake, on the machines' own pages.
            </p>
          {/if}
        {:else}
          <p class="panel p-4">
            Nothing is due. Dates move when machines run and when you say what you found.
          </p>
        {/if}
        {#if round.coming.length}
          <h2>Coming</h2>
          <ul class="coming">
            {#each round.coming as task (keyOf(task))}
              <li>
                <a class="hover:underline" href={`#/machines/${task.machine_id}/${task.slot}`}>
                  {task.slot_name}: {doWord(task.action)}
                </a>
                <span class="soft">{task.machine_name}, {when(task.due, round.today)}</span>
              </li>
            {/each}
          </ul>
        {/if}
      </section>

      <aside>
        <section>
          <h2>Did it run?</h2>
          <div class="grid gap-2">
            {#each runners as machine (machine.id)}
              <DidItRun {machine} today={round.today} mayWrite={session.mayWrite} />
            {/each}
            <div class="flex flex-wrap gap-2">
              <WholeHouse today={round.today} mayWrite={session.mayWrite} />
              <button class="btn btn-sm" disabled={!session.mayWrite} onclick={() => (adding = true)}
                >Add a machine…</button
              >
            </div>
          </div>
        </section>
        <section>
          <h2>On the rack</h2>
          <Rack rack={round.rack} now={round.now} mayWrite={session.mayWrite} />
        </section>
      </aside>
    </div>
  {/if}
  {#if adding}
    <Modal title="Add a machine" onclose={() => (adding = false)}>
      <AddMachine machines={round.machines} onadded={() => (adding = false)} />
    </Modal>
  {/if}
  {#if done}
    <AlreadyDone task={done} today={round.today} onclose={() => (done = null)} />
  {/if}
{/if}

<style>
  .page {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 19rem;
    grid-template-areas: 'lead lead' 'board aside' 'tasks aside';
    grid-template-rows: auto auto 1fr;
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
  h1 {
    font-size: clamp(1.5rem, 2.6vw, 2rem);
    font-weight: 800;
    line-height: 1.15;
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
  .board {
    grid-area: board;
  }
  .head,
  .machine {
    display: grid;
    grid-template-columns: 11.5rem minmax(0, 1fr);
    gap: 0.5rem;
  }
  .head {
    font-size: 0.85rem;
  }
  .columns {
    position: relative;
  }
  .columns span {
    position: absolute;
    transform: translateX(-50%);
    color: var(--soft);
  }
  .machine {
    padding-block: 0.5rem 0.75rem;
    border-bottom: 1px solid var(--color-base-300);
  }
  .machine.slim {
    padding-block: 0.15rem 0.25rem;
  }
  .machine:has(+ .serving) {
    border-bottom-color: transparent;
  }
  .serving .who {
    padding-left: 0.9rem;
    border-left: 3px solid var(--duct);
  }
  .serving .who h2 {
    font-size: 1rem;
    font-weight: 600;
  }
  summary {
    cursor: pointer;
    padding-block: 0.35rem;
  }
  .wants {
    font-weight: 700;
  }
  .wants span {
    display: inline-block;
    margin-right: 1rem;
  }
  .wants .soft {
    font-weight: 400;
  }
  .who {
    align-self: center;
  }
  .who h2 a {
    display: inline-block;
    min-height: 1.6rem;
  }
  .who h2 {
    font-size: 1.15rem;
    font-weight: 800;
  }
  .who p {
    font-size: 0.9rem;
  }
  .tasks {
    grid-area: tasks;
    min-width: 0;
  }
  .tasks h2 + * {
    margin-bottom: 1.25rem;
  }
  .coming {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr));
    gap: 0.6rem 1.5rem;
  }
  .coming li {
    display: grid;
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
      grid-template-areas: 'lead' 'aside' 'board' 'tasks';
      grid-template-rows: none;
    }
  }
  @media (max-width: 639px) {
    .page {
      grid-template-areas: 'lead' 'aside' 'tasks' 'board';
      padding-top: 1rem;
    }
    .lead {
      flex-direction: column;
      align-items: stretch;
    }
    .machine {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
