<!-- A drawing of one hand movement: our own strokes. The words beside it say the same; this shows which way. -->
<script lang="ts">
  import { HOW_TO } from '../words/howto';

  let { name }: { name: string } = $props();

  const drawing = $derived(HOW_TO[name]);
</script>

{#if drawing}
  <figure class="grid justify-items-center gap-1 py-[0.6rem] px-3 rounded-box bg-base-200">
    <svg viewBox="0 0 220 120" role="img" aria-label={drawing.says}>
      <path d={drawing.lines} />
      {#if drawing.solid}<path class="solid" d={drawing.solid} />{/if}
      {#if drawing.faint}<path class="faint" d={drawing.faint} />{/if}
      {#if drawing.way}<path class="way" d={drawing.way} />{/if}
      {#each drawing.marks ?? [] as [x, y, text] (text + x)}<text {x} {y}>{text}</text>{/each}
    </svg>
    <figcaption class="min-w-0 text-[0.95rem]">{drawing.says}</figcaption>
  </figure>
{/if}

<style>
  svg {
    width: min(13.5rem, 60vw);
  }
  path {
    fill: none;
    stroke: currentColor;
    stroke-width: 2.2;
    stroke-linecap: round;
    stroke-linejoin: round;
  }
  .solid {
    fill: currentColor;
    fill-opacity: 0.28;
  }
  .faint {
    stroke-dasharray: 4 4;
  }
  .way {
    stroke: var(--color-secondary);
    stroke-width: 3.2;
  }
  text {
    fill: currentColor;
    font-size: 13px;
    font-weight: 700;
  }
</style>
