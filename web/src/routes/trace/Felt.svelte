<!-- How it pulls now, felt: for the row of readings. Nobody has to tell. -->
<script lang="ts">
  import { client } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';

  let { machine_id }: { machine_id: string } = $props();
  let told = $state<number | null>(null);

  async function tell(value: number) {
    const params = { path: { machine_id } };
    const body = { quantity: 'felt' as const, value, unit: '', moment: 'after' };
    const request = client.POST('/api/machines/{machine_id}/readings', { params, body });
    if (await house.record(request, `It pulls ${value} of 5.`)) told = value;
  }
</script>

<div class="felt" role="group" aria-label="How it pulls now">
  <span>How does it pull now?</span>
  <span class="join">
    {#each [1, 2, 3, 4, 5] as value (value)}
      <button
        class={['btn join-item', told === value && 'btn-primary']}
        aria-pressed={told === value}
        disabled={house.busy || !session.mayWrite}
        onclick={() => void tell(value)}>{value}</button
      >
    {/each}
  </span>
  <span class="soft text-sm">1 hardly, 5 as new</span>
</div>

<style>
  .felt {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0.5rem 1rem;
    margin-top: 1rem;
  }
  .btn {
    min-width: 3rem;
    min-height: 3rem;
  }
</style>
