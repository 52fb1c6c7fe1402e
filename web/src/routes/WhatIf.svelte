<!-- What if: a year as the household lives now, and up to four others beside it. -->
<script lang="ts">
  import { onDestroy } from 'svelte';

  import { house } from '../lib/state/house.svelte';
  import { keys } from '../lib/state/keys.svelte';
  import { session } from '../lib/state/session.svelte';
  import { type Change, MOST, NOTHING, WhatIfState } from '../lib/state/whatif.svelte';
  import Empty from '../lib/ui/Empty.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { figure } from '../lib/words/format';
  import { money } from '../lib/words/shelf';
  import { changed, difference, hours, withBand } from '../lib/words/whatif';
  import Ask from './season/Ask.svelte';
  import Years from './season/Years.svelte';

  const what = new WhatIfState();
  void what.refresh();
  const start = $derived(what.start);
  let asking = $state.raw<{ change: Change; at: number } | null>(null);
  let sure = $state<number | null>(null);

  const cash = (value: number) =>
    money(Math.round(value / 100) * 100, start?.currency ?? '').replace(/[.,]00\b/, '');
  const count = (value: number) => figure(Math.round(value));
  const ROWS = $derived([
    { name: 'your hours a year', of: 'hours' as const, unit: hours },
    { name: 'visits', of: 'visits' as const, unit: count },
    { name: 'runs missed, drying', of: 'missed' as const, unit: count },
    { name: 'new parts', of: 'parts' as const, unit: count },
    { name: 'parts cost', of: 'parts_cost' as const, unit: cash },
    { name: 'of that not used up', of: 'unused_cost' as const, unit: cash },
    { name: 'parts and hours', of: 'cost' as const, unit: cash },
  ]);

  onDestroy(
    keys.lend('What if', [
      {
        key: 'n',
        does: 'Ask what if',
        run: () => what.changes.length < MOST && (asking = { change: NOTHING, at: what.changes.length }),
      },
    ]),
  );
</script>

<svelte:head><title>What if · Yperon</title></svelte:head>

<Loaded load={what.load} what="Living through a year" retry={() => void what.refresh()}>
  {#if start}
    {#if !start.runs.length}
      <Empty title="Nothing runs yet.">
        <p>Say when a machine usually runs: then a year can be lived through.</p>
        <p><a class="btn btn-primary btn-lg" href="#/machines">To the machines</a></p>
      </Empty>
    {:else}
      <div class="page">
        <header class="flex flex-wrap items-center justify-between gap-4">
          <div class="min-w-0">
            <h1>About {hours(start.year.hours.p50)} of your time a year.</h1>
            <p class="soft">
              With getting ready, in {count(start.year.visits.p50)} visits; parts cost about {cash(
                start.year.parts_cost.p50,
              )}. What if you lived otherwise?
            </p>
          </div>
          <p class="flex flex-wrap gap-2">
            <a class="btn" href="#/season">Back to the season</a>
            <button
              class={['btn btn-lg', !what.changes.length && 'btn-primary']}
              disabled={what.changes.length >= MOST}
              onclick={() => (asking = { change: NOTHING, at: what.changes.length })}>Ask what if</button
            >
          </p>
        </header>

        <Years {start} compared={what.compared} changes={what.changes} />

        <div class="ways">
          <section class="panel p-4" aria-label="As it is now">
            <h2 class="pb-[0.4rem]">As it is now</h2>
            <dl>
              {#each ROWS as row (row.of)}
                <div>
                  <dt class="soft">{row.name}</dt>
                  <dd class="text-right">{withBand(start.year[row.of], row.unit)}</dd>
                </div>
              {/each}
            </dl>
          </section>
          {#each what.changes as change, n (n)}
            {@const found = what.compared[n]}
            <section class="panel p-4" aria-label={`Way ${n + 1}`}>
              <h2 class="pb-[0.4rem]">{n + 1}. {changed(change, start)}</h2>
              {#if found}
                <dl>
                  {#each ROWS as row (row.of)}
                    <div>
                      <dt class="soft">{row.name}</dt>
                      <dd class="text-right">
                        <b>{row.unit(found.year[row.of].p50)}</b>
                        <span class="soft">{difference(found.differs[row.of], row.unit)}</span>
                      </dd>
                    </div>
                  {/each}
                </dl>
              {:else}<p class="soft" role="status">Living through it…</p>{/if}
              <p class="flex flex-wrap gap-2 pt-3">
                {#if change.sets?.length}
                  <a class="btn btn-sm" href="#/shelf">A second set: to the shelf</a>
                {:else if sure === n}
                  <button
                    class="btn btn-sm btn-primary"
                    disabled={house.busy}
                    onclick={() => void what.adopt(n)}>Yes, from now on</button
                  >
                  <button class="btn btn-sm btn-ghost" onclick={() => (sure = null)}>Not yet</button>
                {:else}
                  <button
                    class="btn btn-sm"
                    disabled={!session.mayWrite || house.busy}
                    onclick={() => (sure = n)}>Live so from now on</button
                  >
                {/if}
                <button class="btn btn-sm" onclick={() => (asking = { change, at: n })}>Change</button>
                <button class="btn btn-sm btn-ghost" onclick={() => void what.drop(n)}>Leave out</button>
              </p>
            </section>
          {/each}
        </div>
        <p class="soft text-sm">
          300 futures each, with the same luck in all of them, so that a difference is one. In brackets what
          eight of ten futures stay within. Minutes of a day are not held to here.
        </p>
      </div>
    {/if}
    {#if asking}
      {@const { change, at } = asking}
      <Ask
        {start}
        {change}
        onclose={() => (asking = null)}
        onask={(question) => {
          void what.put(question, at);
          asking = null;
        }}
      />
    {/if}
  {/if}
</Loaded>

<style>
  .ways {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(min(19rem, 100%), 1fr));
    gap: 1rem;
    align-items: start;
  }
  dl > div {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0 0.75rem;
    padding-block: 0.3rem;
    border-top: 1px solid var(--color-base-300);
  }
</style>
