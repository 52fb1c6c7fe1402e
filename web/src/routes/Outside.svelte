<!-- A page before anybody is signed in. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let { title = 'Yperon', children }: { title?: string; children: Snippet } = $props();
</script>

<main class="mx-auto grid min-h-dvh max-w-sm content-center gap-4 p-6">
  <svg width="120" height="44" viewBox="0 0 120 44" aria-hidden="true">
    <path d="M2 40 14 14h92" fill="none" stroke="var(--duct)" stroke-width="12" stroke-linejoin="round" />
    <path d="M102 0l18 14-18 14z" fill="var(--duct)" />
    <rect
      x="46"
      y="1"
      width="24"
      height="27"
      rx="5"
      fill="var(--chamber)"
      stroke="var(--due)"
      stroke-width="3.5"
    />
  </svg>
  <h1 class="text-3xl font-extrabold">{title}</h1>
  {@render children()}
</main>
