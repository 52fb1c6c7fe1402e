<!-- What a step says: its cautions, then how; at a gate what has to be true, and once the tools to have ready. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import HowTo from '../../lib/ui/HowTo.svelte';
  import ToolLine from '../../lib/ui/ToolLine.svelte';
  import { extra } from '../../lib/words/steps';
  import NewPrice from './NewPrice.svelte';

  let {
    step,
    tools = [],
    cautions = true,
  }: {
    step: Schemas['StepOut'];
    tools?: Schemas['ToolOut'][];
    /** Whether its cautions stand before it; not where they stand before all steps of a part. */
    cautions?: boolean;
  } = $props();
</script>

{#each cautions ? step.cautions : [] as caution (caution.key)}
  <p class="caution"><b>Mind:</b> {caution.text}</p>
{/each}
{#if step.is_dusty && step.slot}
  <NewPrice machine={step.machine_id} slot={step.slot} />
{/if}
{#if step.kind === 'gate'}
  {#each step.text as text (text)}<p class="caution gate">{text}</p>{/each}
  {#if tools.length}
    <p class="tools"><b>Have ready:</b></p>
    <ul class="tools">
      {#each tools as tool (tool.name)}
        <li>
          <ToolLine {tool} />
        </li>
      {/each}
    </ul>
  {/if}
{:else}
  <div class={['words', step.drawing && 'drawn']}>
    {#if step.text.length + extra(step).length > 1}
      <ol class="how">
        {#each [...step.text, ...extra(step)] as text (text)}<li>{text}</li>{/each}
      </ol>
    {:else}
      {#each [...step.text, ...extra(step)] as text (text)}<p class="say">{text}</p>{/each}
    {/if}
    {#if step.drawing}<HowTo name={step.drawing} />{/if}
  </div>
{/if}

<style>
  .drawn {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 15rem;
    align-items: start;
    gap: 1rem 1.5rem;
  }
  @media (max-width: 63.99rem) {
    .drawn {
      grid-template-columns: minmax(0, 1fr);
    }
  }
  .how {
    font-size: clamp(1.2rem, 2.4vw, 1.45rem);
  }
  .caution.gate {
    font-size: clamp(1.2rem, 2.4vw, 1.45rem);
  }
  .tools {
    font-size: 1.1rem;
  }
  ul.tools {
    padding-left: 1.2em;
    list-style: disc;
  }
  .say,
  .how {
    font-size: clamp(1.2rem, 2.4vw, 1.45rem);
  }
</style>
