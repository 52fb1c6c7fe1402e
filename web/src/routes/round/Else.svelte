<!-- What else can be done from here, quietly. -->
<script lang="ts">
  import WholeHouse from './WholeHouse.svelte';

  let { today, mayWrite }: { today: string; mayWrite: boolean } = $props();
</script>

<p class="else">
  <a class="link" href="#/faults">Something is wrong</a>
  <a class="link" href="#/floor">Before a run</a>
  <WholeHouse {today} {mayWrite} />
  {#if mayWrite}<a class="link" href="#/add">Add a machine</a>{/if}
</p>

<style>
  .else {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 1.2rem;
    padding: 0.9rem 0.4rem;
    font-size: 0.95rem;
  }
  .else :global(.link) {
    display: inline-flex;
    align-items: center;
    min-height: 2rem;
    text-underline-offset: 0.2em;
  }
</style>
