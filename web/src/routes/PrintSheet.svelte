<!-- A bench sheet on paper: every step on the way as things stand, with a box to tick. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { BenchState } from '../lib/state/bench.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import PaperPage from '../lib/ui/PaperPage.svelte';
  import { figure, together } from '../lib/words/format';
  import { extra, title } from '../lib/words/steps';

  let { params }: { params: { id: string } } = $props();
  const bench = new BenchState(untrack(() => params.id));
  void bench.refresh();
</script>

<svelte:head><title>Bench sheet · Yperon</title></svelte:head>

<Loaded load={bench.load} what="Opening the sheet" retry={() => void bench.refresh()}>
  {#if bench.sheet}
    <PaperPage back={{ href: `#/bench/${bench.id}`, text: 'Back to the bench' }}>
      <h1 class="mt-3">{together(bench.sheet.machines)}</h1>
      <p>
        {bench.sheet.sitting === 'refit_and_test' ? 'Put back and test' : 'Clean'}, about {figure(
          bench.sheet.minutes,
        )} min, {bench.steps.length} steps. Tell Yperon afterwards: only then the dates move.
      </p>
      {#if bench.sheet.tools.length}
        <p><b>Have ready:</b> {bench.sheet.tools.map((tool) => tool.name).join('; ')}.</p>
      {/if}
      <ol class="mt-3">
        {#each bench.steps as step, i (step.key)}
          {#if step.machine_id !== bench.steps[i - 1]?.machine_id}
            <li class="mt-3 text-[1.15rem] font-extrabold">{step.machine_name}</li>
          {/if}
          <li class="step">
            <span class="box" aria-hidden="true">{step.answer ? '✓' : ''}</span>
            <div>
              <b>{title(step)}</b>
              {#each step.cautions as caution (caution.key)}<p><b>Mind:</b> {caution.text}</p>{/each}
              {#each [...step.text, ...extra(step)] as line (line)}<p>{line}</p>{/each}
              {#each step.each as one (one)}<p>☐ {one}</p>{/each}
              {#if step.counts}<p>Screws {step.kind === 'open' ? 'out' : 'in'}: ______</p>{/if}
              {#if step.found_words}
                <p>
                  {Object.values(step.found_words)
                    .map((words) => `☐ ${words}`)
                    .join('   ')}
                </p>
              {/if}
            </div>
          </li>
        {/each}
      </ol>
    </PaperPage>
  {/if}
</Loaded>

<style>
  .step {
    display: grid;
    grid-template-columns: 1.5rem 1fr;
    gap: 0.6rem;
    padding-block: 0.35rem;
    border-top: 1px solid var(--color-base-300);
    break-inside: avoid;
  }
  .box {
    display: grid;
    place-items: center;
    width: 1.2rem;
    height: 1.2rem;
    margin-top: 0.15rem;
    border: 1.5px solid currentColor;
  }
</style>
