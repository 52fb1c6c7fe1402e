<!-- What was measured over hours in use, the line through it, and the limit it goes to. -->
<script lang="ts">
  import { session } from '../../lib/state/session.svelte';
  import type { Gauge } from '../../lib/state/wear.svelte';
  import { figure } from '../../lib/words/format';
  import { measured } from '../../lib/words/wear';

  let { gauge, used_h }: { gauge: Gauge; used_h: number } = $props();

  const [W, H, PAD] = [150, 84, 6];
  const last = $derived(Math.max(used_h, ...gauge.points.map((p) => p.used_h), 1) * 1.15);
  const values = $derived([...gauge.points.map((p) => p.value), gauge.limit ?? 0, gauge.new ?? 0]);
  const low = $derived(Math.min(...values));
  const high = $derived(Math.max(...values, low + 0.001));
  const x = (h: number) => PAD + (h / last) * (W - 2 * PAD);
  const y = (v: number) => H - PAD - ((v - low) / (high - low)) * (H - 2 * PAD);
  const at = (h: number) => (gauge.at_zero ?? 0) + (gauge.per_hour ?? 0) * h;
  const words = $derived(
    `${gauge.name}: ${gauge.points.map((p) => `${measured(p.value, gauge.scale, session.us)} after ${figure(p.used_h)} h`).join(', ')}${
      gauge.limit === null ? '' : `; the end is ${measured(gauge.limit, gauge.scale, session.us)}`
    }`,
  );
</script>

<svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={words}>
  {#if gauge.limit !== null}
    <line class="limit" x1={PAD} x2={W - PAD} y1={y(gauge.limit)} y2={y(gauge.limit)} />
  {/if}
  {#if gauge.course === 'wears'}
    <line class="fit" x1={x(0)} y1={y(at(0))} x2={x(last)} y2={y(at(last))} />
  {/if}
  {#each gauge.points as point (`${point.used_h} ${point.day} ${point.value}`)}
    <circle class="fill-secondary" cx={x(point.used_h)} cy={y(point.value)} r="3.5" />
  {/each}
</svg>

<style>
  svg {
    width: 100%;
    height: auto;
    border-left: 1px solid var(--duct);
    border-bottom: 1px solid var(--duct);
    overflow: hidden;
  }
  .limit {
    stroke: var(--overdue);
    stroke-width: 1.5;
    stroke-dasharray: 5 3;
  }
  .fit {
    stroke: var(--soft);
    stroke-width: 1.5;
  }
</style>
