<!-- The answers to a step as large buttons; what else may be wrong, and what to look for where something does not fit. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { session } from '../../lib/state/session.svelte';
  import { type Choice, STUCK } from '../../lib/words/steps';

  let {
    step,
    options,
    whole,
    numbered,
    maySkip,
    ongive,
    onmore,
  }: {
    step: Schemas['StepOut'];
    options: Choice[];
    /** Whether these are all answers there are. */
    whole: boolean;
    numbered: boolean;
    maySkip: boolean;
    ongive: (value: string, why?: string) => void;
    onmore: () => void;
  } = $props();

  /** The step at which something does not go in or does not close. */
  let stuckAt = $state<string | null>(null);
  const stuck = $derived(step.seat.length ? STUCK[step.kind] : undefined);
</script>

<div class={['answers', options.length + Number(!whole) > 1 && 'many']}>
  {#each options as choice, i (choice.value)}
    <button
      class={['btn answer', choice.main && 'btn-primary']}
      disabled={!session.mayWrite}
      onclick={() => ongive(choice.value)}
    >
      {#if numbered}<kbd aria-hidden="true">{i + 1}</kbd>{/if}
      <span
        ><b>{choice.text}</b>{#if choice.more}<small>{choice.more}</small>{/if}</span
      >
    </button>
  {/each}
  {#if !whole}
    <button class="btn btn-ghost answer" onclick={onmore}>Something else is wrong with it…</button>
  {/if}
  {#if stuck && stuckAt !== step.key}
    <button class="btn btn-ghost answer" onclick={() => (stuckAt = step.key)}>{stuck.ask}</button>
  {/if}
</div>
{#if stuck && stuckAt === step.key}
  <section class="stuck" aria-label="What to look for" role="status">
    <h2>Look for this, then try again:</h2>
    <ul>
      {#each step.seat as one (one)}<li>{one}</li>{/each}
    </ul>
    <p>
      It still does not? {#if maySkip}<button
          class="btn"
          disabled={!session.mayWrite}
          onclick={() => ongive('skip', stuck.left)}>Leave it out: the machine waits</button
        >{:else}Rest here and do not run it: a shop, or somebody with the manual, has it shut in a minute.{/if}
    </p>
  </section>
{/if}

<style>
  .answers {
    display: grid;
    gap: 0.75rem;
    margin-top: 1.5rem;
  }
  .answer {
    height: auto;
    min-height: 4.25rem;
    padding-block: 0.6rem;
    font-size: 1.25rem;
  }
  .many .answer {
    justify-content: flex-start;
    gap: 1rem;
    text-align: left;
  }
  .answer small {
    display: block;
    font-size: 1rem;
    font-weight: 400;
  }
  .answer kbd {
    display: grid;
    flex: none;
    place-items: center;
    width: 1.9rem;
    height: 1.9rem;
    border: 1.5px solid currentColor;
    border-radius: 0.4rem;
    font-size: 1rem;
  }
  .stuck {
    margin-top: 1rem;
    padding: 0.75rem 1rem;
    border-left: 4px solid var(--due);
    background: var(--color-base-200);
    font-size: 1.15rem;
  }
  .stuck h2 {
    font-weight: 800;
  }
  .stuck ul {
    padding-left: 1.2em;
    margin-block: 0.5rem;
    list-style: disc;
  }
</style>
