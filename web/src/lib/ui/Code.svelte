<!-- An address as a square code to be scanned: dark on light in either theme, since scanners want it so. -->
<script lang="ts">
  let { address, rows }: { address: string; rows: string[] } = $props();

  /** Cameras want this much light around a code [squares]. */
  const EDGE = 4;
  const side = $derived(rows.length + 2 * EDGE);
  /** The dark squares as one path. */
  const dark = $derived(
    rows
      .flatMap((row, y) => [...row].map((bit, x) => (bit === '1' ? `M${x + EDGE} ${y + EDGE}h1v1h-1z` : '')))
      .join(''),
  );
</script>

<svg viewBox={`0 0 ${side} ${side}`} role="img" aria-label={address}>
  <rect width={side} height={side} fill="#fff" /><path d={dark} fill="#000" />
</svg>
