<!-- What may be done besides, while it lies open: nobody has to. What is added is a step of this sheet; it may become a
     habit. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import type { BenchState } from '../../lib/state/bench.svelte';
  import { figure } from '../../lib/words/format';
  import { doWord } from '../../lib/words/tasks';

  let {
    bench,
    steps,
    disabled,
  }: {
    bench: BenchState;
    /** The steps at hand: with one of them it is closed, or tried. */
    steps: Schemas['StepOut'][];
    disabled: boolean;
  } = $props();

  /** Offered where something is about to be closed or tried: there it would be missed. */
  const here = $derived(
    steps.some(({ kind }) => ['close', 'power', 'fit'].includes(kind)) && !bench.waiting.length
      ? (bench.sheet?.extras ?? []).filter((one) => one.machine_id === bench.step?.machine_id)
      : [],
  );
  const name = (one: Schemas['ExtraSaidOut']) => `${one.slot_name}: ${doWord(one.action)}`;
</script>

{#if here.length}
  <section class="mt-6" aria-label="Besides, if you like">
    <h2 class="soft font-bold">While it lies open, if you like:</h2>
    <ul>
      {#each here as one (one.slot + one.action)}
        <li class="flex flex-wrap items-center justify-between gap-2 py-1">
          <span><b>{name(one)}</b>, {figure(one.minutes)} min. <span class="soft">{one.why}</span></span>
          <span class="flex gap-2">
            <button class="btn" {disabled} onclick={() => void bench.besides(one, false)}>This time</button>
            <button class="btn" {disabled} onclick={() => void bench.besides(one, true)}>Always</button>
          </span>
        </li>
      {/each}
    </ul>
  </section>
{/if}
