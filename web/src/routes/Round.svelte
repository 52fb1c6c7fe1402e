<!-- Round: the whole house at a glance, what to do first, and why. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { push } from 'svelte-spa-router';

  import { boardOrder } from '../lib/airpath/layout';
  import type { Schemas } from '../lib/api/client';
  import { keepPicks } from '../lib/state/picks';
  import { house } from '../lib/state/house.svelte';
  import { keys } from '../lib/state/keys.svelte';
  import { live } from '../lib/state/live';
  import { session } from '../lib/state/session.svelte';
  import { choreOf, seasonNow } from '../lib/state/season.svelte';
  import { toOrder } from '../lib/state/shelf.svelte';
  import { heardNow } from '../lib/state/devices.svelte';
  import { openCases } from '../lib/state/faults.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { byVisit, sorted, taskKey } from '../lib/words/groups';
  import { whenSeen } from '../lib/words/motion';
  import { sentence } from '../lib/words/round';
  import Board from './round/Board.svelte';
  import Else from './round/Else.svelte';
  import Foot from './round/Foot.svelte';
  import ToDo from './round/ToDo.svelte';

  type Task = Schemas['TaskOut'];

  /** Tasks taken off the sheet, or put on it though they are small, by hand. */
  const left = new SvelteSet<string>();
  const added = new SvelteSet<string>();
  let all = $state(false);
  let todo = $state<ReturnType<typeof ToDo> | null>(null);
  let board = $state<ReturnType<typeof Board> | null>(null);

  /** What lies beside and below the board is made one frame after the board can be seen. */
  let rest = $state(false);
  $effect(() => {
    if (!round || rest) return;
    whenSeen(() => (rest = true));
    besides();
    if (round.ahead?.stale) void seasonNow().then((answer) => answer && house.loadRound());
  });
  /** What stands beside the board, and is asked for by itself. */
  function besides() {
    void openCases().then((answer) => (cases = answer.status === 'ok' ? answer.data : []));
    void toOrder().then((answer) => (wanted = answer));
    void heardNow().then((answer) => (heard = answer ?? heard));
  }
  let cases = $state.raw<Schemas['OpenCaseOut'][]>([]);
  let wanted = $state.raw<Schemas['ToOrderOut'][]>([]);
  let heard = $state.raw<Schemas['FromDevicesOut'] | null>(null);
  const round = $derived(house.round.status === 'ok' ? house.round.data : null);
  const words = $derived(round ? sentence(round) : null);
  const bench = $derived(round?.sheets[0] ?? null);
  const visits = $derived(round ? byVisit(round) : { today: [], later: [] });
  const waiting = $derived(
    new Set((all ? [] : [...sorted(visits.today).rest, ...visits.later]).map(taskKey)),
  );
  /** Nothing is due, and there is a visit today: of what goes early. */
  const early = $derived(!visits.today.length && Boolean(round?.ahead?.today_min));
  const isLeft = (task: Task) =>
    left.has(taskKey(task)) || (waiting.has(taskKey(task)) && !added.has(taskKey(task)));
  const forSheet = $derived((round?.due ?? []).filter((task) => !isLeft(task)));

  const urgent = $derived(
    round !== null &&
      (round.reminders.length + round.faults.length + (heard?.ran_without.length ?? 0) > 0 ||
        round.machines.some((one) => one.dangers.length)),
  );

  void house.loadRound();
  const clock = setInterval(() => void refreshQuietly(), 60_000);
  onDestroy(() => clearInterval(clock));
  onDestroy(
    // The board first: what stands beside it would make the server slower at what somebody waits for.
    live.on(() => void house.loadRound().then(besides)),
  );

  async function refreshQuietly() {
    if (!document.hidden && house.round.status === 'ok') await house.loadRound();
  }

  async function open() {
    if (bench) return push(`/bench/${bench.id}`);
    if (early && !forSheet.length) return openVisit();
    if (!forSheet.length) return;
    keepPicks(forSheet.map(({ machine_id, slot, action }) => ({ machine_id, slot, action })));
    await push('/plan');
  }

  /** Today's visit as it is planned. */
  async function openVisit() {
    const season = await seasonNow();
    const today = season?.visits.find((one) => one.date === season.today);
    if (!today) return push('/season');
    keepPicks(today.jobs.map(choreOf));
    await push('/plan');
  }

  function choose(task: Task, want: boolean) {
    left[want ? 'delete' : 'add'](taskKey(task));
    if (want) added.add(taskKey(task));
  }
  /** Does something with the task that keys act on. */
  function withMarked(act: (task: Task) => void) {
    const task = todo?.marked();
    if (task) act(task);
  }

  onDestroy(
    keys.lend('Round', [
      {
        key: 'r',
        does: 'The machine of the marked task, else the first, ran its usual minutes',
        run: () => void ranFirst(),
      },
      { key: 'b', does: 'Plan the sitting', run: () => void open() },
      { key: 'j', does: 'Next task', run: () => todo?.move(1) },
      { key: 'k', does: 'Task before', run: () => todo?.move(-1) },
      {
        key: 'x',
        does: 'Put the task on the sheet, or leave it off',
        run: () => withMarked((task) => choose(task, isLeft(task))),
      },
      { key: 'd', does: 'The task is already done', run: () => session.mayWrite && todo?.tellDone() },
      { key: 'l', does: 'I looked: say what I found', run: () => session.mayWrite && todo?.tellLooked() },
      { key: '/', does: 'Search machines', run: () => board?.find() },
      {
        key: 'w',
        does: 'Why this date',
        run: () => withMarked((task) => void push(`/machines/${task.machine_id}/${task.slot}`)),
      },
    ]),
  );

  async function ranFirst() {
    const wanted = todo?.marked()?.machine_id;
    const runners = boardOrder(round?.machines ?? []).filter(
      (machine) => machine.serves === null && !machine.dangers.length && !machine.empty_slots.length,
    );
    const machine = runners.find((one) => one.id === wanted) ?? runners[0];
    if (machine && session.mayWrite && !house.busy) await house.ranAsUsual(machine);
  }
