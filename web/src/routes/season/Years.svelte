<!-- Hours of a year as bars with their bands: as it is now, and each other way under it. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { cut } from '../../lib/airpath/layout';
  import { changed, hours, withBand } from '../../lib/words/whatif';

  let {
    start,
    compared,
    changes,
  }: {
    start: Schemas['WhatIfStart'];
    compared: Schemas['ComparedOut'][];
    changes: Schemas['ChangeIn'][];
  } = $props();

  let width = $state(900);
  const ROW = 34;
  const bars = $derived([
    { name: 'As it is now', band: start.year.hours },
    ...compared.map((one, n) => ({
      name: `${n + 1}. ${changes[n] ? changed(changes[n], start) : ''}`,
      band: one.year.hours,
    })),
  ]);
  const names = $derived(Math.min(320, width * 0.34));
  const most = $derived(Math.max(1, ...bars.map((one) => one.band.p90)));
  const x = (value: number) => names + ((width - names - 90) * value) / most;
</script>

<div bind:clientWidth={width}>
  <svg {width} height={bars.length * ROW} role="img" aria-label="Hours a year, each way with its band">
    {#each bars as one, n (n)}
      {@const y = n * ROW + ROW / 2}
      <text class="fill-base-content text-[0.875rem]" x="0" y={y + 5}
        >{cut(one.name, 14, names - 12)}<title>{one.name}</title></text
      >
      <rect
        class={n ? 'other' : 'now'}
        x={x(0)}
        y={y - 8}
        width={x(one.band.p50) - x(0)}
        height="16"
        rx="3"
      />
      <line class="stroke-base-content stroke-2" x1={x(one.band.p10)} x2={x(one.band.p90)} y1={y} y2={y} />
      <text class="value fill-base-content text-[0.875rem]" x={x(one.band.p90) + 8} y={y + 5}
        >{hours(one.band.p50)}</text
      >
    {/each}
  </svg>
  <ul class="sr-only">
    {#each bars as one, n (n)}<li>{one.name}: {withBand(one.band, hours)}</li>{/each}
  </ul>
</div>

<style>
  .value {
    font-weight: 700;
  }
  .now {
    fill: var(--duct);
  }
  .other {
    fill: var(--fresh-fill);
  }
</style>
