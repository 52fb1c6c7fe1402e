<!-- Parts beside the air path, hanging under it. Where rows are low, only those that are not fresh have their name. -->
<script lang="ts">
  import Glyph from './Glyph.svelte';
  import type { Chamber, Size } from './layout';

  let {
    pegs,
    size,
    upright,
    selected,
    markOf,
    idOf,
    onselect,
    onstep,
    onall,
  }: {
    pegs: Chamber[];
    size: Size;
    upright: boolean;
    selected: string | null;
    markOf: (peg: Chamber) => {
      level: string;
      aloud: string;
      tag: string;
      strong: boolean;
      /** How large its dot is [0..1]; null where it carries the shape of its state. */
      dot: number | null;
    };
    idOf: (peg: Chamber) => string;
    onselect: (peg: Chamber) => void;
    onstep: (event: KeyboardEvent, peg: Chamber) => void;
    /** Where all of them are seen, when the calm ones are gathered. */
    onall: (() => void) | null;
  } = $props();

  const gathers = $derived(onall !== null && size === 'slim' && !upright);
  const calm = $derived(gathers ? pegs.filter((peg) => peg.level === 'fresh') : []);
  const named = $derived(calm.length > 1 ? pegs.filter((peg) => !calm.includes(peg)) : pegs);
</script>

<div class={['pegs', upright && 'upright', size]}>
  {#each named as peg (peg.key)}
    {@const says = markOf(peg)}
    <button
      id={idOf(peg)}
      class={['peg', `level-${says.level}`, selected === peg.key && 'selected']}
      aria-label={says.aloud}
      aria-pressed={selected === peg.key}
      onclick={() => onselect(peg)}
      onkeydown={(event) => onstep(event, peg)}
    >
      <svg width="26" height="26" viewBox="-13 -13 26 26" aria-hidden="true">
        <circle r="11" class="rim" />
        {#if says.dot !== null}<circle r={11 * says.dot} class="fill-(--fill)" />{:else}<Glyph
            level={peg.level}
            r={5}
          />{/if}
      </svg>
      <span>{peg.label}</span>
      {#if says.strong}<b>{says.tag}</b>{/if}
    </button>
  {/each}
  {#if calm.length > 1}
    <button class="peg level-fresh" onclick={() => onall?.()}>
      <svg width="26" height="26" viewBox="-13 -13 26 26" aria-hidden="true">
        <circle r="11" class="rim" /><circle r="4" class="fill-(--fill)" />
      </svg>
      <span class="soft"
        >{calm.length === pegs.length ? `${calm.length} parts` : `${calm.length} more`}, fresh</span
      >
    </button>
  {/if}
</div>

<style>
  .pegs {
    display: flex;
    flex-wrap: wrap;
    gap: 0.25rem 0.5rem;
    padding-inline: 1rem;
  }
  .peg {
    display: inline-flex;
    align-items: center;
    gap: 0.4rem;
    min-height: 2.5rem;
    max-width: 100%;
    padding: 0 0.6rem 0 0.35rem;
    border-radius: 999px;
    cursor: pointer;
    font-size: 0.95rem;
    text-align: left;
  }
  .slim:not(.upright) {
    gap: 0 0.15rem;
    padding-inline: 0.4rem 0;
  }
  .slim:not(.upright) .peg {
    min-height: 1.5rem;
    gap: 0.3rem;
    padding-inline: 0.25rem 0.4rem;
    font-size: 0.84rem;
  }
  .slim:not(.upright) .peg svg {
    width: 1.05rem;
    height: 1.05rem;
  }
  .upright {
    flex-direction: column;
    gap: 0;
    padding-inline: 0.5rem;
  }
  .upright .peg {
    gap: 1.1rem;
    min-height: 3rem;
  }
  .peg svg {
    flex: none;
  }
  .rim {
    fill: var(--chamber);
    stroke: var(--ink);
    stroke-width: 2;
  }
  .level-due .rim,
  .level-overdue .rim {
    stroke-width: 3.5;
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
