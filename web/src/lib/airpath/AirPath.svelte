<!--
  A machine as its own air path: one duct from the floor to the exhaust, its stations as chambers that fill with load,
  parts beside the path hanging below. State is told by shape, text and colour together.
-->
<script lang="ts">
  import Glyph from './Glyph.svelte';
  import { beside, type Chamber, type Column, COLUMNS, lying, onPath, type Size, standing } from './layout';
  import type { Mark } from './marks';
  import { spoken, tag } from './words';

  let {
    chambers,
    now,
    name,
    columns = COLUMNS.filter((column) => chambers.some((chamber) => chamber.column === column)),
    size = 'tall',
    upright = false,
    selected = null,
    given = null,
    marks = null,
    onselect,
  }: {
    chambers: Chamber[];
    now: string;
    name: string;
    columns?: Column[];
    size?: Size;
    upright?: boolean;
    selected?: string | null;
    /** Its width [px] where many strips share one: then none measures itself, which would lay the page out for each. */
    given?: number | null;
    /** What the strip tells instead of upkeep, by chamber: a word under it, how full, and whether it stands out. */
    marks?: Record<string, Mark> | null;
    onselect: (chamber: Chamber) => void;
  } = $props();

  let measured = $state(600);
  const width = $derived(given ?? measured);
  const shape = $derived(upright ? standing(chambers, width) : lying(chambers, columns, width, size));
  const pegs = $derived(beside(chambers));
  const duct = $derived(upright ? 18 : { tall: 22, low: 18, slim: 15 }[size]);
  const active = (chamber: Chamber) => (marks ? chamber.key in marks : chamber.level !== null);
  const order = $derived([...onPath(chambers), ...pegs].filter(active));
  const mark = (chamber: Chamber): Mark => marks?.[chamber.key] ?? { tag: '', fill: 0, look: 'cleared' };
  const look = (chamber: Chamber) => (marks ? mark(chamber).look : (chamber.level ?? ''));
  const under = (chamber: Chamber, slim = false) => (marks ? mark(chamber).tag : tag(chamber, now, slim));
  const aloud = (chamber: Chamber) =>
    marks ? `${chamber.label} ${mark(chamber).tag}`.trim() : spoken(chamber, now);

  const isDuty = (chamber: Chamber) =>
    marks
      ? mark(chamber).look === 'suspected'
      : ['due', 'overdue', 'missing', 'drying'].includes(chamber.level ?? '');

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

