<!-- One station of a strip: a chamber that fills with load, or, where nothing is looked after, what sits there. -->
<script lang="ts">
  import Glyph from './Glyph.svelte';
  import type { Chamber, Shape, Size } from './layout';
  import { WORDS } from './layout';

  let {
    chamber,
    box,
    size,
    upright,
    reach,
    label,
    tag,
    level,
    fill,
    strong,
    marked,
  }: {
    chamber: Chamber;
    box: Shape['chamber'];
    size: Size;
    upright: boolean;
    /** How wide the place is that can be tapped [px]. */
    reach: number;
    label: string;
    tag: string;
    level: string | null;
    fill: number;
    strong: boolean;
    /** Whether it tells something else than upkeep: then it carries no shape of a state. */
    marked: boolean;
  } = $props();

  const { w, h } = $derived(box);
  const pad = $derived(size === 'slim' ? 3 : 6);
  const above = $derived(-h / 2 - (size === 'slim' ? 5 : 9));
  const under = $derived(h / 2 + (size === 'slim' ? 4 : 8) + WORDS[size]);
</script>

{#if level === null}
  {#if chamber.column === 'motor'}
    <circle r={h * 0.36} class="fill-(--chamber) stroke-(--duct) stroke-3" />
    {#each [0, 72, 144, 216, 288] as turn (turn)}
      <path
        class="blade"
        transform={`rotate(${turn})`}
        d={`M 0 -3 Q ${h * 0.13} ${-h * 0.16} 0 ${-h * 0.29}`}
      />
    {/each}
  {:else}
    {#each [-1, 0, 1] as slat (slat)}
      <line class="slat" x1={-w * 0.22} x2={w * 0.22} y1={slat * h * 0.17 + 5} y2={slat * h * 0.17 - 5} />
    {/each}
  {/if}
{:else}
  <rect
    class="reach"
    x={upright ? -w / 2 - 6 : -reach / 2}
    y={-h / 2 - pad}
    width={reach}
    height={h + 2 * pad}
    rx="10"
  />
  <rect
    class="rim fill-(--chamber)"
    x={-w / 2}
    y={-h / 2}
    width={w}
    height={h}
    rx={size === 'slim' ? 7 : 10}
  />
  <rect
    class="fill"
    x={-w / 2 + 4}
    y={-h / 2 + 4}
    width={w - 8}
    height={h - 8}
    rx={size === 'slim' ? 3 : 6}
    style:transform={`scaleY(${fill})`}
  />
  {#if !marked}<Glyph
      level={chamber.level}
      r={size === 'tall' || upright ? 10 : size === 'low' ? 7 : 6}
    />{/if}
{/if}
<text
  class={['label', upright && 'start', level === null && 'soft']}
  font-size={WORDS[size]}
  x={upright ? 52 : 0}
  y={upright ? (level === null ? 5 : -4) : above}>{`${label} `}</text
>
{#if tag}
  <text
    class={['tag', upright && 'start', strong && 'strong']}
    font-size={Math.min(14, WORDS[size])}
    x={upright ? 52 : 0}
    y={upright ? 18 : under}>{tag}</text
  >
{/if}

<style>
  .label,
  .tag {
    text-anchor: middle;
    fill: var(--color-base-content);
  }
  .tag,
  .soft {
    fill: var(--soft);
  }
  .start {
    text-anchor: start;
  }
  .strong {
    font-weight: 700;
    fill: var(--ink);
  }
  .slat,
  .blade {
    fill: none;
    stroke: var(--soft);
    stroke-width: 2.5;
    stroke-linecap: round;
  }
  .reach {
    fill: transparent;
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
  :global(:is(.level-due, .level-overdue, .level-suspected)) > .rim {
    stroke-width: 4;
  }
  :global(.level-cleared) > .rim {
    stroke-width: 2;
  }
  :global(:is(.level-drying, .level-missing)) > .rim {
    stroke-dasharray: 6 4;
    stroke-width: 3.5;
  }
  :global(.level-unknown) > .rim {
    stroke-dasharray: 3 4;
  }
</style>
