<!-- One visit: machine by machine what is done, why on this day, and what can be asked of it. -->
<script lang="ts">
  import ChevronLeft from '~icons/lucide/chevron-left';
  import ChevronRight from '~icons/lucide/chevron-right';
  import { SvelteSet } from 'svelte/reactivity';

  import type { Job, Season, SeasonState, Visit } from '../../lib/state/season.svelte';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { grouped, taskKey } from '../../lib/words/groups';
  import { day, figure, minutesWords, plural } from '../../lib/words/format';
  import { aside, wholeDay } from '../../lib/words/season';
  import { doWord } from '../../lib/words/tasks';

  let {
    season,
    visit,
    plan,
    primary,
    named = true,
    moving = $bindable(),
    onopen,
    onput,
    onchoose,
  }: {
    season: Season;
    visit: Visit;
    plan: SeasonState;
    /** Whether the page leads to it with a button of its own. */
    primary: boolean;
    /** Whether its day stands above it here. */
    named?: boolean;
    moving: boolean;
    onopen: () => void;
    onput: (to: string, jobs: Job[]) => void;
    onchoose: (date: string) => void;
  } = $props();

  const n = $derived(season.visits.findIndex((one) => one.date === visit.date));
  const machines = $derived(grouped(visit.jobs, (job) => job.machine_id));
  const busy = $derived(plan.planning || house.busy || !session.mayWrite);
  const isToday = $derived(visit.date === season.today);
  const allPinned = $derived(visit.jobs.every((job) => job.pinned));
  /** Tasks taken out of the visit, to go to another day; null while nobody splits it. */
  let split = $state.raw<{ to: string } | null>(null);
  const out = new SvelteSet<string>();
  const otherDays = $derived(season.visits.filter((one) => one.date !== visit.date).slice(0, 60));

  function splitIt() {
    const next = season.visits[n + 1] ?? season.visits[n - 1];
    out.clear();
    split = { to: next?.date ?? visit.date };
  }
  const ticked = $derived(visit.jobs.filter((job) => out.has(taskKey(job))));
  /** What keeps somebody safe goes to a day, and is not left open. */
  const guarded = $derived(ticked.some((job) => job.stake === 1));
  function putSplit() {
    if (split) onput(split.to, ticked);
    split = null;
  }
  function leaveOut() {
    const text = `${plural(ticked.length, 'task')} not on ${day(visit.date)}.`;
    void plan.leaveOut(visit.date, ticked, text);
    split = null;
  }
</script>

<section aria-label="The visit">
  {#if named}
    <div class="head">
      <h2>
        {isToday ? 'Today, ' : ''}{wholeDay(visit.date)}
        <span class="soft"
          >{minutesWords(visit.minutes)}{machines.length > 1
            ? `, ${plural(machines.length, 'machine')}`
            : ''}{visit.over_min > 0.5
            ? `: ${figure(Math.ceil(visit.over_min))} min more than the day has`
            : ''}</span
        >
      </h2>
      <p class="no-print flex">
        <button
          class="btn btn-sm btn-ghost btn-square"
          aria-label="Visit before"
          disabled={n <= 0}
          onclick={() => onchoose(season.visits[n - 1]?.date ?? visit.date)}
          ><ChevronLeft width="20" height="20" /></button
        >
        <button
          class="btn btn-sm btn-ghost btn-square"
          aria-label="Next visit"
          disabled={n >= season.visits.length - 1}
          onclick={() => onchoose(season.visits[n + 1]?.date ?? visit.date)}
          ><ChevronRight width="20" height="20" /></button
        >
      </p>
    </div>
  {/if}
  {#each machines as jobs (jobs[0]?.machine_id)}
    <div class="machine">
      <p>
        <a class="font-bold hover:underline" href={`#/machines/${jobs[0]?.machine_id}`}
          >{jobs[0]?.machine_name}</a
        >
      </p>
      <ul>
        {#each jobs as job (taskKey(job))}
          {@const why = aside(job, session.member?.time_zone)}
          <li class="flex items-center gap-[0.6rem] min-h-[1.9rem] max-sm:min-h-[2.9rem]">
            {#if split}
              <input
                type="checkbox"
                class="checkbox"
                aria-label={`${job.slot_name}: to another day`}
                checked={out.has(taskKey(job))}
                onchange={(event) =>
                  event.currentTarget.checked ? out.add(taskKey(job)) : out.delete(taskKey(job))}
              />
            {/if}
            <span class="grow"
              ><a class="hover:underline" href={`#/machines/${job.machine_id}/${job.slot}`}>{job.slot_name}</a
              >,
              {doWord(job.action)}{#if why}<span class="soft why">{why}</span>{/if}</span
            >
            <span class="soft whitespace-nowrap">{figure(job.minutes)} min</span>
          </li>
        {/each}
      </ul>
    </div>
  {/each}
  {#if split}
    <form class="flex flex-wrap items-end gap-2 pt-2" onsubmit={(e) => (e.preventDefault(), putSplit())}>
      <label class="grid gap-1"
        >What is ticked goes to
        <select class="select" bind:value={split.to}>
          {#each otherDays as one (one.date)}
            <option value={one.date}>{day(one.date)}, {figure(Math.round(one.minutes))} min</option>
          {/each}
        </select></label
      >
      <button class="btn" disabled={busy || !out.size || split.to === visit.date}>Put it there</button>
      <button type="button" class="btn" disabled={busy || !out.size || guarded} onclick={leaveOut}
        >Only not on this day</button
      >
      <button type="button" class="btn btn-ghost" onclick={() => (split = null)}>Leave as it is</button>
    </form>
  {:else}
    <p class="acts no-print">
      {#if !primary}
        <button class="btn btn-sm" disabled={!session.mayWrite} onclick={onopen}>Do it today</button>
      {/if}
      <button class="btn btn-sm" disabled={busy} onclick={() => (moving = true)}>Move it</button>
      {#if !allPinned}
        <button
          class="btn btn-sm"
          disabled={busy}
          onclick={() => void plan.putOn(visit.date, visit.jobs, `${wholeDay(visit.date)} stays as it is.`)}
          >Keep it there</button
        >
      {/if}
      {#if visit.jobs.length > 1 && season.visits.length > 1}
        <button class="btn btn-sm" disabled={busy} onclick={splitIt}>Split</button>
      {/if}
      <button
        class="btn btn-sm"
        disabled={busy}
        onclick={() => void plan.skip(visit.date, `No visit on ${day(visit.date)}.`)}>Skip</button
      >
      <button
        class="btn btn-sm"
        disabled={busy}
        onclick={() => void plan.notThatWeek(visit.date, season.today, `No visit that week.`)}
        >Not that week</button
      >
      <button class="btn btn-sm btn-ghost" onclick={() => print()}>Print</button>
    </p>
  {/if}
</section>

<style>
  .head {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 1rem;
  }
  h2 span {
    font-size: 0.95rem;
    font-weight: 400;
  }
  .machine {
    display: grid;
    grid-template-columns: 9rem minmax(0, 1fr);
    gap: 0 1rem;
    padding-block: 0.3rem;
    border-top: 1px solid var(--color-base-300);
  }
  .machine > p {
    padding-top: 0.2rem;
  }
  .why {
    margin-left: 0.6rem;
    font-size: 0.875rem;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
    padding-top: 0.75rem;
    border-top: 1px solid var(--color-base-300);
  }
  @media (max-width: 39.99rem) {
    .machine {
      grid-template-columns: minmax(0, 1fr);
    }
    .acts .btn {
      --size: 2.9rem;
    }
  }
</style>
