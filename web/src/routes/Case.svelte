<!-- One case: the odds on the air path, one thing to look at, what was answered; to the cure or to who looks next. -->
<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { MediaQuery } from 'svelte/reactivity';

  import AirPath from '../lib/airpath/AirPath.svelte';
  import type { Chamber } from '../lib/airpath/layout';
  import type { Mark } from '../lib/airpath/marks';
  import { live } from '../lib/state/live';
  import { keys } from '../lib/state/keys.svelte';
  import { NotesState } from '../lib/state/notes.svelte';
  import { session } from '../lib/state/session.svelte';
  import { SearchState } from '../lib/state/faults.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { saidWords } from '../lib/words/devices';
  import { dayAndTime, minutesWords, percent } from '../lib/words/format';
  import { restingWords } from '../lib/words/faults';
  import AddNote from './machine/AddNote.svelte';
  import Leave from './faults/Leave.svelte';
  import Odds from './faults/Odds.svelte';
  import Others from './faults/Others.svelte';
  import Question from './faults/Question.svelte';
  import Trail from './faults/Trail.svelte';
  import Verdict from './faults/Verdict.svelte';

  let { params }: { params: { id: string } } = $props();
  const search = new SearchState(untrack(() => params.id));
  void search.refresh();
  onDestroy(live.on(() => void search.refresh()));

  const phone = new MediaQuery('max-width: 39.99rem');
  const found = $derived(search.case);
  const open = $derived(found?.status === 'open');
  /** What takes long and goes on by itself is best begun before the other looks. */
  const LONG_WAIT_MIN = 20;
  const long = $derived(
    found?.next.find(
      (one) =>
        one.wait_min >= LONG_WAIT_MIN &&
        !one.live &&
        one.proof >= 0.02 &&
        one.key !== search.check?.key &&
        found.rests.every((rest) => rest.probe !== one.key),
    ) ?? null,
  );

  /** What rests is over at a moment that nobody taps. */
  $effect(() => {
    const next = Math.min(...(found?.rests ?? []).map((one) => one.left_min).filter((left) => left > 0));
    if (!Number.isFinite(next)) return;
    const timer = setTimeout(() => void search.refresh(), next * 60_000 + 1000);
    return () => clearTimeout(timer);
  });

  /** From so many minutes of looking on, a repairer is offered. */
  const LONG_MIN = 40;
  let leaving = $state(false);
  let noting = $state(false);

  /** The odds as marks on a strip: of the machine, or behind its role of the dock. */
  function marks(chambers: Chamber[], role: string): Record<string, Mark> {
    const at = (chamber: Chamber) => {
      const key = role ? `${role}:${chamber.key}` : chamber.key;
      if (chamber.column !== 'off_path') return found?.stations[key] ?? null;
      const mine = found?.suspects.filter((one) => one.role === role && one.slot === chamber.key) ?? [];
      return mine.reduce((sum, one) => sum + one.p, 0);
    };
    const shares = chambers.flatMap((chamber) => {
      const p = at(chamber);
      return p === null ? [] : [[chamber.key, p] as const];
    });
    const top = Math.max(...shares.map(([, p]) => p), 0.0001);
    return Object.fromEntries(
      shares.map(([key, p]) => [
        key,
        {
          tag: p >= 0.005 ? percent(p) : '',
          fill: Math.min(1, Math.sqrt(p)),
          look: p >= Math.max(0.15, top * 0.6) ? 'suspected' : 'cleared',
        },
      ]),
    );
  }

  /** What a strip draws: of what lies beside the path only what may be the cause. */
  function drawn(chambers: Chamber[], role: string): Chamber[] {
    const marked = marks(chambers, role);
    return chambers.filter((one) => one.column !== 'off_path' || (marked[one.key]?.tag ?? '') !== '');
  }

  /** A tap on a station chooses the best check there. */
  function lookThere(chamber: Chamber, role: string) {
    const station = chamber.column === 'off_path' ? null : chamber.key;
    const there = found?.next.find(
      (one) => one.role === role && (station ? one.station === station : one.key.endsWith(`:${chamber.key}`)),
    );
    if (there) search.chosen = there.key;
  }

  onDestroy(
    keys.lend('Faults', [
      {
        key: 'z',
        does: 'Take the last answer back',
        run: () => open && found && found.told > 1 && void search.tell('back'),
      },
      { key: 'l', does: 'Close the case', run: () => open && (leaving = true) },
    ]),
  );
</script>

<svelte:head><title>{found ? `${found.machine}: ` : ''}Faults · Yperon</title></svelte:head>

<Loaded
  load={search.load}
  what="Opening the case"
  retry={() => void search.refresh()}
  back={{ href: '#/faults', text: 'All cases' }}
