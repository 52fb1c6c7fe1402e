<!-- The shape of a state, so that it is told without colour. Drawn around its own centre, inside an svg. -->
<script lang="ts">
  import type { Schemas } from '../api/client';

  let { level, r = 8 }: { level: Schemas['Level'] | null; r?: number } = $props();
</script>

{#if level === 'wearing'}
  <path class="wearing" d={`M ${-r} 0 A ${r} ${r} 0 0 1 ${r} 0`} />
{:else if level === 'due'}
  <circle class="fill-(--chamber) stroke-(--due) stroke-3" {r} />
{:else if level === 'overdue'}
  <path class="overdue" d={`M 0 ${-r * 1.15} L ${r * 1.15} ${r * 0.85} L ${-r * 1.15} ${r * 0.85} Z`} />
  <path class="bang" d={`M 0 ${-r * 0.4} V ${r * 0.2} M 0 ${r * 0.52} v 0.01`} />
{:else if level === 'drying'}
  <path
    class="fill-(--drying)"
    d={`M 0 ${-r * 1.3} C ${r * 0.9} ${-r * 0.1} ${r * 0.9} ${r} 0 ${r} C ${-r * 0.9} ${r} ${-r * 0.9} ${-r * 0.1} 0 ${-r * 1.3} Z`}
  />
{:else if level === 'unknown'}
  <path
    class="unknown"
    d={`M ${-r * 0.55} ${-r * 0.55} A ${r * 0.6} ${r * 0.6} 0 1 1 0 ${r * 0.2} V ${r * 0.4} M 0 ${r * 0.95} v 0.01`}
  />
{:else if level === 'missing'}
  <path
    class="missing"
    d={`M ${-r * 0.8} ${-r * 0.8} L ${r * 0.8} ${r * 0.8} M ${r * 0.8} ${-r * 0.8} L ${-r * 0.8} ${r * 0.8}`}
  />
{/if}

<style>
  .wearing {
    fill: none;
    stroke: var(--wearing);
    stroke-width: 3;
    stroke-linecap: round;
  }
  .overdue {
    fill: var(--chamber);
    stroke: var(--overdue);
    stroke-width: 2.5;
    stroke-linejoin: round;
  }
  .bang {
    fill: none;
    stroke: var(--overdue);
    stroke-width: 2.5;
    stroke-linecap: round;
  }
  .unknown {
    fill: none;
    stroke: var(--unknown);
    stroke-width: 2.8;
    stroke-linecap: round;
  }
  .missing {
    fill: none;
    stroke: var(--missing);
    stroke-width: 3.5;
    stroke-linecap: round;
  }
</style>
