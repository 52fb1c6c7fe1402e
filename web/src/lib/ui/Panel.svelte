<!-- A part of a page with its heading, and what can be done with all of it beside that. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let {
    title,
    label = title,
    beside,
    children,
  }: {
    title: string;
    /** How it is found by name, where that is not its title. */
    label?: string;
    beside?: Snippet;
    children: Snippet;
  } = $props();
</script>

<section class="panel min-w-0 p-4" aria-label={label}>
  <div class="mb-2 flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
    <h2>{title}</h2>
    {#if beside}{@render beside()}{/if}
  </div>
  {@render children()}
</section>
