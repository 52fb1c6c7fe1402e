<!-- All machines, each a row of the board that leads to its page; and those put away. -->
<script lang="ts">
  import { house } from '../lib/state/house.svelte';
  import { session } from '../lib/state/session.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { plural } from '../lib/words/format';
  import PutAway from './machine/PutAway.svelte';
  import Board from './round/Board.svelte';
  import FirstMachine from './round/FirstMachine.svelte';

  void house.loadRound();
</script>

<svelte:head><title>Machines · Yperon</title></svelte:head>

<Loaded load={house.round} what="Looking at every machine" retry={() => void house.loadRound()}>
  {#snippet children(round)}
    {#if round.machines.length}
      <div class="page">
        <header class="flex flex-wrap items-center justify-between gap-3">
          <h1>{plural(round.machines.length, 'machine')}</h1>
          {#if session.mayWrite}<a class="btn btn-primary" href="#/add">Add a machine</a>{/if}
        </header>
        <Board {round} alone />
        <PutAway mayWrite={session.mayWrite} />
      </div>
    {:else}
      <FirstMachine />
      <div class="mx-auto max-w-xl px-6"><PutAway mayWrite={session.mayWrite} /></div>
    {/if}
  {/snippet}
</Loaded>
