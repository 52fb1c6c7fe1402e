<!-- The sheets that are open. -->
<script lang="ts">
  import { together } from '../lib/words/format';
  import { house } from '../lib/state/house.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';

  void house.loadRound();
</script>

<div class="mx-auto max-w-3xl p-4 sm:p-7">
  <h1 class="text-3xl font-extrabold">Bench</h1>
  {#if house.round.status === 'pending'}
    <Waiting what="Looking for open sheets" />
  {:else if house.round.status === 'error'}
    <Trouble problem={house.round.problem} retry={() => void house.loadRound()} />
  {:else if house.round.data.sheets.length === 0}
    <p class="mt-3">No sheet is open. Choose tasks on <a class="link" href="#/">Round</a> and open one.</p>
  {:else}
    <ul class="mt-4 grid gap-3">
      {#each house.round.data.sheets as sheet (sheet.id)}
        <li>
          <a class="panel flex items-center justify-between gap-4 p-4" href={`#/bench/${sheet.id}`}>
            <span>
              <b class="text-lg">{together(sheet.machines)}</b><br />
              {sheet.sitting === 'refit_and_test' ? 'Put back and test' : 'Clean'}: {sheet.answered} of {sheet.steps}
              steps done
            </span>
            <span class="btn btn-primary">Go on</span>
          </a>
        </li>
      {/each}
    </ul>
  {/if}
</div>
