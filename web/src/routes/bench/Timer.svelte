<!-- So long it soaks or rests. It goes on over a reload, and only says when it is over. -->
<script lang="ts">
  import { onDestroy } from 'svelte';

  let { key, minutes }: { key: string; minutes: number } = $props();

  const kept = $derived(`yperon.timer/${key}`);
  let now = $state(Date.now());
  let until = $derived(Number(localStorage.getItem(kept)) || null);
  const left = $derived(until === null ? null : Math.max(0, Math.ceil((until - now) / 1000)));

  const tick = setInterval(() => (now = Date.now()), 500);
  onDestroy(() => clearInterval(tick));

  function start() {
    now = Date.now();
    until = now + minutes * 60_000;
    localStorage.setItem(kept, String(until));
  }
  function stop() {
    until = null;
    localStorage.removeItem(kept);
  }
  const clock = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
</script>

<div class="flex flex-wrap items-center gap-4 mt-4">
  {#if left === null}
    <button class="btn" onclick={start}>Let it soak: {minutes} min</button>
  {:else if left > 0}
    <span class="clock" role="timer" aria-label="Left to soak">{clock(left)}</span>
    <button class="btn btn-ghost" onclick={stop}>Stop the clock</button>
  {:else}
    <span class="clock" role="status">Soaked long enough.</span>
    <button class="btn btn-ghost" onclick={stop}>Again</button>
  {/if}
</div>

<style>
  .clock {
    font-size: 2rem;
    font-weight: 800;
    font-variant-numeric: tabular-nums;
  }
  .btn {
    min-height: 3rem;
    font-size: 1.1rem;
  }
</style>
