<!-- What was told and done, and what each did to the odds; the latest first. -->
<script lang="ts">
  import type { Case } from '../../lib/state/faults.svelte';
  import { percent } from '../../lib/words/format';
  import { lower } from '../../lib/words/faults';

  let { found }: { found: Case } = $props();

  type Step = Case['trail'][number];
  const words = (step: Step) => {
    const says = step.says === 'cant_tell' ? 'can’t tell' : lower(step.says);
    if (step.kind === 'noticed') return `Noticed: ${lower(step.name)}`;
    if (step.kind === 'answered') return `${step.name} ${says}`;
    if (step.kind === 'rests') return `It rests meanwhile: ${step.name}`;
    if (step.kind === 'cured') return `Put right: ${lower(step.name)}`;
    return step.says === 'gone' ? 'Tried again: gone' : 'Tried again: still there';
  };
  const latest = $derived([...found.trail].reverse());
</script>

<section aria-label="So far">
  <h2>So far</h2>
  <ol class="mt-2 grid gap-3">
    {#each latest as step, i (latest.length - i)}
      <li>
        <p><b>{words(step)}</b></p>
        {#if step.moved.length}
          <p class="soft text-sm">
            {#each step.moved as one, j (one.suspect)}{j ? '; ' : ''}{lower(one.name)}
              {percent(one.before)} → {percent(one.after)}{/each}
          </p>
        {:else if step.kind === 'answered'}
          <p class="soft text-sm">moved nothing</p>
        {/if}
      </li>
    {/each}
  </ol>
</section>
