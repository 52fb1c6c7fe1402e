<!-- How it pulls at the floor, felt from 1 to 5: before the work, and after. Nobody has to tell. -->
<script lang="ts">
  import { client } from '../api/client';
  import { house } from '../state/house.svelte';
  import { session } from '../state/session.svelte';

  let {
    machine_id,
    sheet_id = null,
    moment,
    chosen,
    onkept,
  }: {
    machine_id: string;
    /** The sheet at whose work it was felt, if at one. */
    sheet_id?: string | null;
    moment: 'before' | 'after';
    chosen: number | null;
    onkept: (felt: number) => void;
  } = $props();

  async function tell(felt: number) {
    const params = { path: { machine_id } };
    const request = client.POST('/api/machines/{machine_id}/pull', {
      params,
      body: { felt, moment, sheet_id },
    });
    if (await house.record(request, `It pulls ${felt} of 5 ${moment} the work.`)) onkept(felt);
  }
</script>

<div
  class="flex flex-wrap items-center gap-y-2 gap-x-4 mt-4"
  role="group"
  aria-label={`How it pulls ${moment} the work`}
>
  <span>{moment === 'before' ? 'If you like, how did it pull?' : 'How does it pull now?'}</span>
  <span class="join">
    {#each [1, 2, 3, 4, 5] as felt (felt)}
      <button
        class={['btn join-item', chosen === felt && 'btn-active']}
        aria-pressed={chosen === felt}
        disabled={house.busy || !session.mayWrite}
        onclick={() => void tell(felt)}>{felt}</button
      >
    {/each}
  </span>
  <span class="soft text-sm">1 hardly, 5 as new</span>
</div>

<style>
  .btn {
    min-width: 3rem;
    min-height: 3rem;
    font-size: 1.1rem;
  }
</style>
