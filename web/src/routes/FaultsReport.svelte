<!-- A case on paper, for a repairer: what was noticed, looked at, ruled out, and what is likely. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { session } from '../lib/state/session.svelte';
  import { pictureOf } from '../lib/state/notes.svelte';
  import { type Paper, paperOf, SearchState } from '../lib/state/faults.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import PaperPage from '../lib/ui/PaperPage.svelte';
  import { day, dayAndTime, localDay, percent } from '../lib/words/format';
  import { lastOf, rowName } from '../lib/words/readings';
  import { lower, STAND } from '../lib/words/faults';

  let { params }: { params: { id: string } } = $props();
  const search = new SearchState(untrack(() => params.id));
  void search.refresh();
  const found = $derived(search.case);
  const zone = $derived(session.member?.time_zone);

  /** What belongs on the paper of each machine of the case: photos and notes since, figures, numbers of parts. */
  let papers = $state.raw<Paper[]>([]);
  const opened = $derived(
    found ? [found.machine_id, ...(found.dock_id ? [found.dock_id] : [])].join(' ') : '',
  );
  $effect(() => {
    const ids = opened.split(' ').filter(Boolean);
    untrack(() => void Promise.all(ids.map(paperOf)).then((answers) => (papers = answers)));
  });
  const since = $derived(found ? localDay(found.opened_at, zone) : '');
  const notes = $derived(papers.flatMap((one) => one.notes).filter((note) => note.day >= since));
  const rows = $derived(papers.flatMap((one) => one.rows));
  /** Of the likeliest and of what was put right: which part, and the numbers it is sold under. */
  const numbered = $derived.by(() => {
    const [mine, dock] = papers;
    const parts = [...(found?.about ?? []), ...(found?.suspects.slice(0, 5) ?? [])];
    const withNumbers = parts.flatMap((one) => {
      const numbers = (one.role ? dock : mine)?.numbers[one.slot] ?? [];
      return numbers.length ? [[`${one.role}:${one.slot}`, { part: one.part, numbers }] as const] : [];
    });
    return [...new Map(withNumbers).values()];
  });
  const looked = $derived(found?.trail.filter((step) => step.kind === 'answered') ?? []);
  const done = $derived(
    found?.trail.filter((step) => step.kind === 'cured' || step.kind === 'retested') ?? [],
  );
</script>

<svelte:head><title>Case · Yperon</title></svelte:head>

<Loaded load={search.load} what="Opening the case" retry={() => void search.refresh()}>
  {#if found}
    <PaperPage back={{ href: `#/faults/case/${found.id}`, text: 'Back to the case' }}>
      <h1>{found.machine}{found.dock ? ` with ${found.dock}` : ''}</h1>
      <p>{found.kind}. Opened {dayAndTime(found.opened_at, zone)}.</p>
      <h2>Noticed</h2>
      <ul>
        {#each found.symptoms as one (one.key)}<li>{one.name}. {one.feel}</li>{/each}
      </ul>
      <h2>Looked at</h2>
      {#if looked.length}
        <ol>
          {#each looked as step, i (i)}
            <li>{step.name} <b>{step.says === 'cant_tell' ? 'could not be told' : step.says}</b></li>
          {/each}
        </ol>
      {:else}<p>Nothing yet.</p>{/if}
      {#if done.length}
        <h2>Done</h2>
        <ol>
          {#each done as step, i (i)}
            <li>
              {step.kind === 'cured'
                ? step.name
                : step.says === 'gone'
                  ? 'Tried: gone'
                  : 'Tried: still there'}
            </li>
          {/each}
        </ol>
      {/if}
      {#if found.ruled_out.length}
        <h2>Ruled out</h2>
        <p>{found.ruled_out.map((one, i) => (i ? lower(one) : one)).join('; ')}.</p>
      {/if}
      {#if found.danger}
        <h2>Out of use: {found.danger.name}</h2>
        <p><b>{found.danger.now}</b> {found.danger.who}</p>
      {/if}
      <h2>Likely, not certain</h2>
      <ul>
        {#each found.suspects.slice(0, 5) as one (one.key)}<li>{one.name}: {percent(one.p)}</li>{/each}
      </ul>
      <p>Where it stands: {STAND[found.stand] ?? found.stand}.</p>
      {#if numbered.length}
        <h2>Part numbers</h2>
        <ul>
          {#each numbered as one (one.part)}<li>{one.part}: {one.numbers.join(', ')}</li>{/each}
        </ul>
      {/if}
      {#if rows.length}
        <h2>Measured, or felt</h2>
        <ul>
          {#each rows as row, i (i)}
            <li>{rowName(row)}: {lastOf(row)} ({day(localDay(row.points.at(-1)?.at ?? '', zone))})</li>
          {/each}
        </ul>
      {/if}
      {#if notes.length}
        <h2>Photos and notes of these days</h2>
        <div class="grid grid-cols-[repeat(auto-fill,minmax(min(14rem,100%),1fr))] gap-3">
          {#each [...notes].sort((a, b) => b.width - a.width) as note (note.entry_id)}
            <figure class="break-inside-avoid">
              {#if note.width}
                <img
                  class="w-full h-auto rounded-[0.4rem]"
                  src={pictureOf(note)}
                  width={note.width}
                  height={note.height}
                  alt={note.text || `Photo of ${day(note.day)}`}
                />
              {/if}
              <figcaption>{note.text ? `${note.text}, ` : ''}{day(note.day)}</figcaption>
            </figure>
          {/each}
        </div>
      {/if}
    </PaperPage>
  {/if}
</Loaded>

<style>
  ul,
  ol {
    padding-left: 1.3em;
    list-style: disc;
  }
  ol {
    list-style: decimal;
  }
</style>
