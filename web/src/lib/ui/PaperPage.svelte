<!-- A page that is meant for paper: its ways out stand above it and are not printed. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let {
    back,
    csv = null,
    children,
  }: {
    /** Where it came from: "Back to the shelf". */
    back: { href: string; text: string };
    /** The same as a table to take away. */
    csv?: string | null;
    children: Snippet;
  } = $props();
</script>

<article class="mx-auto max-w-3xl p-5 pb-20">
  <p class="no-print flex flex-wrap gap-2">
    <button class="btn btn-primary" onclick={() => print()}>Print</button>
    {#if csv}<a class="btn" href={csv} download>As CSV</a>{/if}
    <a class="btn btn-ghost" href={back.href}>{back.text}</a>
  </p>
  <div class="mt-3 grid gap-3">{@render children()}</div>
</article>
