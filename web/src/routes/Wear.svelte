<!-- How worn the parts of a machine are: use, life, what was measured with its line, set beside set. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { session } from '../lib/state/session.svelte';
  import { type Gauge, type Part, WearState } from '../lib/state/wear.svelte';
  import AsOf from '../lib/ui/AsOf.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { day, figure, percent, plural, when } from '../lib/words/format';
  import { foundWords, GONE } from '../lib/words/tasks';
  import { lineWhy, outlook, WHERE } from '../lib/words/wear';
  import Line from './wear/Line.svelte';
  import MeasureIt from './wear/MeasureIt.svelte';
  import Worth from './wear/Worth.svelte';

  let { params }: { params: { id: string } } = $props();

  const wear = new WearState(untrack(() => params.id));
  void wear.refresh();
  let measuring = $state.raw<{ part: Part; gauge: Gauge } | null>(null);

  const data = $derived(wear.load.status === 'ok' ? wear.load.data : null);
  /** Parts by the place they go into: sets stand beside each other. */
  const places = $derived(
    (data?.parts ?? []).reduce<{ slot: string; name: string; parts: Part[] }[]>((made, part) => {
      const last = made.at(-1);
      if (last?.slot === part.slot) last.parts.push(part);
      else made.push({ slot: part.slot, name: part.slot_name, parts: [part] });
      return made;
    }, []),
  );
  const worst = $derived(
    (data?.parts ?? [])
      .filter((part) => part.life !== null)
      .sort((a, b) => (b.life ?? 0) - (a.life ?? 0))[0] ?? null,
  );
  const words = foundWords('replace');
  const goneWords = (why: string) => (why in GONE ? GONE[why as keyof typeof GONE].toLowerCase() : why);
</script>

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
      <div class="places">
        {#each places as place (place.slot)}
          <section aria-label={place.name} style:--n={Math.min(3, place.parts.length)}>
            <h2>{place.name}</h2>
            <div class="parts">
              {#each place.parts as part (part.item_id)}
                <div class={['panel part', part.state === 'retired' && 'gone']} data-wear={part.name}>
                  <p class="line">
                    <b>{part.name}</b><span class="soft"
                      >{WHERE[part.state]}{part.why_gone ? `: ${goneWords(part.why_gone)}` : ''}</span
                    >
                  </p>
                  {#if part.life === null && part.state === 'fitted'}
                    <p>Goes by what you find, not by a count.</p>
                  {:else if part.life !== null}
                    <div class="life" role="img" aria-label={`${percent(part.life)} of its life`}>
                      <span
                        class={part.life >= 1 ? 'over' : part.life >= 0.7 ? 'late' : ''}
                        style:width={`${Math.min(100, part.life * 100)}%`}
                      ></span>
                    </div>
                    <p>
                      {percent(part.life)} of its life{part.life_due
                        ? `: a new one ${when(part.life_due, data.today)}`
                        : ''}.
                    </p>
                  {/if}
                  <p class="soft">
                    {figure(part.used_h)} h in {plural(Math.round(part.runs), 'run')}{part.since
                      ? ` since ${day(part.since)}`
                      : ''}, cleaned {plural(part.cleanings, 'time')}{part.washes
                      ? `, ${plural(part.washes, 'wash', 'washes')} among them`
                      : ''}.
                  </p>
                  {#if part.found.length}
                    <p class="soft">
                      Found: {part.found
                        .slice(-3)
                        .map((one) => `${words[one.found].toLowerCase()} (${day(one.day)})`)
                        .join(', ')}.
                    </p>
                  {/if}
                  {#if part.recovery_first !== null && part.recovery_lately !== null}
                    <p class={part.recovers_no_more ? 'ink-overdue font-bold' : 'soft'}>
                      {part.recovers_no_more
                        ? 'Washing brings it back no more: replace it.'
                        : 'Washing brings it back.'} After washes the machine pulled {figure(
                        part.recovery_first,
                      )} of 5 at first, {figure(part.recovery_lately)} lately.
                    </p>
                  {/if}
                  {#each part.gauges as gauge (gauge.key)}
                    <div class="gauge">
                      <div class="min-w-0">
                        <p><b>{gauge.name}</b></p>
                        <p class={gauge.course === 'worn' ? 'ink-overdue font-bold' : ''}>
                          {outlook(gauge, data.today, session.us)}
                        </p>
                        {#if gauge.course === 'wears'}
                          <details class="soft">
                            <summary>Why</summary>
                            {#each lineWhy(gauge, session.us) as line (line)}<p>{line}</p>{/each}
                          </details>
                        {/if}
                        {#if session.mayWrite && part.state !== 'retired'}
                          <button
                            class="btn btn-sm mt-1"
                            aria-label={`Measure: ${gauge.name}, ${part.name}`}
                            onclick={() => (measuring = { part, gauge })}>Measure</button
                          >
                        {/if}
                      </div>
                      {#if gauge.points.length}<Line {gauge} used_h={part.used_h} />{/if}
                    </div>
                  {/each}
                </div>
              {/each}
            </div>
          </section>
        {:else}
          <p>No part of this machine is renewed.</p>
        {/each}
      </div>
    </div>
    <div class="costs"><Worth machine_id={data.machine_id} /></div>
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
  .page {
    display: grid;
    gap: 1.5rem;
    max-width: 84rem;
    margin-inline: auto;
    padding: 1.25rem clamp(1rem, 2.5vw, 1.75rem) 1.5rem;
  }
  .costs {
    max-width: 84rem;
    margin-inline: auto;
    padding: 0 clamp(1rem, 2.5vw, 1.75rem) 5rem;
  }
  h2 {
    margin-bottom: 0.5rem;
    font-size: 1.1rem;
    font-weight: 800;
  }
  .places {
    display: grid;
    gap: 1.5rem 0.75rem;
  }
  .parts {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(min(24rem, 100%), 1fr));
    gap: 0.75rem;
  }
  @media (min-width: 1200px) {
    .places {
      grid-template-columns: repeat(3, minmax(0, 1fr));
      grid-auto-flow: dense;
    }
    section {
      grid-column: span var(--n);
    }
    .parts {
      grid-template-columns: repeat(var(--n), minmax(0, 1fr));
    }
  }
  .part {
    display: grid;
    align-content: start;
    gap: 0.4rem;
    padding: 0.8rem 1rem;
  }
  .gone {
    border-style: dashed;
  }
  .line {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
  }
  .life {
    height: 0.75rem;
    border: 1px solid var(--duct);
    border-radius: 0.3rem;
    background: var(--chamber);
    overflow: hidden;
  }
  .life span {
    display: block;
    height: 100%;
    background: var(--fresh-fill);
  }
  .life .late {
    background: var(--due-fill);
  }
  .life .over {
    background: var(--overdue-fill);
  }
  .gauge {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 9.5rem;
    gap: 0.75rem;
    padding-top: 0.5rem;
    border-top: 1px solid var(--color-base-300);
  }
</style>
