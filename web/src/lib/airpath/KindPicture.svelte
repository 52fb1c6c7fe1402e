<!-- A kind of machine as a small picture of its air path: what sits where, before anything is known of it. -->
<script lang="ts">
  import { type Column, COLUMNS } from './layout';

  let { chambers }: { chambers: { key: string; column: Column; label: string; empty: boolean }[] } = $props();

  const path = $derived(
    chambers
      .filter((one) => one.column !== 'off_path')
      .sort((a, b) => COLUMNS.indexOf(a.column) - COLUMNS.indexOf(b.column)),
  );
  const step = 30;
  const width = $derived(Math.max(1, path.length) * step + 34);
</script>

<svg class="max-w-full" viewBox={`0 0 ${width} 40`} height="40" {width} aria-hidden="true">
  {#if path.length === 0}
    <rect class="body" x="8" y="14" width="38" height="16" rx="5" />
    <path class="line" d="M 20 14 v -6 M 34 14 v -6" />
  {:else}
    <path class="fill-(--duct)" d="M 2 33 l 7 -22 h 9 v 13 Z" />
    <line class="stroke-(--duct) stroke-10" x1="10" x2={width - 12} y1="20" y2="20" />
    <path class="fill-(--duct)" d={`M ${width - 14} 10 l 12 10 l -12 10 Z`} />
    {#each path as one, i (one.key)}
      {@const x = 20 + step * (i + 0.5)}
      {#if one.column === 'motor'}
        <circle class="body" cx={x} cy="20" r="9" />
        <path class="line" d={`M ${x - 5} 20 h 10 M ${x} 15 v 10`} />
      {:else if one.column === 'hose' || one.column === 'neck'}
        <path class="line" d={`M ${x - 10} 20 q 2.5 -7 5 0 t 5 0 t 5 0 t 5 0`} />
      {:else if one.column === 'bin'}
        <rect class="body" x={x - 10} y="5" width="20" height="30" rx="5" />
        <rect class="fill-(--duct)" x={x - 8} y="22" width="16" height="11" rx="3" />
      {:else if one.column === 'filter' || one.column === 'exhaust'}
        <rect class="body" x={x - 8} y="7" width="16" height="26" rx="3" />
        <path class="line" d={`M ${x - 4} 10 v 20 M ${x} 10 v 20 M ${x + 4} 10 v 20`} />
      {:else if one.column === 'floor'}
        <rect class="body" x={x - 11} y="11" width="22" height="18" rx="8" />
        <path class="line" d={`M ${x - 6} 15 l 4 10 M ${x} 15 l 4 10`} />
      {:else}
        <rect class="body" x={x - 8} y="10" width="16" height="20" rx="4" />
      {/if}
    {/each}
  {/if}
</svg>

<style>
  .body {
    fill: var(--chamber);
    stroke: var(--soft);
    stroke-width: 2;
  }
  .line {
    fill: none;
    stroke: var(--soft);
    stroke-width: 2;
    stroke-linecap: round;
  }
</style>
