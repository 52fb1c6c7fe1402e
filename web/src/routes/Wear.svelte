<!-- How worn the parts of a machine are, as a table: use, life, what was measured with its line; those that went, folded. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { type Gauge, type Part, WearState } from '../lib/state/wear.svelte';
  import AsOf from '../lib/ui/AsOf.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { percent, plural } from '../lib/words/format';
  import MeasureIt from './wear/MeasureIt.svelte';
  import PartRow from './wear/PartRow.svelte';
  import Worth from './wear/Worth.svelte';

  let { params }: { params: { id: string } } = $props();

  const wear = new WearState(untrack(() => params.id));
  void wear.refresh();
  let measuring = $state.raw<{ part: Part; gauge: Gauge } | null>(null);

  const data = $derived(wear.load.status === 'ok' ? wear.load.data : null);
  const here = $derived(data?.parts.filter((part) => part.state !== 'retired') ?? []);
  const gone = $derived(data?.parts.filter((part) => part.state === 'retired') ?? []);
  const worst = $derived(
    here.filter((part) => part.life !== null).sort((a, b) => (b.life ?? 0) - (a.life ?? 0))[0] ?? null,
  );
</script>

{#snippet table(parts: Part[], label: string)}
  <div class="table" role="table" aria-label={label}>
    <div class="head soft" role="row">
      {#each ['Part', 'Life', 'What it did', 'Measured'] as name (name)}<span role="columnheader">{name}</span
        >{/each}
    </div>
    {#each parts as part (part.item_id)}
      <PartRow {part} today={data?.today ?? ''} onmeasure={(gauge) => (measuring = { part, gauge })} />
    {/each}
  </div>
{/snippet}

<svelte:head><title>{data ? `${data.machine}: wear` : 'Wear'} · Yperon</title></svelte:head>

<Loaded load={wear.load} what="Looking at every part" retry={() => void wear.refresh()}>
  {#if data}
    <div class="page">
      <AsOf since={wear.since} />
      <header>
        <p class="soft"><a class="link" href={`#/machines/${data.machine_id}`}>{data.machine}</a></p>
        <h1>
          {worst && worst.life !== null
            ? `${worst.name} is furthest: ${percent(worst.life)} of its life.`
            : 'How its parts wear.'}
        </h1>
        <p class="soft">
          Measure now and then: a ruler and a minute tell sooner than a date when a part has to go.
        </p>
      </header>
      {#if here.length}
        <div class="panel">{@render table(here, 'Parts in use')}</div>
      {:else}
        <p>No part of this machine is renewed.</p>
      {/if}
      {#if gone.length}
        <details class="panel">
          <summary class="cursor-pointer p-4 font-bold">{plural(gone.length, 'part')} that went</summary>
          {@render table(gone, 'Parts that went')}
        </details>
      {/if}
      <Worth machine_id={data.machine_id} />
    </div>
    {#if measuring}
      <MeasureIt
        {wear}
        part={measuring.part}
        gauge={measuring.gauge}
        today={data.today}
        onclose={() => (measuring = null)}
      />
    {/if}
  {/if}
</Loaded>

<style>
  .table {
    display: grid;
    grid-template-columns: minmax(9rem, 1fr) minmax(11rem, 1.2fr) minmax(12rem, 1.5fr) minmax(18rem, 2fr);
    column-gap: 1.5rem;
  }
  .head {
    display: grid;
    grid-template-columns: subgrid;
    grid-column: 1 / -1;
    padding: 0.6rem 1rem 0.3rem;
    font-size: 0.875rem;
  }
  @media (max-width: 59.99rem) {
    .table {
      grid-template-columns: minmax(0, 1fr);
    }
    .head {
      display: none;
    }
  }
</style>
