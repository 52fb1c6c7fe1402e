<!--
  A machine as its own air path: one duct from the floor to the exhaust, its stations as chambers that fill with load,
  parts beside the path hanging below. State is told by shape, text and colour together.
-->
<script lang="ts">
  import {
    beside,
    type Chamber,
    type Column,
    COLUMNS,
    columnWidth,
    fitted,
    lying,
    onPath,
    scale,
    type Size,
    sizeFor,
    standing,
    WORDS,
  } from './layout';
  import type { Mark } from './marks';
  import Pegs from './Pegs.svelte';
  import Station from './Station.svelte';
  import { spoken, tag } from './words';

  let {
    chambers,
    now,
    name,
    columns = COLUMNS.filter((column) => chambers.some((chamber) => chamber.column === column)),
    size: largest = 'tall',
    upright = false,
    selected = null,
    given = null,
    marks = null,
    onselect,
    onall = null,
  }: {
    chambers: Chamber[];
    now: string;
    name: string;
    columns?: Column[];
    /** The largest size it may have; it is drawn smaller where it is narrow. */
    size?: Size;
    upright?: boolean;
    selected?: string | null;
    /** Its width [px] where many strips share one: then none measures itself, which would lay the page out for each. */
    given?: number | null;
    /** What the strip tells instead of upkeep, by chamber: a word under it, how full, and whether it stands out. */
    marks?: Record<string, Mark> | null;
    onselect: (chamber: Chamber) => void;
    /** Where all parts beside the path are seen: then the calm ones of a low strip are gathered. */
    onall?: (() => void) | null;
  } = $props();

  let measured = $state(600);
  const by = scale();
  /** Everything is drawn at the usual size and then grows with the letters of the page. */
  const width = $derived((given ?? measured) / by);
  const size = $derived(upright ? 'tall' : sizeFor(columnWidth(columns, width), largest));
  const slim = $derived(size === 'slim');
  const pegs = $derived(beside(chambers));
  const path = $derived(onPath(chambers));
  const duct = $derived(upright ? 18 : { tall: 22, low: 18, slim: 15 }[size]);
  const active = (chamber: Chamber) => (marks ? chamber.key in marks : chamber.level !== null);
  const order = $derived([...path, ...pegs].filter(active));
  const mark = (chamber: Chamber): Mark => marks?.[chamber.key] ?? { tag: '', fill: 0, look: 'cleared' };
  const level = (chamber: Chamber) => (!active(chamber) ? null : marks ? mark(chamber).look : chamber.level);
  const isDuty = (chamber: Chamber) =>
    marks
      ? mark(chamber).look === 'suspected'
      : ['due', 'overdue', 'missing', 'drying'].includes(chamber.level ?? '');
  /** What stands under a chamber; where rows are low, only what wants hands. */
  function under(chamber: Chamber): string {
    if (!active(chamber)) return '';
    if (marks) return mark(chamber).tag;
    return slim && !isDuty(chamber) && chamber.level !== 'unknown' ? '' : tag(chamber, now, slim);
  }
  const aloud = (chamber: Chamber) =>
    marks ? `${chamber.label} ${mark(chamber).tag}`.trim() : spoken(chamber, now);

  /** Where its name is cut, it is called by what can be read, too. */
  const called = (chamber: Chamber, label: string) =>
    label === chamber.label ? aloud(chamber) : `${label} ${under(chamber)}: ${aloud(chamber)}`;

  const tags = $derived(path.map(under));
  const shape = $derived(
    upright ? standing(chambers, width) : lying(chambers, columns, width, size, !slim || tags.some(Boolean)),
  );
  const said = $derived.by(() => {
    const at = (texts: string[]) => shape.placed.map(({ x }, i) => ({ x, text: texts[i] ?? '' }));
    const labels = path.map(({ label }) => label);
    if (upright) return { labels, tags };
    return { labels: fitted(at(labels), WORDS[size], width), tags: fitted(at(tags), WORDS[size], width) };
  });
  const reach = $derived(
    upright
      ? Math.max(0, width - 40)
      : Math.min(shape.chamber.w + 16, Math.max(columnWidth(columns, width), shape.chamber.w)),
  );

  function step(event: KeyboardEvent, chamber: Chamber) {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      onselect(chamber);
      return;
    }
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const next = order[(order.indexOf(chamber) + by + order.length) % order.length];
    if (next) (document.getElementById(idOf(next)) as HTMLElement | SVGElement | null)?.focus();
  }

  const uid = $props.id();
  const idOf = (chamber: Chamber) => `${uid}-${chamber.key}`;
