<!-- Nothing is here yet: what would be, and the way to it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let { title, children }: { title: string; children?: Snippet } = $props();
</script>

<div class="mx-auto grid max-w-xl gap-4 p-6">
  <h1>{title}</h1>
  {@render children?.()}
</div>
