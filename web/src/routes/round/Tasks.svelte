<!-- What is due, most at stake first, put together by what has to be opened; what was put off; what is coming. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import AlreadyDone from '../../lib/ui/AlreadyDone.svelte';
  import Look from '../../lib/ui/Look.svelte';
  import { day, plural, when } from '../../lib/words/format';
  import { byOpening } from '../../lib/words/groups';
  import { doWord } from '../../lib/words/tasks';
  import Later from './Later.svelte';
  import TaskRow from './TaskRow.svelte';

  type Task = Schemas['TaskOut'];
  let {
    round,
    current,
    isLeft,
    onchoose,
  }: {
    round: Schemas['RoundOut'];
    current: Task | null;
    isLeft: (task: Task) => boolean;
    onchoose: (task: Task, want: boolean) => void;
  } = $props();

  let done = $state.raw<Task | null>(null);
  let looked = $state.raw<Task | null>(null);
  let later = $state.raw<Task | null>(null);
  const groups = $derived(byOpening(round.due));
  const dark = $derived(round.machines.filter((machine) => machine.unsure > 0));
  /** What comes soon behind the same opening: it may as well be done while that is off. */
  function besides(task: Task): Task[] {
    return round.coming.filter((one) => one.machine_id === task.machine_id && one.opening === task.opening);
  }
  const keyOf = (task: Task) => `${task.machine_id}/${task.slot}/${task.action}`;

  export function tellDone(task: Task | null): void {
    done = task;
  }
</script>

<section class="tasks">
  {#if dark.length}
    <div class="panel dark">
      {#each dark as machine (machine.id)}
        <p>
          <b
            >{machine.name}: nobody knows how far {plural(machine.unsure, 'part')}
            {machine.unsure === 1 ? 'is' : 'are'}.</b
          >
          One look round, about {machine.unsure} min, makes {machine.unsure === 1
            ? 'its date'
            : 'their dates'} firm.
        </p>
        <a class="btn btn-sm" href={`#/look/${machine.id}`}>Look round {machine.name}</a>
      {/each}
    </div>
  {/if}
  <h2>Due, most at stake first</h2>
  {#if round.due.length}
    <ol class="panel">
      {#each groups as group (group.key)}
        {#if group.tasks.length > 1}
          <li class="opening">While the {group.opening} of {group.machine} is off:</li>
        {/if}
        {#each group.tasks as task (keyOf(task))}
          <TaskRow
            {task}
            chosen={!isLeft(task)}
            current={current !== null && keyOf(current) === keyOf(task)}
            mayWrite={session.mayWrite}
            me={session.member?.id ?? null}
            onchoose={(want) => onchoose(task, want)}
            ondone={() => (done = task)}
            onlook={() => (looked = task)}
            onlater={() => (later = task)}
          />
        {/each}
        {@const also = group.opening && group.tasks[0] ? besides(group.tasks[0]) : []}
        {#if also.length}
          <li class="also soft">
            While the {group.opening} is off: {also
              .map(
                (one) =>
                  `${one.slot_name.toLowerCase()} (${doWord(one.action)}) comes ${when(one.due, round.today)}`,
              )
              .join('; ')}.
          </li>
        {/if}
      {/each}
    </ol>
    {#if round.due_count > round.due.length}
      <p class="soft mt-2">
        And {round.due_count - round.due.length} more, less at stake, on the machines' own pages.
      </p>
    {/if}
  {:else}
    <p class="panel p-4">Nothing is due. Dates move when machines run and when you say what you found.</p>
  {/if}
  {#if round.put_off.length}
    <h2>Put off</h2>
    <ul class="panel">
      {#each round.put_off as task (keyOf(task))}
        <li class="waits">
          <span
            ><a class="hover:underline" href={`#/machines/${task.machine_id}/${task.slot}`}
              >{task.slot_name}: {doWord(task.action)}</a
            >
            <span class="soft"
              >{task.machine_name}, until {task.put_off ? day(task.put_off.until) : ''}: {task.put_off
                ?.reason}{task.put_off?.by ? ` (${task.put_off.by})` : ''}</span
            ></span
          >
          {#if task.put_off}
            {@const entry = task.put_off.entry_id}
            <button
              class="btn btn-sm"
              disabled={!session.mayWrite || house.busy}
              onclick={() => void house.undo(entry)}>Back on the list</button
            >
          {/if}
        </li>
      {/each}
    </ul>
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

{#if done}
  <AlreadyDone task={done} today={round.today} onclose={() => (done = null)} />
{/if}
{#if looked}
  <Look
    machine_id={looked.machine_id}
    slot={looked.slot}
    name={looked.slot_name}
    abouts={[{ action: looked.about, asked: looked.asked }]}
    onclose={() => (looked = null)}
  />
{/if}
{#if later}
  <Later task={later} today={round.today} onclose={() => (later = null)} />
{/if}

<style>
  .tasks {
    min-width: 0;
  }
  h2 {
    margin-bottom: 0.5rem;
    font-size: 1.1rem;
    font-weight: 800;
  }
  h2 + * {
    margin-bottom: 1.25rem;
  }
  .dark {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    align-items: center;
    gap: 0.5rem 1rem;
    margin-bottom: 1.25rem;
    padding: 0.75rem 0.9rem;
    border-left: 4px solid var(--unknown);
  }
  .opening {
    padding: 0.6rem 0.9rem 0;
    border-top: 1px solid var(--color-base-300);
    font-weight: 700;
  }
  .also {
    padding: 0 0.9rem 0.7rem 5.2rem;
    font-size: 0.95rem;
  }
  .opening + :global(li) {
    border-top: none;
  }
  ol > :global(li:first-child) {
    border-top: none;
  }
  .waits {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 0.5rem;
    padding: 0.6rem 0.9rem;
    border-top: 1px solid var(--color-base-300);
  }
  .waits:first-child {
    border-top: none;
  }
  .coming {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr));
    gap: 0.6rem 1.5rem;
  }
  .coming li {
    display: grid;
  }
  @media (max-width: 639px) {
    .dark {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
