<!-- Rack: what dries, until when and why, what it keeps from running, and where it would dry sooner. -->
<script lang="ts">
  import { onDestroy, untrack } from 'svelte';

  import { house } from '../lib/state/house.svelte';
  import { live } from '../lib/state/live';
  import { RackState } from '../lib/state/rack.svelte';
  import { session } from '../lib/state/session.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { toGo } from '../lib/words/drying';
  import { localDay, plural } from '../lib/words/format';
  import Job from './rack/Job.svelte';

  const rack = new RackState();
  const page = $derived(rack.load.status === 'ok' ? rack.load.data : null);
  const today = $derived(page ? localDay(page.now, session.member?.time_zone) : '');
  const clashing = $derived(page?.jobs.filter((job) => job.missed.length > 0) ?? []);
  const first = $derived(page?.jobs[0] ?? null);

  $effect(() => {
    void house.round; // each record and each undo brings a new one
    untrack(() => void rack.refresh());
  });
  const clock = setInterval(() => void refreshQuietly(), 60_000);
  onDestroy(() => clearInterval(clock));
  onDestroy(live.on(() => void rack.refresh()));

  async function refreshQuietly() {
    if (!document.hidden && rack.load.status === 'ok') await rack.refresh();
  }
  const head = $derived.by(() => {
    if (!page || !first) return 'Nothing is drying.';
    const [clash] = clashing;
    if (clash) return `${clash.runner_name} runs before its ${clash.slot_name.toLowerCase()} is dry.`;
    return first.rested
      ? `${first.item.name}: see whether it is dry.`
      : `${first.item.name}: ${toGo(first, page.now)}.`;
  });
</script>

<svelte:head><title>Rack · Yperon</title></svelte:head>

<Loaded load={rack.load} what="Looking at the rack" retry={() => void rack.refresh()}>
  {#if page}
    <div class="page max-w-240">
      <header>
        <h1>{head}</h1>
        {#if page.jobs.length}
          <p class="soft">
            {plural(page.jobs.length, 'part')} on the rack. A washed part stays locked out of its machine until
            it is ready, however dry it feels.
          </p>
        {:else}
          <p>
            What you wash at the <a class="link" href="#/bench">bench</a>, or tell
            <a class="link" href="#/">Round</a> is washed, waits here with its clock until it may go back in.
          </p>
        {/if}
      </header>
      <ul class="grid gap-4">
        {#each page.jobs as job (job.item.id)}
          <Job {job} now={page.now} {today} {rack} />
        {/each}
      </ul>
    </div>
  {/if}
</Loaded>
