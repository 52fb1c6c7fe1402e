<!-- Everything that happened, newest first, found by whatever is asked for; and what the year was like. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { LogState } from '../lib/state/log.svelte';
  import { session } from '../lib/state/session.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import { fullDay } from '../lib/words/format';
  import { grouped } from '../lib/words/groups';
  import Asked from './log/Asked.svelte';
  import LogLine from './log/LogLine.svelte';
  import Year from './log/Year.svelte';

  const log = new LogState();
  void log.open();

  let open = $state<string | null>(null);
  /** How long to wait for the next letter before asking [ms]. */
  const WAIT = 250;
  let first = true;
  $effect(() => {
    void log.query;
    if (first) return void (first = false);
    const timer = setTimeout(() => untrack(() => void log.refresh()), WAIT);
    return () => clearTimeout(timer);
  });
</script>

<svelte:head><title>Log · Yperon</title></svelte:head>

<div class="page log">
  <header class="flex flex-wrap items-end justify-between gap-3">
    <div>
      <h1>Log</h1>
      <p class="soft">Everything that happened at {session.member?.household}, the newest first.</p>
    </div>
    <p class="no-print flex flex-wrap gap-2">
      <a class="btn btn-sm" href={`/api/log.csv?${log.query}`} download>As CSV</a>
      <button class="btn btn-sm" onclick={() => print()}>Print what is shown</button>
    </p>
  </header>
  <div class="no-print"><Asked {log} /></div>
  <section aria-label="What happened" class="panel min-w-0 p-4" aria-busy={log.busy}>
    <Loaded load={log.load} what="Reading the log" retry={() => void log.refresh()}>
      {#snippet children(page)}
        {#each grouped(page.lines, (line) => line.day) as day (day[0]!.entry_id)}
          <h2 class="mt-3 first:mt-0">{fullDay(day[0]!.day)}</h2>
          {#each day as line (line.entry_id)}
            <LogLine
              {log}
              {line}
              open={open === line.entry_id}
              ontoggle={() => (open = open === line.entry_id ? null : line.entry_id)}
            />
          {/each}
        {:else}
          <p class="soft">
            {log.narrowed
              ? 'Nothing like that happened. Ask for less, or for everything again.'
              : 'Nothing yet. What you do, find and change will stand here.'}
          </p>
        {/each}
        {#if log.problem}<div class="mt-3"><Trouble problem={log.problem} /></div>{/if}
        {#if page.next}
          <button class="btn no-print mt-4" disabled={log.busy} onclick={() => void log.more()}
            >{log.busy ? 'Reading…' : 'Older ones'}</button
          >
        {/if}
      {/snippet}
    </Loaded>
  </section>
  <aside class="no-print min-w-0">
    {#if log.year}<Year year={log.year} />{/if}
  </aside>
</div>

<style>
  .log {
    grid-template-columns: minmax(0, 1fr) 21rem;
  }
  header,
  .log > div {
    grid-column: 1 / -1;
  }
  @media (max-width: 63.99rem) {
    .log {
      grid-template-columns: minmax(0, 1fr);
    }
  }
  @media print {
    .log {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
