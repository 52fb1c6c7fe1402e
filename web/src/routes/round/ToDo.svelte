<!-- What wants hands, most at stake first, put together by what has to be opened; then what was put off and what comes. -->
<script lang="ts">
  import { tick } from 'svelte';
  import { flip } from 'svelte/animate';
  import { push } from 'svelte-spa-router';

  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { day, minutesWords, plural, when } from '../../lib/words/format';
  import { byOpening, byVisit, sorted, taskKey } from '../../lib/words/groups';
  import { moving } from '../../lib/words/motion';
  import { near } from '../../lib/words/round';
  import { doWord } from '../../lib/words/tasks';
  import TaskRow from './TaskRow.svelte';

  type Task = Schemas['TaskOut'];
  let {
    round,
    all,
    isLeft,
    onchoose,
    onall,
  }: {
    round: Schemas['RoundOut'];
    /** Whether small ones of a long list are shown, too. */
    all: boolean;
    isLeft: (task: Task) => boolean;
    onchoose: (task: Task, want: boolean) => void;
    onall: (all: boolean) => void;
  } = $props();

  let done = $state.raw<Task | null>(null);
  let looked = $state.raw<Task | null>(null);
  let later = $state.raw<Task | null>(null);
  let opened = $state<string | null>(null);
  let at = $state(-1);
  let list = $state<HTMLElement | null>(null);
  const visits = $derived(byVisit(round));
  const cut = $derived(sorted(visits.today));
  const groups = $derived(byOpening(all ? round.due : cut.first));
  /** The rows in the order in which they are listed. */
  const listed = $derived(groups.flatMap((group) => group.tasks));
  const current = $derived(listed[at] ?? null);
  const dark = $derived(round.machines.filter((machine) => machine.unsure > 0));
  const rested = $derived(
    round.rack.filter(
      ({ item }) => !item.locked_until || Date.parse(item.locked_until) <= Date.parse(round.now),
    ),
  );
  const beyond = $derived(round.due_count - round.due.length);
  const atVisit = $derived.by(() => {
    const on = visits.later.length ? round.ahead?.later[0]?.on : undefined;
    if (!on) return '';
    const said = `${plural(visits.later.length, 'small one')} for the visit of ${near(round.today, on)}`;
    return cut.rest.length ? `; ${said}` : said;
  });
  const waits = $derived(
    !cut.rest.length
      ? ''
      : cut.small
        ? `${cut.rest.length + beyond} small ones, ${minutesWords(round.small_min)}, less at stake`
        : `${cut.rest.length + beyond} more`,
  );

  /** What comes soon behind the same opening: it may as well be done while that is off. */
  function besides(task: Task): string {
    const also = round.coming.filter(
      (one) => task.opening && one.machine_id === task.machine_id && one.opening === task.opening,
    );
    if (!also.length) return '';
    const said = also.map(
      (one) => `${one.slot_name.toLowerCase()} (${doWord(one.action)}) comes ${when(one.due, round.today)}`,
    );
    return `While the ${task.opening} is off: ${said.join('; ')}.`;
  }

  const lines = () => [...(list?.querySelectorAll<HTMLElement>('[data-task] button[aria-expanded]') ?? [])];
  export function move(by: number): void {
    if (!listed.length) return;
    at = (at + by + listed.length) % listed.length;
    lines()[at]?.focus();
  }
  export const marked = (): Task | null => current;
  export function tellDone(): void {
    done = current;
  }
  export function tellLooked(): void {
    looked = current;
  }

  /** What was answered leaves the list: the next line takes its place, also for the keys. */
  let before = $state.raw(0);
  $effect(() => {
    const count = listed.length;
    if (count < before)
      void tick().then(() => {
        if (document.activeElement === document.body && at >= 0) lines()[Math.min(at, count - 1)]?.focus();
      });
    before = count;
  });
</script>