<div
  class="strip"
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
  {#if shape.placed.length}<svg {width} height={shape.height} viewBox={`0 0 ${width} ${shape.height}`}>
      <g class="duct" aria-hidden="true">
        {#if upright}
          <path class="mouth" d={`M ${shape.from.x - 26} 4 h 52 l -14 18 h -24 Z`} />
          <line x1={shape.from.x} y1="18" x2={shape.to.x} y2={shape.to.y - 14} stroke-width={duct} />
          <path class="mouth" d={`M ${shape.to.x - 20} ${shape.to.y - 16} h 40 l -20 16 Z`} />
        {:else}
          <path class="mouth" d={`M ${shape.from.x} ${shape.from.y + 30} l 12 -41 h 18 v 22 Z`} />
          <line x1={20} y1={shape.from.y} x2={shape.to.x - 16} y2={shape.to.y} stroke-width={duct} />
          <path class="mouth" d={`M ${shape.to.x - 18} ${shape.to.y - 22} l 18 22 l -18 22 Z`} />
        {/if}
      </g>

      {#each shape.placed as { chamber, x, y } (chamber.key)}
        {@const { w, h } = shape.chamber}
        {#if !active(chamber)}
          <g class="plain" transform={`translate(${x} ${y})`} role="img" aria-label={aloud(chamber)}>
            {#if chamber.column === 'motor'}
              <circle r={h * 0.36} class="fan" />
              {#each [0, 72, 144, 216, 288] as turn (turn)}
                <path
                  class="blade"
                  transform={`rotate(${turn})`}
                  d={`M 0 -3 Q ${h * 0.13} ${-h * 0.16} 0 ${-h * 0.29}`}
                />
              {/each}
            {:else}
              {#each [-1, 0, 1] as slat (slat)}
                <line class="slat" x1={-w * 0.22} x2={w * 0.22} y1={slat * 13 + 5} y2={slat * 13 - 5} />
              {/each}
            {/if}
            <text
              class="label"
              x={upright ? 52 : 0}
              y={upright ? 5 : -h / 2 - (size === 'slim' ? 7 : 9)}
              class:start={upright}>{chamber.label}</text
            >
          </g>
        {:else}
          <g
            id={idOf(chamber)}
            class={['chamber', look(chamber), selected === chamber.key && 'selected']}
            transform={`translate(${x} ${y})`}
            role="button"
            tabindex="0"
            aria-label={aloud(chamber)}
            aria-pressed={selected === chamber.key}
            onclick={() => onselect(chamber)}
            onkeydown={(event) => step(event, chamber)}
          >
            <rect
              class="reach"
              x={upright ? -w / 2 - 6 : -w / 2 - 8}
              y={-h / 2 - 6}
              width={upright ? Math.max(0, width - 40) : w + 16}
              height={h + 12}
              rx="12"
            />
            <rect class="wall rim" x={-w / 2} y={-h / 2} width={w} height={h} rx="10" />
            <rect
              class="fill"
              x={-w / 2 + 4}
              y={-h / 2 + 4}
              width={w - 8}
              height={h - 8}
              rx="6"
              style:transform={`scaleY(${marks ? mark(chamber).fill : chamber.fill})`}
            />
            {#if !marks}
              <Glyph level={chamber.level} r={size === 'tall' || upright ? 10 : size === 'low' ? 7 : 6} />
            {/if}
            {#if upright}
              <text class="label start" x="52" y="-4">{`${chamber.label} `}</text>
              <text class={['tag start', isDuty(chamber) && 'strong']} x="52" y="18">{under(chamber)}</text>
            {:else}
              <text class="label" y={-h / 2 - (size === 'slim' ? 7 : 9)}>{`${chamber.label} `}</text>
              <text class={['tag', isDuty(chamber) && 'strong']} y={h / 2 + (size === 'slim' ? 17 : 22)}
                >{under(chamber, size === 'slim')}</text
              >
            {/if}
          </g>
        {/if}
      {/each}
    </svg>{/if}

  {#if pegs.length}
    <div class={['pegs', upright && 'upright', size]}>
      {#each pegs as chamber (chamber.key)}
        <button
          id={idOf(chamber)}
          class={['peg', look(chamber) || 'fresh', selected === chamber.key && 'selected']}
          aria-label={aloud(chamber)}
          aria-pressed={selected === chamber.key}
          onclick={() => onselect(chamber)}
          onkeydown={(event) => step(event, chamber)}
        >
          <svg width="26" height="26" viewBox="-13 -13 26 26" aria-hidden="true">
            <circle r="11" class="wall rim" />
            {#if marks}<circle
                r={11 * mark(chamber).fill}
                class="dot"
              />{:else if chamber.level === 'fresh'}<circle r="4" class="dot" />{:else}<Glyph
                level={chamber.level}
                r={5}
              />{/if}
          </svg>
          <span>{chamber.label}</span>
          {#if isDuty(chamber)}<b>{under(chamber)}</b>{/if}
        </button>
      {/each}
    </div>
  {/if}
</div>

<style>
  .strip {
    width: 100%;
    min-width: 0;
  }
  svg {
    display: block;
    max-width: 100%;
  }
  .duct line {
    stroke: var(--duct);
  }
  .mouth {
    fill: var(--duct);
  }
  .label {
    font-size: 15px;
    text-anchor: middle;
    fill: var(--color-base-content);
  }
  .tag {
    font-size: 14px;
    text-anchor: middle;
    fill: var(--soft);
  }
  .start {
    text-anchor: start;
  }
  .strong {
    font-weight: 700;
    fill: var(--ink);
  }
  .plain .fan {
    fill: var(--chamber);
    stroke: var(--duct);
    stroke-width: 3;
  }
  .plain .label {
    fill: var(--soft);
  }
  .slat {
    stroke: var(--soft);
    stroke-width: 4;
    stroke-linecap: round;
  }
  .blade {
    fill: none;
    stroke: var(--soft);
    stroke-width: 2.5;
    stroke-linecap: round;
  }
  .chamber {
    cursor: pointer;
  }
  .reach {
    fill: transparent;
  }
  .wall {
    fill: var(--chamber);
  }
  .fill {
    fill: var(--fill);
    transform-box: fill-box;
    transform-origin: bottom;
    transition: transform 0.6s ease;
  }
  .rim {
    stroke: var(--ink);
    stroke-width: 2.5;
    transition: stroke 0.4s;
  }
  .due .rim,
  .overdue .rim {
    stroke-width: 4;
  }
  .drying .rim,
  .missing .rim {
    stroke-dasharray: 6 4;
    stroke-width: 3.5;
  }
  .chamber:hover .reach,
  .chamber.selected .reach {
    fill: color-mix(in oklab, var(--color-base-content) 9%, transparent);
  }
  .chamber.selected .reach {
    stroke: var(--color-base-content);
    stroke-width: 1.5;
  }
  .chamber:focus {
    outline: none;
  }
  .chamber:focus-visible .reach {
    stroke: var(--color-secondary);
    stroke-width: 3;
  }
  .fresh {
    --ink: var(--fresh);
    --fill: var(--fresh-fill);
  }
  .wearing {
    --ink: var(--wearing);
    --fill: var(--wearing-fill);
  }
  .due {
    --ink: var(--due);
    --fill: var(--due-fill);
  }
  .overdue {
    --ink: var(--overdue);
    --fill: var(--overdue-fill);
  }
  .drying {
    --ink: var(--drying);
    --fill: var(--drying-fill);
  }
  .missing {
    --ink: var(--missing);
    --fill: var(--missing-fill);
  }
  .unknown {
    --ink: var(--unknown);
    --fill: var(--unknown-fill);
  }
  .suspected {
    --ink: var(--suspected);
    --fill: var(--suspected-fill);
  }
  .suspected .rim {
    stroke-width: 4;
  }
  .cleared {
    --ink: var(--duct);
    --fill: var(--suspected-fill);
  }
  .cleared .rim {
    stroke-width: 2;
  }
  .flowing {
    --ink: var(--drying);
    --fill: var(--drying-fill);
  }
  .unknown .rim {
    stroke-dasharray: 3 4;
  }
  .dot {
    fill: var(--fill);
  }
  .pegs {
    display: flex;
    flex-wrap: wrap;
    gap: 0.25rem 0.5rem;
    padding-inline: 1rem;
  }
  .pegs.slim:not(.upright) {
    gap: 0 0.25rem;
  }
  .pegs.slim:not(.upright) .peg {
    min-height: 1.75rem;
    font-size: 0.875rem;
  }
  .pegs.slim:not(.upright) .peg svg {
    width: 20px;
    height: 20px;
  }
  .pegs.upright {
    flex-direction: column;
    gap: 0;
    padding-inline: 0.5rem;
  }
  .peg {
    display: inline-flex;
    align-items: center;
    gap: 0.4rem;
    min-height: 2.5rem;
    padding: 0 0.6rem 0 0.35rem;
    border-radius: 999px;
    cursor: pointer;
    font-size: 0.95rem;
  }
  .pegs.upright .peg {
    gap: 1.1rem;
    min-height: 3rem;
  }
  .peg .rim {
    stroke-width: 2;
  }
  .peg:hover,
  .peg.selected {
    background: color-mix(in oklab, var(--color-base-content) 9%, transparent);
  }
  .peg.selected {
    box-shadow: inset 0 0 0 1.5px var(--color-base-content);
  }
  .peg b {
    color: var(--ink);
  }
</style>