</script>

<svelte:head><title>Round · Yperon</title></svelte:head>

<Loaded load={house.round} what="Looking at every machine" retry={() => void house.loadRound()}>
  {#if round && words}
    {#if round.machines.length === 0}
      {#await import('./round/FirstMachine.svelte') then { default: FirstMachine }}<FirstMachine />{/await}
    {:else}
      <div class="round">
        <div class="page">
          <section class="lead" aria-label="Today">
            <div class="min-w-0">
              <h1>{words.head}</h1>
              <p class="soft">{words.why}</p>
            </div>
            {#if bench}
              <button class="btn btn-primary btn-lg" onclick={() => void open()}>Go on at the bench</button>
            {:else if visits.today.length || early || forSheet.length}
              <button
                class="btn btn-primary btn-lg"
                disabled={(!forSheet.length && !early) || !session.mayWrite}
                onclick={() => void open()}
              >
                Plan the sitting
              </button>
            {/if}
          </section>
          {#if urgent}
            {#await import('./round/Urgent.svelte') then { default: Urgent }}
              <Urgent {round} without={heard?.ran_without ?? []} mayWrite={session.mayWrite} />
            {/await}
          {/if}
          <div class="todo">
            {#if rest}
              <ToDo
                bind:this={todo}
                {round}
                {all}
                {isLeft}
                onchoose={choose}
                onall={(want) => (all = want)}
              />
              <Else today={round.today} mayWrite={session.mayWrite} />
            {/if}
          </div>
          <div class="board"><Board bind:this={board} {round} /></div>
        </div>
        {#if rest}<Foot {round} {cases} {wanted} {heard} />{/if}
      </div>
    {/if}
  {/if}
</Loaded>

<style>
  .round {
    display: flex;
    flex-direction: column;
    justify-content: space-between;
    min-height: calc(100dvh - var(--bar));
  }
  .page {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 0.6rem;
    width: 100%;
    max-width: 100rem;
    margin-inline: auto;
    padding: 0.6rem clamp(1rem, 2.5vw, 1.75rem) 0.4rem;
  }
  .lead {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: 0.75rem 1.5rem;
  }
  .lead > div {
    flex: 1 1 20rem;
  }
  @media (min-width: 68rem) {
    .page {
      grid-template-columns: minmax(0, 2fr) minmax(0, 1fr);
      grid-template-areas: 'lead lead' 'urgent urgent' 'board todo';
      column-gap: 2.5rem;
    }
    .lead {
      grid-area: lead;
    }
    .todo {
      grid-area: todo;
    }
    .board {
      grid-area: board;
    }
  }
  @media (max-width: 39.99rem) {
    .lead .btn {
      width: 100%;
    }
  }
</style>
