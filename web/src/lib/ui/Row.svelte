<!-- A line of a list that opens in place: what it says in one line, and what can be done with it under that. -->
<script lang="ts">
  import ChevronRight from '~icons/lucide/chevron-right';
  import type { Snippet } from 'svelte';
  import { slide } from 'svelte/transition';

  import { moving } from '../words/motion';

  let {
    open,
    ontoggle,
    line,
    end = '',
    mark,
    children,
    current = false,
  }: {
    open: boolean;
    ontoggle: () => void;
    /** What stands in the line. */
    line: Snippet;
    /** What stands at its end: minutes, a figure. */
    end?: string;
    /** The shape at its start. */
    mark?: Snippet;
    children: Snippet;
    /** Whether keys act on it. */
    current?: boolean;
  } = $props();
  const uid = $props.id();
</script>

<div class={['row', open && 'open', current && 'current']}>
  <button class="line" aria-expanded={open} aria-controls={open ? uid : undefined} onclick={ontoggle}>
    {#if mark}{@render mark()}{/if}
    <span class="flex-1 min-w-0 wrap-anywhere">{@render line()}</span>
    <span class="soft whitespace-nowrap">{end}</span>
    <ChevronRight width="16" height="16" class={['turn soft', open && 'rotate-90']} aria-hidden="true" />
  </button>
  {#if open}
    <div id={uid} class="more" transition:slide={{ duration: moving(160) }}>{@render children()}</div>
  {/if}
</div>

<style>
  .row {
    border-top: 1px solid var(--color-base-300);
  }
  .line {
    display: flex;
    align-items: center;
    gap: 0.5rem;
    width: 100%;
    min-height: 2.25rem;
    padding: 0.2rem 0 0.2rem 0.25rem;
    text-align: left;
    cursor: pointer;
    border-radius: 0.4rem;
  }
  .line:hover {
    background: color-mix(in oklab, var(--color-base-content) 6%, transparent);
  }
  .line :global(svg) {
    flex: none;
  }
  .line :global(.turn) {
    transition: rotate 0.15s;
  }
  .open {
    background: var(--color-base-100);
    border: 1px solid var(--color-base-300);
    border-radius: 0.6rem;
  }
  .open + :global(.row),
  .current {
    border-top-color: transparent;
  }
  .current > .line {
    box-shadow: inset 3px 0 0 var(--color-base-content);
  }
  .more {
    padding: 0 0.75rem 0.7rem 0.6rem;
  }
  @media (max-width: 39.99rem) {
    .line {
      min-height: 2.9rem;
    }
  }
</style>
