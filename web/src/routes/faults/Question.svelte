<!-- One thing to look at: how, what it needs undone, cautions before it, and what each answer looks like. -->
<script lang="ts">
  import { onDestroy, onMount } from 'svelte';

  import { push } from 'svelte-spa-router';

  import { house } from '../../lib/state/house.svelte';
  import { keys } from '../../lib/state/keys.svelte';
  import { session } from '../../lib/state/session.svelte';
  import type { Check, SearchState } from '../../lib/state/faults.svelte';
  import { minutesWords } from '../../lib/words/format';
  import { restingWords, whyNext } from '../../lib/words/faults';
  import Drawing from './Drawing.svelte';

  let { search, check }: { search: SearchState; check: Check } = $props();

  let heading = $state<HTMLElement>();
  let minded = $state(false);
  let why = $state(false);
  let now = $state('');
  let clean = $state('');
  /** Its wait goes on: since when, until when. */
  const rest = $derived(search.case?.rests.find((one) => one.probe === check.key) ?? null);
  const gates = $derived(check.cautions.filter((one) => one.gate));
  const minds = $derived(check.cautions.filter((one) => !one.gate));
  const may = $derived((minded || !gates.length) && session.mayWrite && !search.busy);

  const dangers = $derived(gates.flatMap((gate) => gate.dangers));
  /** What somebody finds at a gate instead: the machine is out of use, and the search ends there. */
  async function danger(key: string, seen: string) {
    const at = check.role ? search.case?.dock_id : search.case?.machine_id;
    if (at && (await house.danger(at, { danger: key, over: false }, `${seen}: it is out of use.`)))
      await push(`/machines/${at}`);
  }
  function answer(says: string) {
    if (may) void search.tell('answered', check.key, says);
  }
  const number = (typed: string) => Number(typed.replace(',', '.'));
  function read(event: SubmitEvent) {
    event.preventDefault();
    const figures = { kpa: number(now), ...(clean ? { clean_kpa: number(clean) } : {}) };
    if (may && now) void search.tell('answered', check.key, '', figures);
  }

  onMount(() => heading?.focus({ preventScroll: true }));
  onDestroy(
    keys.lend('This check', [
      ...[1, 2, 3, 4, 5, 6].map((nth) => ({
        key: String(nth),
        does: `Answer ${nth}`,
        run: () => {
          const chosen = check.answers[nth - 1];
          if (chosen) answer(chosen.key);
        },
      })),
      { key: 'c', does: 'Can’t tell', run: () => answer('cant_tell') },
      { key: 'Enter', does: 'The caution is minded', run: () => (minded = true) },
      { key: 'w', does: 'Why this next', run: () => (why = !why) },
    ]),
  );
</script>

