<!-- The household's answers, each with what it changes: who lives here, floors, dust, how far you go, where parts dry. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { house } from '../lib/state/house.svelte';
  import { HouseholdState } from '../lib/state/household.svelte';
  import { session } from '../lib/state/session.svelte';
  import Choice from '../lib/ui/Choice.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { effectWords } from '../lib/words/effects';
  import Home from './household/Home.svelte';
  import HowYouDoIt from './household/HowYouDoIt.svelte';
  import Places from './household/Places.svelte';
  import Versions from './household/Versions.svelte';

  const answers = new HouseholdState();
  $effect(() => {
    const us = session.us;
    untrack(() => void answers.refresh(us));
  });

  const draft = $derived(answers.draft);
  const mayWrite = $derived(session.mayWrite);
  const problem = $derived(answers.problem);
</script>

<svelte:head><title>Household · Yperon</title></svelte:head>

{#if answers.load.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={answers.load.problem} retry={() => void answers.refresh(session.us)} />
  </div>
{:else if !draft || answers.load.status === 'pending'}
  <Waiting what="Opening your answers" />
{:else}
  <div class="page">
    <header>
      <h1>{session.member?.household}</h1>
      <p class="soft mt-1 max-w-3xl">
        What your home asks of its machines. Each answer says what it changes; yesterday stays explained by
        yesterday's answers.
      </p>
    </header>
    <form class="answers" onsubmit={(e) => (e.preventDefault(), void answers.save())}>
      <Home {answers} {draft} {mayWrite} />
      <HowYouDoIt {answers} {draft} tools={answers.load.data.tools} {mayWrite} />
      <Places {answers} {mayWrite} />

      <div class={['keep', (answers.changed || problem) && 'stays']}>
        {#if problem && !problem.values.unit_check}
          <p class="ink-overdue font-bold" role="alert">{problem.detail} {problem.fix}</p>
        {:else if answers.changed && answers.preview}
          <p>
            {#if answers.preview.moves.count}
              <b>{answers.preview.moves.count} intervals change:</b>
              {effectWords(answers.preview.moves)}
            {:else}No interval changes.{/if}
          </p>
        {:else}<p class="soft">Nothing is changed yet.</p>{/if}
        <button
          class="btn btn-primary"
          disabled={!mayWrite || house.busy || !answers.changed || problem !== null}
          >Keep these answers</button
        >
      </div>
    </form>

    <section class="panel grid gap-3 p-4" aria-label="Units">
      <Choice
        legend="Units, for you on every device"
        options={[
          ['metric', 'metric: m², °C, mm'],
          ['us', 'US: sq ft, °F, inches'],
        ]}
        value={session.us ? 'us' : 'metric'}
        small
        onchoose={(units) => void session.chooseUnits(units)}
      />
    </section>
    <Versions versions={answers.load.data.versions} />
    <p class="mt-4">
      <a class="link" href="#/labels">Labels to print</a> for machines and for parts that take turns: scanned, each
      opens its page.
    </p>
  </div>
{/if}

<style>
  .page {
    display: grid;
    gap: 1.25rem;
    max-width: 68rem;
    margin-inline: auto;
    padding: 1.25rem clamp(1rem, 2.5vw, 1.75rem) 6rem;
  }
  .answers {
    display: grid;
    gap: 1.25rem;
  }
  .stays {
    position: sticky;
    bottom: var(--tabbar, 0px);
    z-index: 5;
  }
  .keep {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 0.5rem 1.5rem;
    padding: 0.75rem 1rem;
    background: var(--color-base-200);
    border-top: 1px solid var(--color-base-300);
  }
  .keep p {
    flex: 1;
    min-width: 14rem;
  }
</style>
