<!-- The filter log of a machine, for the screen and on paper: what was done when and by whom, and what comes next. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, client, type Schemas } from '../lib/api/client';
  import { type Load, loaded, PENDING } from '../lib/state/load';
  import Loaded from '../lib/ui/Loaded.svelte';
  import PaperPage from '../lib/ui/PaperPage.svelte';
  import { capital, fullDay, plural, when } from '../lib/words/format';
  import { didWord, doWord, foundWords } from '../lib/words/tasks';

  let { params }: { params: { id: string } } = $props();
  const machine_id = untrack(() => params.id);
  let load = $state.raw<Load<Schemas['FilterLogOut']>>(PENDING);

  async function refresh() {
    load = loaded(
      await ask(client.GET('/api/machines/{machine_id}/filters', { params: { path: { machine_id } } })),
    );
  }
  void refresh();

  const found = (line: Schemas['FilterLineOut']) =>
    line.found ? foundWords(line.action)[line.found] : 'not said';
</script>

<svelte:head><title>Filter log · Yperon</title></svelte:head>

<Loaded {load} what="Reading the log" retry={() => void refresh()}>
  {#snippet children(log)}
    <PaperPage
      back={{ href: `#/machines/${log.machine_id}`, text: `Back to ${log.machine}` }}
      csv={`/api/machines/${log.machine_id}/filters.csv`}
    >
      <h1>Filter log, {log.machine}</h1>
      <p class="soft">
        {log.lines.length ? plural(log.lines.length, 'record') : 'No record yet'}, read on {fullDay(
          log.today,
        )}.
        {log.guarantee_until ? `Under guarantee until ${fullDay(log.guarantee_until)}.` : ''}
      </p>
      <h2 class="mt-3">What comes next</h2>
      <ul aria-label="What comes next">
        {#each log.coming as one, i (i)}
          <li>
            <b>{one.slot_name}</b>
            <span>{doWord(one.action)}</span>
            <span>{capital(when(one.due, log.today))}</span>
          </li>
        {:else}
          <li>Nothing: this machine has no filter that is cleaned or renewed.</li>
        {/each}
      </ul>
      <h2 class="mt-3">What was done</h2>
      {#if log.lines.length}
        <ol aria-label="What was done">
          {#each log.lines as line (line.entry_id)}
            <li>
              <b>{fullDay(line.day)}</b>
              <span>{line.item} {didWord(line.action)}</span>
              <span class="soft">found before: {found(line).toLowerCase()}</span>
              <span class="soft">{line.by}</span>
            </li>
          {/each}
        </ol>
      {:else}
        <p>Clean or renew a filter, at the bench or by “Already done”: each time stands here.</p>
      {/if}
    </PaperPage>
  {/snippet}
</Loaded>

<style>
  li {
    display: grid;
    grid-template-columns: 8rem 1fr auto;
    gap: 0.15rem 0.75rem;
    padding-block: 0.4rem;
    border-top: 1px solid var(--color-base-300);
  }
  ol li {
    grid-template-columns: 8rem 1fr 1fr 5rem;
  }
  @media (max-width: 39.99rem) {
    li,
    ol li {
      grid-template-columns: 1fr auto;
    }
  }
</style>
