<!-- Use by week: what was told, and what was assumed from the usual week. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import Panel from '../../lib/ui/Panel.svelte';
  import { day, figure } from '../../lib/words/format';

  let { weeks }: { weeks: Schemas['WeekOut'][] } = $props();

  const most = $derived(Math.max(0.5, ...weeks.map((week) => week.told_h + week.assumed_h)));
  const total = $derived(weeks.reduce((sum, week) => sum + week.told_h + week.assumed_h, 0));
  const assumed = $derived(weeks.reduce((sum, week) => sum + week.assumed_h, 0));
  const HEIGHT = 70;
  const STEP = 26;
</script>

<Panel title={`Use, last ${weeks.length} weeks`} label="Use by week">
  <p class="soft text-sm">
    {figure(total)} h in all{#if assumed > 0.05}, {figure(assumed)} h of it assumed (hatched){/if}.
  </p>
  <svg
    width="100%"
    viewBox={`0 -4 ${weeks.length * STEP} ${HEIGHT + 8}`}
    role="img"
    aria-label={weeks.map((w) => `week of ${day(w.monday)}: ${figure(w.told_h + w.assumed_h)} h`).join('; ')}
  >
    <defs>
      <pattern id="assumed" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="6" height="6" class="fill-(--chamber)" /><line
          x1="0"
          y1="0"
          x2="0"
          y2="6"
          class="stroke-(--fresh) stroke-[2.5]"
        />
      </pattern>
    </defs>
    {#each weeks as week, i (week.monday)}
      {@const told = (week.told_h / most) * HEIGHT}
      {@const guessed = (week.assumed_h / most) * HEIGHT}
      <rect x={i * STEP + 3} y={HEIGHT - told} width={STEP - 6} height={told} class="told" />
      <rect
        x={i * STEP + 3}
        y={HEIGHT - told - guessed}
        width={STEP - 6}
        height={guessed}
        fill="url(#assumed)"
        class="stroke-(--fresh) stroke-1"
      />
    {/each}
    <line x1="0" x2={weeks.length * STEP} y1={HEIGHT} y2={HEIGHT} class="stroke-(--soft) stroke-1" />
  </svg>
</Panel>

<style>
  .told {
    fill: var(--fresh);
  }
</style>