<section class="todo" aria-label="To do">
  <h2 class="mb-[0.3rem]">To do <span class="soft">most at stake first</span></h2>
  {#each dark as machine (machine.id)}
    <p class="line">
      <span class="min-w-0 grow"
        ><b class="ink-unknown">{plural(machine.unsure, 'part')} of {machine.name} not known.</b>
        <span class="soft"
          >One look round makes {machine.unsure === 1 ? 'its date' : 'their dates'} firm.</span
        ></span
      >
      <a
        class="btn btn-sm"
        aria-label={`Look round, ${machine.unsure} min: ${machine.name}`}
        href={`#/look/${machine.id}`}>Look round, {machine.unsure} min</a
      >
    </p>
  {/each}
  {#if rested.length}
    {#await import('./OffTheRack.svelte') then { default: OffTheRack }}
      {#each rested as on (on.item.id)}
        <OffTheRack {on} mayWrite={session.mayWrite} />
      {/each}
    {/await}
  {/if}
  {#if round.due.length}
    <ol bind:this={list}>
      {#each groups as group (group.key)}
        <li animate:flip={{ duration: moving(250) }}>
          {#if group.tasks.length > 1}<p class="pt-2 px-[0.4rem] pb-[0.1rem] text-[0.875rem] text-(--soft)">
              {group.machine} · {group.opening}
            </p>{/if}
          <ul>
            {#each group.tasks as task (taskKey(task))}
              {@const key = taskKey(task)}
              <li
                data-task={`${task.slot}/${task.action}`}
                data-machine={task.machine_name}
                aria-current={current === task ? 'true' : undefined}
                onfocusin={() => (at = listed.indexOf(task))}
              >
                <TaskRow
                  {task}
                  named={group.tasks.length === 1}
                  open={opened === key}
                  chosen={!isLeft(task)}
                  current={current === task}
                  mayWrite={session.mayWrite}
                  me={session.member?.id ?? null}
                  besides={besides(task)}
                  ontoggle={() => (opened = opened === key ? null : key)}
                  onchoose={(want) => onchoose(task, want)}
                  ondone={() => (done = task)}
                  onlook={() => (looked = task)}
                  onlater={() => (later = task)}
                />
              </li>
            {/each}
          </ul>
        </li>
      {/each}
    </ol>
    {#if cut.rest.length || visits.later.length}
      <p class="line">
        <button class="link grow text-left" aria-expanded={all} onclick={() => onall(!all)}
          >{all
            ? cut.rest.length
              ? 'Only what matters most'
              : 'Only what is for today'
            : waits + atVisit}</button
        >
      </p>
    {/if}
    {#if all && beyond > 0}
      <p class="soft line">And {beyond} more, less at stake, on the machines' own pages.</p>
    {/if}
  {:else if !rested.length}
    <p class="line">Nothing is due. Dates move when machines run and when you say what you found.</p>
  {/if}
  {#if round.ahead?.today_min && round.ahead.today_min > round.minutes - round.ahead.later_min + 2}
    <p class="line">
      <a class="link" href="#/season"
        >Today’s visit, {minutesWords(round.ahead.today_min)}, has what goes early, too</a
      >
    </p>
  {/if}
  {#if round.put_off.length}
    <details class="border-t border-t-base-300 py-[0.45rem] px-[0.4rem]">
      <summary class="cursor-pointer text-(--soft)">{plural(round.put_off.length, 'task')} put off</summary>
      <ul>
        {#each round.put_off as task (taskKey(task))}
          <li class="line">
            <span class="grow"
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
    </details>
  {/if}
  {#if round.coming[0]}
    {@const next = round.coming[0]}
    <details class="coming border-t border-t-base-300 py-[0.45rem] px-[0.4rem]">
      <summary class="cursor-pointer text-(--soft)"
        >Next: {next.slot_name.toLowerCase()} of {next.machine_name}, {when(next.due, round.today)}</summary
      >
      <ul>
        {#each round.coming as task (taskKey(task))}
          <li>
            <button
              class="hover:underline"
              onclick={() => void push(`/machines/${task.machine_id}/${task.slot}`)}
            >
              {task.slot_name}: {doWord(task.action)}
            </button>
            <span class="soft">{task.machine_name}, {when(task.due, round.today)}</span>
          </li>
        {/each}
      </ul>
    </details>
  {/if}
</section>

<!-- What is answered in a dialog comes when it is asked for: the first page is the lighter for it. -->
{#if done}
  {#await import('../../lib/ui/AlreadyDone.svelte') then { default: AlreadyDone }}
    <AlreadyDone task={done} today={round.today} onclose={() => (done = null)} />
  {/await}
{:else if looked}
  {@const { machine_id, slot, slot_name, about, asked } = looked}
  {#await import('../../lib/ui/Look.svelte') then { default: Look }}
    <Look
      {machine_id}
      {slot}
      name={slot_name}
      abouts={[{ action: about, asked }]}
      onclose={() => (looked = null)}
    />
  {/await}
{:else if later}
  {@const task = later}
  {#await import('./Later.svelte') then { default: Later }}
    <Later {task} today={round.today} onclose={() => (later = null)} />
  {/await}
{/if}

<style>
  h2 span {
    font-size: 0.875rem;
    font-weight: 400;
  }
  .line {
    display: flex;
    align-items: center;
    gap: 0.6rem;
    min-height: 2.25rem;
    padding: 0.35rem 0.4rem;
    border-top: 1px solid var(--color-base-300);
  }
  .coming li {
    padding: 0.3rem 0 0.3rem 1.1rem;
  }
</style>
