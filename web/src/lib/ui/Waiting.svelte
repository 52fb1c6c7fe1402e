<!-- That something takes its time; what is there sooner than this shows would only flash by. -->
<script lang="ts">
  import { onDestroy } from 'svelte';

  let { what }: { what: string } = $props();

  const SHOWS_AFTER_MS = 300;
  let shown = $state(false);
  const timer = setTimeout(() => (shown = true), SHOWS_AFTER_MS);
  onDestroy(() => clearTimeout(timer));
</script>

{#if shown}
  <p class="soft flex items-center gap-3 p-6" role="status">
    <span class="dots" aria-hidden="true"></span>
    {what}
  </p>
{/if}

<style>
  .dots {
    width: 2rem;
    height: 0.7rem;
    border-radius: 0.35rem;
    background: linear-gradient(90deg, var(--duct), var(--soft), var(--duct)) 0 / 200% 100%;
    animation: flow 1.6s linear infinite;
  }
  @keyframes flow {
    to {
      background-position: -200% 0;
    }
  }
</style>
