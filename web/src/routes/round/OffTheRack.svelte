<!-- A part whose rest on the rack is over: feel it, and put it back. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import Glyph from '../../lib/airpath/Glyph.svelte';
  import type { Schemas } from '../../lib/api/client';
  import { openRefit } from '../../lib/state/bench.svelte';
  import { house } from '../../lib/state/house.svelte';
  import Row from '../../lib/ui/Row.svelte';

  let { on, mayWrite }: { on: Schemas['RackOut']; mayWrite: boolean } = $props();

  let open = $state(false);

  async function putBack() {
    const id = await openRefit(on.item.id);
    if (id) await push(`/bench/${id}`);
  }
</script>

<Row {open} ontoggle={() => (open = !open)}>
  {#snippet mark()}
    <svg width="22" height="22" viewBox="-13 -13 26 26" aria-hidden="true"><Glyph level="drying" r={8} /></svg
    >
  {/snippet}
  {#snippet line()}
    <b class="ink-drying">{on.item.name}</b>
    {on.slot_empty ? 'feel if dry, put back' : 'feel if dry'}
    <span class="soft">{on.machine_name}</span>
  {/snippet}
  {#if on.slot_empty}
    <p class="text-[0.95rem]">Its rest is over. Feel whether it is dry, then put it back.</p>
    <p class="mt-2">
      <button class="btn btn-sm" disabled={!mayWrite} onclick={() => void putBack()}>Put it back</button>
    </p>
  {:else}
    <p class="text-[0.95rem]">Its rest is over. Any trace of damp?</p>
    <p class="mt-2 flex gap-2">
      <button class="btn btn-sm" disabled={!mayWrite} onclick={() => void house.dryCheck(on.item, true)}
        >Bone dry</button
      >
      <button class="btn btn-sm" disabled={!mayWrite} onclick={() => void house.dryCheck(on.item, false)}
        >Still damp</button
      >
    </p>
  {/if}
</Row>
