<!-- All steps are answered: what is not right yet, and the one tap that ends the sitting. -->
<script lang="ts">
  import type { BenchState } from '../../lib/state/bench.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { short } from '../../lib/words/steps';

  let { bench }: { bench: BenchState } = $props();

  const failed = $derived(
    bench.steps.filter(
      (one) => one.answer === 'fail' || (one.kind === 'test' && one.answer === 'replace:due'),
    ),
  );
</script>

<h1 class="mb-4" tabindex="-1">All steps are answered.</h1>
<p class="text-xl">End the sitting: only now the records are written and the clocks move.</p>
{#each failed as one (one.key)}
  <p class="panel mt-4 p-3 text-lg">
    <b class="ink-due">Not right yet:</b>
    {short(one)}. {one.answer === 'fail'
      ? 'Step back and do it again; if the sitting ends so, it stays due.'
      : 'A new one is due when the sitting ends.'}
  </p>
{/each}
<button
  class="btn btn-primary mt-6 h-auto min-h-17 w-full text-xl"
  disabled={bench.ending_waits || !session.mayWrite}
  onclick={() => void bench.finish()}
>
  <b>{bench.ending_waits ? 'It ends as soon as Yperon answers' : 'End the sitting'}</b>
</button>
