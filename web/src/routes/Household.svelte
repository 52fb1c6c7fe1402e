<!-- The household's answers, each with what it changes: who lives here, floors, dust, how far you go, where parts dry. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { house } from '../lib/state/house.svelte';
  import { HouseholdState } from '../lib/state/household.svelte';
  import { session } from '../lib/state/session.svelte';
  import Panel from '../lib/ui/Panel.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { effectWords } from '../lib/words/effects';
  import Home from './household/Home.svelte';
  import HowYouDoIt from './household/HowYouDoIt.svelte';
  import Places from './household/Places.svelte';
  import Tabs from './household/Tabs.svelte';
  import Versions from './household/Versions.svelte';

  const answers = new HouseholdState();
  $effect(() => {
    const us = session.us;
    untrack(() => void answers.refresh(us));
  });

  const SECTIONS = {
    home: 'Who lives here',
    how: 'How you do it',
    places: 'Where parts dry',
    before: 'As it was answered',
    labels: 'Labels',
  };
  /** The address of a page has no room for a place on it. */
  function go(key: string) {
    const section = document.getElementById(key);
    section?.scrollIntoView({ block: 'start' });
    section?.focus({ preventScroll: true });
  }

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
  <div class="page household">
    <header>
      <Tabs />
      <p class="soft mt-1 max-w-3xl">
        What your home asks of its machines. Each answer says what it changes; yesterday stays explained by
        yesterday's answers.
      </p>
    </header>
    <nav aria-label="On this page">
      {#each Object.entries(SECTIONS) as [key, name] (key)}
        <button class="link" onclick={() => go(key)}>{name}</button>
      {/each}
    </nav>
    <div class="sections">
      <form class="answers" onsubmit={(e) => (e.preventDefault(), void answers.save())}>
        <div id="home" tabindex="-1"><Home {answers} {draft} {mayWrite} /></div>
        <div id="how" tabindex="-1">
          <HowYouDoIt {answers} {draft} tools={answers.load.data.tools} {mayWrite} />
        </div>
        <div id="places" tabindex="-1"><Places {answers} {mayWrite} /></div>

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
      <div id="before" tabindex="-1"><Versions versions={answers.load.data.versions} /></div>
      <div id="labels" tabindex="-1">
        <Panel title="Labels">
          <p>
            <a class="link" href="#/labels">Labels to print</a> for machines and for parts that take turns: scanned,
            each opens its page.
          </p>
        </Panel>
      </div>
    </div>
  </div>
{/if}

<style>
  .household {
    grid-template-columns: 11rem minmax(0, 62rem);
    grid-template-areas: 'head head' 'index sections';
    gap: 1rem 2rem;
  }
  header {
    grid-area: head;
  }
  nav {
    grid-area: index;
    position: sticky;
    top: 1rem;
    display: grid;
    align-self: start;
    justify-items: start;
    gap: 0.2rem;
  }
  nav button {
    min-height: 2.25rem;
    text-align: left;
  }
  .sections {
    grid-area: sections;
  }
  .sections,
  .answers {
    display: grid;
    align-content: start;
    gap: 1rem;
    min-width: 0;
  }
  [tabindex]:focus {
    outline: none;
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
  @media (max-width: 59.99rem) {
    .household {
      grid-template-columns: minmax(0, 1fr);
      grid-template-areas: 'head' 'index' 'sections';
    }
    nav {
      position: static;
      display: flex;
      flex-wrap: wrap;
      gap: 0 1rem;
    }
  }
</style>
