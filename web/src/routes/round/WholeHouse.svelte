<!-- What concerns all machines at once: everybody away, a time of more load than usual. -->
<script lang="ts">
  let { today, mayWrite }: { today: string; mayWrite: boolean } = $props();

  let open = $state(false);
</script>

<button class="link" disabled={!mayWrite} onclick={() => (open = true)}>Away, or a busy time…</button>
{#if open}
  {#await import('./WholeHouseDialog.svelte') then { default: WholeHouseDialog }}
    <WholeHouseDialog {today} onclose={() => (open = false)} />
  {/await}
{/if}