</script>

{#snippet station(chamber: Chamber, label: string, tag: string)}
  <Station
    {chamber}
    box={shape.chamber}
    {size}
    {upright}
    {reach}
    {label}
    {tag}
    level={level(chamber)}
    fill={marks ? mark(chamber).fill : chamber.fill}
    strong={isDuty(chamber)}
    marked={marks !== null}
  />
{/snippet}

<div
  class="w-full min-w-0"
  role="group"
  aria-label={`${name}, air path`}
  {@attach (strip: HTMLElement) => {
    if (given !== null) return;
    const watch = new ResizeObserver(() => (measured = strip.clientWidth));
    measured = strip.clientWidth;
    watch.observe(strip);
    return () => watch.disconnect();
  }}
>
  {#if shape.placed.length}<svg
      class="block max-w-full"
      width={width * by}
      height={shape.height * by}
      viewBox={`0 0 ${width} ${shape.height}`}
    >
      <g class="duct" aria-hidden="true">
        {#if upright}
          <path class="mouth" d={`M ${shape.from.x - 26} 4 h 52 l -14 18 h -24 Z`} />
          <line x1={shape.from.x} y1="18" x2={shape.to.x} y2={shape.to.y - 14} stroke-width={duct} />
          <path class="mouth" d={`M ${shape.to.x - 20} ${shape.to.y - 16} h 40 l -20 16 Z`} />
        {:else}
          {@const half = duct / 2}
          <path
            class="mouth"
            d={`M ${shape.from.x} ${shape.from.y + half + 12} l 10 ${-duct - 12} h 10 v ${duct} Z`}
          />
          <line
            x1={shape.from.x + 16}
            y1={shape.from.y}
            x2={shape.to.x - 16}
            y2={shape.to.y}
            stroke-width={duct}
          />
          <path
            class="mouth"
            d={`M ${shape.to.x - 18} ${shape.to.y - half - 8} l 18 ${half + 8} l -18 ${half + 8} Z`}
          />
        {/if}
      </g>

      {#each shape.placed as { chamber, x, y }, i (chamber.key)}
        {@const label = said.labels[i] ?? ''}
        {@const state = level(chamber)}
        {#if state === null}
          <g transform={`translate(${x} ${y})`} role="img" aria-label={aloud(chamber)}
            >{@render station(chamber, label, said.tags[i] ?? '')}</g
          >
        {:else}
          <g
            id={idOf(chamber)}
            class={['chamber', `level-${state}`, selected === chamber.key && 'selected']}
            transform={`translate(${x} ${y})`}
            role="button"
            tabindex="0"
            aria-label={called(chamber, label)}
            aria-pressed={selected === chamber.key}
            onclick={() => onselect(chamber)}
            onkeydown={(event) => step(event, chamber)}
            >{@render station(chamber, label, said.tags[i] ?? '')}</g
          >
        {/if}
      {/each}
    </svg>{/if}

  {#if pegs.length}
    <Pegs
      {pegs}
      {size}
      {upright}
      {selected}
      {idOf}
      {onselect}
      {onall}
      onstep={step}
      markOf={(peg) => ({
        level: level(peg) ?? 'fresh',
        aloud: aloud(peg),
        tag: marks ? mark(peg).tag : tag(peg, now),
        strong: isDuty(peg),
        dot: marks ? mark(peg).fill : peg.level === 'fresh' ? 0.36 : null,
      })}
    />
  {/if}
</div>

<style>
  .duct line {
    stroke: var(--duct);
  }
  .mouth {
    fill: var(--duct);
  }
  .chamber {
    cursor: pointer;
  }
  .chamber:hover > :global(.reach),
  .chamber.selected > :global(.reach) {
    fill: color-mix(in oklab, var(--color-base-content) 9%, transparent);
  }
  .chamber.selected > :global(.reach) {
    stroke: var(--color-base-content);
    stroke-width: 1.5;
  }
  .chamber:focus {
    outline: none;
  }
  .chamber:focus-visible > :global(.reach) {
    stroke: var(--color-secondary);
    stroke-width: 3;
  }
</style>
