<!-- Labels to print and stick on: scanned, each opens its machine or part. -->
<script lang="ts">
  import { ask, client, type Schemas } from '../lib/api/client';
  import Code from '../lib/ui/Code.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { type Load, loaded, PENDING } from '../lib/state/load';

  let load = $state.raw<Load<Schemas['LabelsOut']>>(PENDING);
  async function refresh() {
    load = loaded(await ask(client.GET('/api/labels')));
  }
  void refresh();
</script>

<svelte:head><title>Labels · Yperon</title></svelte:head>

<Loaded {load} what="Making the labels" retry={() => void refresh()}>
  {#snippet children(made)}
    <div class="page max-w-240">
      <div class="no-print">
        <h1>Labels</h1>
        <p>One for each machine, and for each part that takes turns. Scanned, it opens that page.</p>
        {#if made.only_here}
          <p class="mt-3 py-[0.6rem] px-[0.9rem] border-l-4 border-l-(--due)">
            You opened Yperon at an address that only this machine knows, so a phone would not get there.
            Start it with <b>make serve LAN=1</b>, open the address it names, and print the labels from there.
          </p>
        {/if}
        {#if made.labels.length}
          <button class="btn btn-primary mt-3" onclick={() => print()}>Print</button>
        {:else}
          <p class="mt-3">No machine yet. <a class="link" href="#/add">Add the first one</a>.</p>
        {/if}
      </div>
      <ul class="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-3 mt-5">
        {#each made.labels as label (label.address + label.part_name)}
          <li>
            <Code address={label.address} rows={label.rows} />
            <span
              ><b>{label.part_name ?? label.machine_name}</b>{label.part_name ? label.machine_name : ''}</span
            >
          </li>
        {/each}
      </ul>
    </div>
  {/snippet}
</Loaded>

<style>
  li {
    display: flex;
    align-items: center;
    gap: 0.9rem;
    padding: 0.7rem;
    border: 1px dashed #555;
    background: #fff;
    color: #000;
    break-inside: avoid;
  }
  li :global(svg) {
    flex: none;
    width: 6.5rem;
  }
  li span {
    min-width: 0;
    overflow-wrap: anywhere;
  }
  li b {
    display: block;
  }
</style>
