<!-- Which kind of machine it is: plain questions, and the pictures of those that still fit. -->
<script lang="ts">
  import KindPicture from '../../lib/airpath/KindPicture.svelte';
  import type { SetUpState } from '../../lib/state/setup.svelte';
  import Choice from '../../lib/ui/Choice.svelte';

  let { setup }: { setup: SetUpState } = $props();
</script>

<section aria-label="Which kind" class="grid gap-4">
  {#if setup.answered.length}
    <div class="flex flex-wrap gap-2" role="group" aria-label="What you said">
      {#each setup.answered as question (question.key)}
        {@const said = setup.answers[question.key] ?? ''}
        <button
          class="btn btn-sm btn-primary"
          aria-label={`${question.answers[said]} × (take back: ${question.text})`}
          onclick={() => setup.answer(question.key, said)}>{question.answers[said]} ×</button
        >
      {/each}
    </div>
  {/if}
  {#if setup.next}
    {@const question = setup.next}
    <Choice
      legend={question.text}
      options={setup.offered(question)}
      value={null}
      onchoose={(value) => setup.answer(question.key, value)}
    />
  {/if}
  <div>
    <h2 class="mb-2">
      {setup.fitting.length === 1 ? 'This one fits: tap it' : `${setup.fitting.length} kinds: tap yours`}
    </h2>
    <ul class="grid grid-cols-[repeat(auto-fill,minmax(min(22rem,100%),1fr))] gap-3">
      {#each setup.fitting as one (one.key)}
        <li>
          <button class="kind" onclick={() => setup.choose(one)}>
            <KindPicture chambers={one.chambers} />
            <b>{one.name}</b>
            <span class="soft text-sm">
              {one.chambers
                .filter((chamber) => chamber.column !== 'off_path' && !chamber.empty)
                .map((chamber) => chamber.label)
                .join(' → ') || 'contacts only'}
            </span>
          </button>
        </li>
      {/each}
    </ul>
  </div>
</section>

<style>
  .kind {
    display: grid;
    justify-items: start;
    gap: 0.15rem;
    width: 100%;
    height: 100%;
    padding: 0.75rem 1rem;
    text-align: left;
    cursor: pointer;
    background: var(--color-base-100);
    border: 1px solid var(--color-base-300);
    border-radius: var(--radius-box);
  }
  .kind:hover {
    border-color: var(--color-base-content);
  }
</style>