>
  {#snippet children(found)}
    <div class="page">
      <header class="flex flex-wrap justify-between gap-y-2 gap-x-8">
        <div>
          <p class="soft">
            <a class="link" href={`#/machines/${found.machine_id}`}>{found.machine}</a>{found.dock
              ? ` with ${found.dock}`
              : ''}, {found.symptoms.map((one) => one.name.toLowerCase()).join(', ')}
          </p>
          <p class="soft">{minutesWords(found.minutes)} of looking so far</p>
          {#if open && session.mayWrite && long}
            <p class="mt-2 pl-3 border-l-4 border-l-(--due)">
              {long.name}
              <button
                class="btn btn-sm h-auto min-h-11 whitespace-normal"
                disabled={search.busy}
                onclick={() => void search.tell('rests', long.key)}
                >Let it rest now: the clock runs while you look at other things</button
              >
            </p>
          {/if}
          {#each found.said as one (one.entry_id)}
            <p>
              {one.machine} says: {saidWords(one)}
              <span class="soft">{dayAndTime(one.at, session.member?.time_zone)}</span>
            </p>
          {/each}
          {#each open ? found.rests : [] as rest (rest.probe)}
            <p class="mt-2 pl-3 border-l-4 border-l-(--due)" role="status">
              <b>{restingWords(rest, session.member?.time_zone)}</b>
              {#if search.check?.key !== rest.probe}
                <button class="link" onclick={() => (search.chosen = rest.probe)}>{rest.name}</button>
              {/if}
            </p>
          {/each}
          {#if open && found.minutes >= LONG_MIN}
            <p class="mt-2" role="status">
              That is long. A repairer can go on from here: <a
                class="link"
                href={`#/faults/report/${found.id}`}>a page that tells what was looked at</a
              >.
            </p>
          {/if}
        </div>
        <div class="flex flex-wrap gap-2">
          {#if open && session.mayWrite}
            <button
              class="btn"
              disabled={search.busy || found.told < 2}
              onclick={() => void search.tell('back')}>Step back</button
            >
            <button class="btn" onclick={() => (leaving = true)}>Close the case</button>
          {/if}
          {#if session.mayWrite}
            <button class="btn" onclick={() => (noting = true)}>Photo or note</button>
          {/if}
          <a class="btn" href={`#/faults/report/${found.id}`}>On paper</a>
        </div>
      </header>

      <div class={['strips', found.dock_chambers.length && 'two']}>
        <section class="panel min-w-0 p-3" aria-label="Where the cause may sit">
          <AirPath
            chambers={drawn(found.chambers, '')}
            size={found.dock_chambers.length ? 'low' : 'tall'}
            now={found.opened_at}
            name={found.machine}
            upright={phone.current}
            marks={marks(found.chambers, '')}
            onselect={(chamber) => lookThere(chamber, '')}
          />
        </section>
        {#if found.dock && found.dock_chambers.length}
          <section class="panel min-w-0 p-3" aria-label={`Where the cause may sit in ${found.dock}`}>
            <p class="soft px-3">{found.dock}</p>
            <AirPath
              chambers={drawn(found.dock_chambers, 'dock')}
              now={found.opened_at}
              name={found.dock}
              size="low"
              upright={phone.current}
              marks={marks(found.dock_chambers, 'dock')}
              onselect={(chamber) => lookThere(chamber, 'dock')}
            />
          </section>
        {/if}
      </div>

      <div class="grid grid-cols-[minmax(0,1fr)_23rem] gap-y-5 gap-x-8 items-start max-[60rem]:grid-cols-1">
        <div class="main">
          {#if search.problem}<Trouble problem={search.problem} />{/if}
          {#if search.busy}<Waiting what="Sending your answer" />{/if}
          {#if !open}
            <Verdict {search} {found} closed />
          {:else if found.stand === 'ask' && search.check}
            {#key `${search.check.key} ${found.told}`}
              <Question {search} check={search.check} />
            {/key}
          {:else}
            <Verdict {search} {found} />
          {/if}
          {#if open && found.stand === 'ask'}<Others {search} {found} />{/if}
        </div>
        <div class="aside">
          <Odds {found} />
          <Trail {found} />
        </div>
      </div>
    </div>
    {#if noting}
      <AddNote
        notes={new NotesState(found.machine_id)}
        slot=""
        about={found.machine}
        onclose={() => (noting = false)}
      />
    {/if}
    {#if leaving}<Leave {search} onclose={() => (leaving = false)} />{/if}
  {/snippet}
</Loaded>

<style>
  .strips {
    display: grid;
    gap: 0.75rem;
  }
  @media (min-width: 60rem) {
    .two {
      grid-template-columns: 3fr 2fr;
    }
  }
  .main,
  .aside {
    display: grid;
    gap: 1rem;
    min-width: 0;
  }
  @media (max-width: 39.99rem) {
    /* With wet hands the question comes first, the picture after it. */
    .strips {
      order: 3;
    }
  }
</style>
