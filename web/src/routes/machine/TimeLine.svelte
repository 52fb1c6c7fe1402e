<!-- What comes when: each part's next task as a band from its early to its late day, nearer days drawn wider. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { daysBetween, when } from '../../lib/words/format';
  import { LEVEL, shortWord } from '../../lib/words/tasks';

  let {
    parts,
    today,
    selected,
    onselect,
  }: {
    parts: Schemas['PartOut'][];
    today: string;
    selected: string;
    onselect: (slot: string) => void;
  } = $props();

  const FAR = 400;
  const TICKS = [
    { days: 0, text: 'now' },
    { days: 7, text: 'a week' },
    { days: 30, text: 'a month' },
    { days: 91, text: '3 months' },
    { days: 365, text: 'a year' },
  ];
  /** Per cent of the line: nearer days take more room, since they are what is planned with. */
  const at = (days: number) => (Math.log1p(Math.min(Math.max(days, 0), FAR) / 7) / Math.log1p(FAR / 7)) * 100;

  const rows = $derived(
    parts
      .flatMap((part) =>
        part.states
          .filter((state) => state.due !== null)
          .map((state) => {
            const [early, middle, late] = [state.due!.p10, state.due!.p50, state.due!.p90].map((day) =>
              daysBetween(today, day),
            ) as [number, number, number];
            return { part, state, early, middle: state.share >= 1 ? 0 : middle, late };
          }),
      )
      .sort((a, b) => a.middle - b.middle),
  );
  let all = $state(false);
  const MOST = 7;
  const shown = $derived(all ? rows : rows.slice(0, MOST));
</script>

<section class="panel line" aria-label="What comes when">
  <div class="head">
    <h2>What comes when</h2>
    <div class="ticks" aria-hidden="true">
      {#each TICKS as tick (tick.days)}<span style:left={`${at(tick.days)}%`}>{tick.text}</span>{/each}
    </div>
  </div>
  {#each shown as row (`${row.part.slot}/${row.state.action}`)}
    {@const text = row.state.share >= 1 ? 'now' : when(row.state.due, today)}
    <button
      class={['row', `ink-${row.state.level}`, row.part.slot === selected && 'selected']}
      onclick={() => onselect(row.part.slot)}
    >
      <span class="name"
        >{row.part.name}: {shortWord(row.state.action)}
        <span class="sr-only">{text}, {LEVEL[row.state.level]}</span></span
      >
      <span class="track" aria-hidden="true">
        {#each TICKS as tick (tick.days)}<i style:left={`${at(tick.days)}%`}></i>{/each}
        <span
          class="band"
          style:left={`${at(row.early)}%`}
          style:width={`${Math.max(0.8, at(row.late) - at(row.early))}%`}
        ></span>
        <span class="middle" style:left={`${at(row.middle)}%`}></span>
      </span>
      <span class="when" aria-hidden="true">{text}</span>
    </button>
  {:else}
    <p class="soft p-2">No date yet: log a run, or say when it usually runs.</p>
  {/each}
  {#if rows.length > MOST}
    <button class="btn btn-ghost btn-sm mt-1" aria-expanded={all} onclick={() => (all = !all)}
      >{all ? 'The next ones only' : `And ${rows.length - MOST} later`}</button
    >
  {/if}
</section>

<style>
  .line {
    padding: 0.75rem 1rem;
  }
  .head,
  .row {
    display: grid;
    grid-template-columns: minmax(13.5rem, 22%) minmax(0, 1fr) 11.5rem;
    align-items: center;
    gap: 0 1rem;
    width: 100%;
  }
  .ticks {
    container-type: inline-size;
    position: relative;
    height: 1.3rem;
    font-size: 0.85rem;
    color: var(--soft);
  }
  .ticks span {
    position: absolute;
    transform: translateX(-50%);
    white-space: nowrap;
  }
  @container (max-width: 24rem) {
    .ticks span:nth-child(even) {
      display: none;
    }
  }
  .ticks span:first-child {
    transform: none;
  }
  .row {
    min-height: 2rem;
    text-align: left;
    cursor: pointer;
    border-radius: 0.4rem;
  }
  .row:hover,
  .row.selected {
    background: color-mix(in oklab, var(--color-base-content) 7%, transparent);
  }
  .name,
  .when {
    color: var(--color-base-content);
  }
  .name {
    overflow-wrap: anywhere;
    padding-left: 0.3rem;
  }
  .when {
    font-size: 0.95rem;
  }
  .track {
    position: relative;
    height: 1.1rem;
  }
  .track i {
    position: absolute;
    top: -0.45rem;
    bottom: -0.45rem;
    border-left: 1px solid var(--color-base-300);
  }
  .band {
    position: absolute;
    top: 0.25rem;
    height: 0.6rem;
    min-width: 0.5rem;
    border-radius: 0.3rem;
    background: currentColor;
    opacity: 0.45;
  }
  .middle {
    position: absolute;
    top: 0;
    width: 0.3rem;
    height: 1.1rem;
    margin-left: -0.15rem;
    border-radius: 0.15rem;
    background: currentColor;
  }
  @media (max-width: 47.49rem) {
    .head {
      grid-template-columns: minmax(0, 1fr);
    }
    .ticks {
      margin-inline: 0.3rem;
    }
    .row {
      grid-template-columns: minmax(0, 1fr) auto;
      padding: 0.3rem;
    }
    .track {
      grid-column: 1 / -1;
      grid-row: 2;
    }
    .name {
      padding-left: 0;
    }
  }
</style>
