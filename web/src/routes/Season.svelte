<!-- Season: half a year in visits along the machines' lines, what one visit holds, and what it is held against. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { MediaQuery } from 'svelte/reactivity';
  import { push } from 'svelte-spa-router';

  import { house } from '../lib/state/house.svelte';
  import { keys } from '../lib/state/keys.svelte';
  import { keepPicks } from '../lib/state/picks';
  import { choreOf, SeasonState, type Visit } from '../lib/state/season.svelte';
  import { session } from '../lib/state/session.svelte';
  import AsOf from '../lib/ui/AsOf.svelte';
  import Empty from '../lib/ui/Empty.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { day, daysAfter, listed, plural } from '../lib/words/format';
  import { head, liked, waits, wholeDay } from '../lib/words/season';
  import Around from './season/Around.svelte';
  import Compare from './season/Compare.svelte';
  import Line from './season/Line.svelte';
  import List from './season/List.svelte';
  import OnPaper from './season/OnPaper.svelte';
  import VisitPanel from './season/VisitPanel.svelte';

  /** On a phone the visits are a list. */
  const narrow = new MediaQuery('(max-width: 39.99rem)');
  const plan = new SeasonState();
  void plan.refresh();

  const season = $derived(plan.season);
  /** The day of the visit that is looked at; the next one where none was chosen. */
  let chosen = $state<string | null>(null);
  const at = $derived(
    Math.max(0, season?.visits.findIndex((one) => one.date >= (chosen ?? season.today)) ?? 0),
  );
  const visit = $derived(season?.visits[at] ?? null);
  const isToday = $derived(visit !== null && visit.date === season?.today);
  let telling = $state(false);
  let moving = $state(false);
  let calendar = $state(false);

  function move(by: number) {
    const next = season?.visits[at + by];
    if (next) chosen = next.date;
  }
  const today = $derived(season?.visits.find((one) => one.date === season.today) ?? null);
  async function open(which = visit) {
    if (!which) return;
    keepPicks(which.jobs.map(choreOf));
    await push('/plan');
  }
  async function putOn(to: string, jobs = visit?.jobs ?? []) {
    if (!season || !jobs.length) return;
    const with_it = season.visits.some((one) => one.date === to && one.date !== visit?.date);
    const text = `${with_it ? 'Together with the visit' : 'Put'} on ${wholeDay(to)}.`;
    if (await plan.putOn(to, jobs, text)) chosen = to;
  }

  onDestroy(
    keys.lend('Season', [
      { key: 'j', does: 'Next visit', run: () => move(1) },
      { key: 'k', does: 'Visit before', run: () => move(-1) },
      { key: 'v', does: 'Move this visit', run: () => visit && session.mayWrite && (moving = true) },
      { key: 'p', does: 'Plan this visit', run: () => void open() },
      { key: 'c', does: 'Into my calendar', run: () => (calendar = true) },
      { key: 'i', does: 'What if', run: () => void push('/season/what-if') },
      { key: 'd', does: 'Days and minutes', run: () => session.mayWrite && (telling = true) },
    ]),
  );
  const legend = $derived(
    [
      season?.score.missed_runs ? 'Dashed: a machine waits for a part that dries.' : '',
      season?.orders.length ? 'Triangles: order by then.' : '',
    ]
      .join(' ')
      .trim(),
  );
  const movedWords = $derived(
    season?.moved.length
      ? `${plural(season.moved.length, 'visit')} moved since the last plan: ${listed(season.moved.slice(0, 3).map(day))}${season.moved.length > 3 ? ' and more' : ''}.`
      : '',
  );
</script>

