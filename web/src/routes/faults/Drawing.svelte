<!-- A small drawing of what an answer looks like: our own strokes, told by the words beside it. -->
<script lang="ts">
  let { name }: { name: string } = $props();

  const tube = 'M6 16h36M6 32h36';
  const fan =
    'M24 24c-4-8 2-14 6-12s1 10-6 12c8-4 14 2 12 6s-10 1-12-6c4 8-2 14-6 12s-1-10 6-12c-8 4-14-2-12-6s10-1 12 6';
  const pack = 'M12 12h24v28h-24zM19 8h10v4';
  const dial = 'M8 34a16 16 0 0 1 32 0';
  /** Lines of each drawing in a field of 48 by 48; what follows `|` is filled. */
  const LINES: Record<string, string> = {
    askew: 'M10 14l24-4 4 24-24 4zM24 8v32',
    belt: 'M14 16h20a8 8 0 0 1 0 16h-20a8 8 0 0 1 0-16|M14 22a2 2 0 1 0 .1 4z M34 22a2 2 0 1 0 .1 4z',
    'belt-off': 'M10 34c6-8 10 6 16-2s8 4 12-2|M14 12a4 4 0 1 0 .1 8z M34 12a4 4 0 1 0 .1 8z',
    'blow-strong': 'M8 14h24M8 24h32M8 34h24',
    'blow-weak': 'M8 24h6M19 24h4M28 24h3',
    bright: 'M14 16h20v16h-20zM24 4v6M24 38v6M4 24h6M38 24h6',
    calendar: 'M9 12h30v28h-30zM9 20h30M17 8v8M31 8v8',
    calm: 'M10 24h28M16 32h16',
    click: 'M8 30h14v10h-14zM26 30h14v10h-14zM24 22v-8M16 22l-4-6M32 22l4-6',
    'coin-stuck': `${tube}|M24 19a5 5 0 1 0 .1 10z`,
    'coin-through': 'M4 16h26M4 32h26M34 24h2|M42 19a5 5 0 1 0 .1 10z',
    crack: 'M10 10h28v28h-28zM26 10l-6 10 7 4-6 14',
    dark: 'M24 8a11 11 0 0 1 6 20v6h-12v-6a11 11 0 0 1 6-20zM10 10l28 30',
    dial: `${dial}M24 34l0-12`,
    'dial-high': `${dial}M24 34l9-9`,
    'dial-low': `${dial}M24 34l-9-9`,
    dirt: 'M10 10h28v28h-28z|M12 28l6-8 5 6 5-9 8 11v8h-24z',
    drop: 'M24 8c8 12 11 16 11 21a11 11 0 0 1-22 0c0-5 3-9 11-21z',
    full: 'M12 10h24v30h-24z|M14 13h20v25h-20z',
    hair: 'M8 18h32v12h-32zM14 14c6 6-4 14 2 20M22 14c6 6-4 14 2 20M30 14c6 6-4 14 2 20',
    'hair-ends': 'M8 18h32v12h-32zM10 14c4 6-3 14 1 20M36 14c4 6-3 14 1 20',
    half: 'M12 10h24v30h-24z|M14 28h20v10h-20z',
    light: `${tube}M10 24h26M30 19l7 5-7 5`,
    long: 'M8 18h32v12h-32z|M10 20h26v8h-26z',
    mesh: 'M10 10h28v28h-28zM10 19h28M10 29h28M19 10v28M29 10v28',
    none: 'M12 10h24v30h-24zM16 18l16 14M32 18l-16 14',
    open: 'M8 34h32M12 34l16-20',
    pack: `${pack}|M15 16h18v21h-18z`,
    'pack-flat': `${pack}|M15 33h18v4h-18z`,
    'pack-swollen': 'M12 12h24c6 10 6 18 0 28h-24c-6-10-6-18 0-28zM19 8h10v4M24 20v8M24 33v1',
    'pull-strong': 'M10 24h24M28 17l8 7-8 7M40 10v28',
    'pull-weak': 'M14 24h4M23 24h3M40 10v28',
    rough: `${fan}M6 8l5 5M42 8l-5 5`,
    short: 'M8 18h32v12h-32z|M10 20h8v8h-8z',
    shut: 'M8 24h32M14 18v12M34 18v12',
    slope: 'M8 12l32 26',
    smoke: 'M16 38c-6-8 6-10 0-20M26 38c-6-8 6-12 0-26M36 38c-6-8 6-10 0-20',
    star: 'M24 24v-16M24 24l14 8M24 24l-14 8|M24 20a4 4 0 1 0 .1 8z',
    'star-bent': 'M24 24v-8c0-5 5-6 8-5M24 24l8 5c5 3 3 8 0 9M24 24l-8 4|M24 20a4 4 0 1 0 .1 8z',
    step: 'M8 12h15v26h17',
    turns: fan,
    wad: `${tube}|M18 19c5-3 12-2 13 3s-2 8-7 8-9-1-9-5 1-5 3-6z`,
    wave: 'M4 24q5-10 10 0t10 0 10 0 10 0',
    'wave-high': 'M4 24q2.5-14 5 0t5 0 5 0 5 0 5 0 5 0 5 0 5 0',
    'wave-low': 'M4 24q10-8 20 0t20 0',
    whole: 'M10 10h28v28h-28zM17 25l5 5 9-12',
    worn: 'M10 14c8-3 20 3 28 0v20c-8 3-20-3-28 0zM16 22h6M26 26h8',
    wrench: 'M10 38l16-16M26 22a8 8 0 1 1 12-10l-6 6-4-2-2-4 6-6',
  };
  const [lines, solid] = $derived((LINES[name] ?? '').split('|'));
</script>

{#if lines || solid}
  <svg width="44" height="44" viewBox="0 0 48 48" aria-hidden="true">
    <path d={lines} />
    {#if solid}<path class="solid" d={solid} />{/if}
  </svg>
{/if}

<style>
  svg {
    flex: none;
  }
  path {
    fill: none;
    stroke: currentColor;
    stroke-width: 2.5;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  .solid {
    fill: currentColor;
    fill-opacity: 0.35;
  }
</style>
