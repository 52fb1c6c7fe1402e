<!-- All steps of a sheet in stretches, each at one machine or at the sink; of several only the one that is worked on. -->
<script lang="ts">
  import Check from '~icons/lucide/check';

  import type { Schemas } from '../../lib/api/client';
  import { short } from '../../lib/words/steps';

  let { sheet, steps }: { sheet: Schemas['SheetOut']; steps: Schemas['StepOut'][] } = $props();

  const several = $derived(sheet.machines.length > 1);
  const where = (one: Schemas['StepOut']) =>
    ['wash', 'rack'].includes(one.kind) ? 'At the sink' : one.machine_name;
  const blocks = $derived.by(() => {
    const made: Schemas['StepOut'][][] = [];
    for (const one of steps) {
      const last = made.at(-1);
      if (last?.[0] && where(last[0]) === where(one)) last.push(one);
      else made.push([one]);
    }
    return made;
  });
</script>

<ol class="list" aria-label="All steps">
  {#each blocks as block (block[0]?.key)}
    {#if several}
      <li class={['whose', block.every((one) => one.answer) && 'soft']}>
        {block[0] ? where(block[0]) : ''}
        <span class="soft">{block.filter((one) => one.answer).length} of {block.length}</span>
      </li>
    {/if}
    {#each several && !block.some((one) => one.key === sheet.current) ? [] : block as one (one.key)}
      <li
        class={[one.key === sheet.current && 'now', one.answer && 'answered']}
        aria-current={one.key === sheet.current ? 'step' : undefined}
      >
        <span class="mark" aria-hidden="true">
          {#if one.answer === 'skip'}–{:else if one.answer}<Check
              width="15"
              height="15"
              stroke-width="3"
            />{/if}
        </span>
        <span
          >{short(one)}{#if one.answer === 'skip'}<em> skipped: {one.reason}</em>{/if}</span
        >
      </li>
    {/each}
  {/each}
</ol>

<style>
  .whose {
    margin-top: 0.5rem;
    font-weight: 800;
  }
  .list {
    grid-area: list;
    align-self: start;
    display: grid;
    gap: 0.1rem;
  }
  .list li:not(.whose) {
    display: grid;
    grid-template-columns: 1.5rem 1fr;
    gap: 0.4rem;
    padding: 0.2rem 0.5rem;
    border-radius: 0.4rem;
    color: var(--soft);
  }
  .list li.now {
    background: var(--color-base-content);
    color: var(--color-base-100);
    font-weight: 700;
  }
  .mark {
    display: grid;
    place-items: center;
    width: 1.25rem;
    height: 1.25rem;
    margin-top: 0.15rem;
    border: 1.5px solid currentColor;
    border-radius: 0.35rem;
  }
</style>