{#snippet panel(shown: Visit, named: boolean)}
  {#if season}
    <VisitPanel
      {season}
      visit={shown}
      {plan}
      {named}
      primary={isToday && !season.proposal}
      bind:moving
      onopen={() => void open()}
      onput={(to, jobs) => void putOn(to, jobs)}
      onchoose={(date) => (chosen = date)}
    />
  {/if}
{/snippet}

<svelte:head><title>Season · Yperon</title></svelte:head>

<Loaded load={plan.load} what="Planning half a year" retry={() => void plan.refresh()}>
  {#if season}
    {#if !season.machines.length}
      <Empty title="Nothing to plan yet.">
        <p>Add a machine first: its tasks of half a year are put into few visits here.</p>
        <p><a class="btn btn-primary btn-lg" href="#/add">Add a machine</a></p>
      </Empty>
    {:else}
      <div class="page">
        <div class="lead">
          <div class="min-w-0">
            <AsOf since={plan.since} />
            <h1>{head(season)}</h1>
            <p class="soft">
              {#if season.proposal}A proposal: {liked(season.habits)} Say which days suit you, and Round follows.
              {:else}{liked(season.habits)} {waits(season)}{/if}
            </p>
          </div>
          {#if season.proposal}
            <button
              class="btn btn-primary btn-lg no-print"
              disabled={!session.mayWrite}
              onclick={() => (telling = true)}>Days and minutes</button
            >
          {:else if today}
            <button
              class="btn btn-primary btn-lg no-print"
              disabled={!session.mayWrite}
              onclick={() => void open(today)}>Plan today’s visit</button
            >
          {/if}
        </div>

        {#if season.left_out.length}
          <p class="said ink-overdue">
            Without {listed(season.left_out)}: its records cannot be worked out.
            <a class="link" href="#/">Round says why</a>
          </p>
        {/if}
        {#if season.visits.length && !narrow.current}
          <div class="line">
            <Line
              {season}
              chosen={visit?.date ?? ''}
              busy={plan.planning || house.busy || !session.mayWrite}
              onchoose={(date) => (chosen = date)}
              onmove={(to) => void putOn(to)}
            />
          </div>
        {/if}
        <p class="soft said" role="status">
          {plan.planning ? 'Planning around that…' : movedWords || legend}
        </p>

        <div class="visit">
          {#if !visit}
            <p>
              No visit fits: {season.unmet.length
                ? 'the days that are left do not do.'
                : 'nothing comes due.'}
            </p>
          {:else if narrow.current}
            <List {season} open={chosen ?? visit.date} onchoose={(date) => (chosen = date)}>
              {#snippet one(shown)}{@render panel(shown, false)}{/snippet}
            </List>
          {:else}{@render panel(visit, true)}{/if}
        </div>
        <aside>
          <Compare {season} />
          <p class="no-print flex flex-wrap gap-2">
            <a class="btn" href="#/season/what-if">What if…</a>
            <button class="btn" onclick={() => (calendar = true)}>Into my calendar</button>
            {#if session.mayWrite && !season.proposal}<button class="btn" onclick={() => (telling = true)}
                >Days and minutes</button
              >{/if}
          </p>
        </aside>
        <div class="besides"><Around {season} {plan} /><OnPaper {season} /></div>
      </div>
    {/if}
    {#if telling}
      {#await import('./season/Habits.svelte') then { default: Habits }}
        <Habits
          {season}
          {plan}
          onclose={(kept) => {
            telling = false;
            if (kept) chosen = null;
          }}
        />
      {/await}
    {/if}
    {#if calendar}
      {#await import('./season/IntoCalendar.svelte') then { default: IntoCalendar }}
        <IntoCalendar
          {season}
          onclose={(changed) => {
            calendar = false;
            if (changed) void plan.refresh();
          }}
        />
      {/await}
    {/if}
    {#if moving && visit}
      {#await import('./season/Move.svelte') then { default: Move }}
        <Move
          {season}
          {visit}
          latest={daysAfter(season.today, season.days - 1)}
          onclose={() => (moving = false)}
          onput={(to) => {
            moving = false;
            void putOn(to);
          }}
        />
      {/await}
    {/if}
  {/if}
</Loaded>

<style>
  .page {
    grid-template-columns: minmax(0, 1fr) 22rem;
    grid-template-areas: 'lead lead' 'line line' 'said said' 'visit aside' 'besides besides';
    gap: 0.6rem 2.5rem;
    align-items: start;
  }
  .lead {
    grid-area: lead;
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 1.5rem;
  }
  .line {
    grid-area: line;
    min-width: 0;
  }
  .said {
    grid-area: said;
    min-height: 1.45em;
  }
  .visit {
    grid-area: visit;
    min-width: 0;
  }
  aside {
    grid-area: aside;
    display: grid;
    gap: 0.75rem;
    min-width: 0;
  }
  .besides {
    grid-area: besides;
    min-width: 0;
  }
  @media (max-width: 59.99rem) {
    .page {
      grid-template-columns: minmax(0, 1fr);
      grid-template-areas: 'lead' 'line' 'said' 'visit' 'aside' 'besides';
    }
  }
  @media (max-width: 39.99rem) {
    .lead {
      flex-direction: column;
      align-items: stretch;
    }
  }
</style>