<section class="panel question" data-check={check.key} data-told={search.case?.told}>
  <p class="soft">
    {search.case?.behind
      ? 'It is gone for now; what brings it back?'
      : rest
        ? rest.left_min
          ? 'Nothing else is left to look at meanwhile'
          : 'It has rested long enough'
        : check.again
          ? 'Look once more'
          : search.chosen === check.key
            ? 'You chose'
            : 'Look at this next'}, about {minutesWords(check.minutes)}{check.wait_min
      ? ` and up to ${minutesWords(check.wait_min)} of waiting`
      : ''}
  </p>
  <h1 class="mt-1" bind:this={heading} tabindex="-1">{check.name}</h1>
  {#each gates as gate (gate.key)}
    <p class="gate"><b>First:</b> {gate.text}</p>
  {/each}
  {#if gates.length}
    <label class="inline-flex items-center gap-3 min-h-12 mt-2 cursor-pointer">
      <input type="checkbox" class="checkbox checkbox-lg" bind:checked={minded} />
      <b>{check.live ? 'I keep to that' : 'Done'}</b>
    </label>
    <details class="otherwise">
      <summary>It is not so, or I cannot tell</summary>
      <p class="soft">Then this is not looked at: choose another below, or leave it for now.</p>
      {#each dangers as one (one.key)}
        <button
          type="button"
          class="btn mt-2 mr-2 h-auto py-2 text-left"
          disabled={!session.mayWrite || house.busy}
          onclick={() => void danger(one.key, one.seen)}
        >
          <span><b>{one.seen}</b><small class="block font-normal">It is out of use at once</small></span>
        </button>
      {/each}
    </details>
  {/if}
  {#if check.undo}<p class="undo"><b>To get there:</b> {check.undo}</p>{/if}
  <p class="how">{check.how}</p>
  {#each minds as mind (mind.key)}<p class="mind"><b>Mind:</b> {mind.text}</p>{/each}
  {#if check.tools.length}<p class="soft">Have ready: {check.tools.join(', ')}.</p>{/if}

  {#if check.gauge}
    <form class="gauge" onsubmit={read}>
      <label
        >It shows <input class="input" inputmode="decimal" bind:value={now} aria-label="It shows, in kPa" /> kPa</label
      >
      <label
        >when all was well <input
          class="input"
          inputmode="decimal"
          bind:value={clean}
          placeholder="as on record"
          aria-label="When all was well, in kPa"
        /> kPa</label
      >
      <button class="btn btn-primary" disabled={!may || !now}>Take the reading</button>
    </form>
  {/if}
  {#if rest && rest.left_min}
    <p class="how" role="status"><b>{restingWords(rest, session.member?.time_zone)}</b></p>
  {:else if check.wait_min && !check.live}
    <button
      class="btn btn-primary mt-3 h-auto min-h-12 py-2"
      disabled={!may}
      onclick={() => void search.tell('rests', check.key)}
      >It rests from now on: look at other things meanwhile</button
    >
  {/if}
  <div class="answers" role="group" aria-label="Answers">
    {#each check.answers as one, i (one.key)}
      <button class="btn answer" disabled={!may} onclick={() => answer(one.key)}>
        <Drawing name={one.picture} />
        <span>{one.words}</span>
        <kbd class="key" aria-hidden="true">{i + 1}</kbd>
      </button>
    {/each}
    <button class="btn btn-ghost answer" disabled={!may} onclick={() => answer('cant_tell')}>
      <span>Can’t tell</span><kbd class="key" aria-hidden="true">c</kbd>
    </button>
  </div>
  {#if gates.length && !minded}<p class="soft mt-2">
      Tick “{check.live ? 'I keep to that' : 'Done'}” first.
    </p>{/if}
  <button class="link mt-3" aria-expanded={why} onclick={() => (why = !why)}>Why this next?</button>
  {#if why}
    <p class="mt-2" role="status">
      {whyNext(check)}
      {#if check.of}<span class="soft">It could prove: {check.of}.</span>{/if}
    </p>
  {/if}
</section>

<style>
  .question {
    padding: clamp(1rem, 3vw, 1.75rem);
  }
  h1:focus {
    outline: none;
  }
  .otherwise {
    margin: 0.25rem 0 0.5rem;
  }
  .otherwise summary {
    cursor: pointer;
    padding-block: 0.25rem;
  }
  .how {
    margin-top: 0.75rem;
    font-size: 1.15rem;
    max-width: 46rem;
  }
  .undo,
  .mind {
    margin-top: 0.75rem;
    max-width: 46rem;
  }
  .mind {
    padding-left: 0.75rem;
    border-left: 4px solid var(--due);
  }
  .gate {
    margin-top: 0.75rem;
    padding: 0.6rem 0.9rem;
    border-left: 4px solid var(--overdue);
    background: color-mix(in oklab, var(--overdue) 8%, var(--color-base-100));
    max-width: 46rem;
  }
  .answers {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(min(16rem, 100%), 1fr));
    gap: 0.75rem;
    margin-top: 1.25rem;
  }
  .answer {
    display: flex;
    justify-content: flex-start;
    gap: 0.9rem;
    height: auto;
    min-height: 4.25rem;
    padding: 0.6rem 1rem;
    font-size: 1.1rem;
    text-align: left;
    line-height: 1.25;
  }
  .answer .key {
    margin-left: auto;
    padding: 0 0.45rem;
    border: 1px solid currentColor;
    border-radius: 0.3rem;
    font-size: 0.85rem;
    color: var(--soft);
  }
  .gauge {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0.75rem 1.25rem;
    margin-top: 1rem;
  }
  .gauge .input {
    width: 8rem;
    margin-inline: 0.4rem;
  }
  @media (max-width: 39.99rem) {
    .key {
      display: none;
    }
  }
</style>
