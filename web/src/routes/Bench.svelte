<!-- One sheet, one step at a time, in letters that read at arm's length. -->
<script lang="ts">
  import Check from '~icons/lucide/check';
  import { onDestroy } from 'svelte';
  import { push } from 'svelte-spa-router';

  import { BenchState } from '../lib/state/bench.svelte';
  import { type Key, keys } from '../lib/state/keys.svelte';
  import { notice } from '../lib/state/notice.svelte';
  import type { Hanging } from '../lib/state/rack.svelte';
  import { session } from '../lib/state/session.svelte';
  import Modal from '../lib/ui/Modal.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { figure } from '../lib/words/format';
  import { choices, extra, short, title } from '../lib/words/steps';
  import Ending from './bench/Ending.svelte';
  import Hang from './rack/Hang.svelte';

  let { params }: { params: { id: string } } = $props();

  // svelte-ignore state_referenced_locally
  const bench = new BenchState(params.id);
  let skipping = $state(false);
  let dropping = $state(false);
  let reason = $state('');
  let hang = $state<ReturnType<typeof Hang> | null>(null);
  let heading = $state<HTMLHeadingElement | null>(null);

  const sheet = $derived(bench.sheet);
  const step = $derived(bench.step);
  const answered = $derived(sheet?.steps.filter((one) => one.answer !== null).length ?? 0);
  const options = $derived(step ? choices(step) : []);
  const maySkip = $derived(step?.answers.includes('skip') ?? false);
  const failed = $derived(sheet?.steps.filter((one) => one.answer === 'fail') ?? []);

  void bench.refresh();

  async function give(value: string, why = '', hanging: Hanging | null = null) {
    if (!step || !session.mayWrite) return;
    await bench.answer(step.key, value, why, hanging);
    heading?.focus({ preventScroll: true });
    window.scrollTo({ top: 0 });
  }
  async function back() {
    if (!answered || sheet?.status !== 'open') return;
    await bench.answer(step?.key ?? sheet.steps.at(-1)?.key ?? '', 'back');
  }
  async function skip(event: SubmitEvent) {
    event.preventDefault();
    skipping = false;
    await give('skip', reason);
    reason = '';
  }
  async function drop() {
    dropping = false;
    if (await bench.drop()) {
      notice.done('The sheet was given up; nothing was recorded.');
      await push('/');
    }
  }
  const onward = () => {
    if (step?.kind === 'rack') return void hang?.takeSoonest();
    const main = options.find((one) => one.main);
    if (main) void give(main.value);
    else if (sheet?.status === 'open' && !step) void bench.finish();
  };

  const numbered: Key[] = [1, 2, 3, 4, 5].map((n) => ({
    key: String(n),
    does: `Answer ${n}, where there are several`,
    run: () => {
      const choice = options[n - 1];
      if (choice && options.length > 1) void give(choice.value);
    },
  }));
  onDestroy(
    keys.lend('Bench', [
      { key: 'Enter', does: 'Done, yes, next', run: onward },
      { key: 'ArrowRight', shown: '→', does: 'Done, yes, next', run: onward },
      { key: 'ArrowLeft', shown: '←', does: 'Take the last answer back', run: () => void back() },
      { key: 's', does: 'Skip, with a reason', run: () => maySkip && (skipping = true) },
      ...numbered,
    ]),
  );
</script>

<svelte:head><title>Bench · Yperon</title></svelte:head>

{#if bench.load.status === 'pending'}
  <Waiting what="Opening the sheet" />
{:else if bench.load.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={bench.load.problem} retry={() => void bench.refresh()} />
    <p class="mt-3"><a class="link" href="#/">Back to Round</a></p>
  </div>
{:else if bench.ending}
  <div class="mx-auto max-w-2xl p-4 pb-24 sm:p-8">
    <Ending ending={bench.ending} />
  </div>
{:else if sheet && sheet.status !== 'open'}
  <div class="mx-auto max-w-2xl p-6">
    <h1 class="text-3xl font-extrabold">This sheet has ended.</h1>
    <p class="mt-2">
      Its records stand on <a class="link" href={`#/machines/${sheet.machine_id}`}>{sheet.machine_name}</a>.
    </p>
    <a class="btn btn-primary mt-4" href="#/">Back to Round</a>
  </div>
{:else if sheet}
  <div class="page">
    <div class="progress-line">
      <p>
        <b>{sheet.machine_name}</b>
        <span class="soft">
          {sheet.sitting === 'refit_and_test' ? 'put back and test' : 'clean'}, about {figure(sheet.minutes)} min
          ·
          {Math.min(answered + 1, sheet.steps.length)} of {sheet.steps.length}
        </span>
      </p>
      <progress class="progress" value={answered} max={sheet.steps.length} aria-label="Steps done"></progress>
    </div>

    <section class="step panel" data-step={step?.key ?? 'end'}>
      {#if bench.problem}<div class="mb-4"><Trouble problem={bench.problem} /></div>{/if}
      {#if step}
        <h1 bind:this={heading} tabindex="-1">{title(step)}</h1>
        {#each step.cautions as caution (caution.key)}
          <p class="caution"><b>Mind:</b> {caution.text}</p>
        {/each}
        {#if step.kind === 'gate'}
          {#each step.text as text (text)}<p class="caution gate">{text}</p>{/each}
          {#if sheet.tools.length && answered === 0}
            <p class="tools"><b>Have ready:</b></p>
            <ul class="tools">
              {#each sheet.tools as tool (tool.name)}
                <li>
                  {tool.name}{#if tool.instead.length}<span class="soft">, or {tool.instead.join(', ')}</span
                    >{/if}
                </li>
              {/each}
            </ul>
          {/if}
        {:else if step.text.length + extra(step).length > 1}
          <ol class="how">
            {#each [...step.text, ...extra(step)] as text (text)}<li>{text}</li>{/each}
          </ol>
        {:else}
          {#each [...step.text, ...extra(step)] as text (text)}<p class="say">{text}</p>{/each}
        {/if}
        {#if step.kind === 'rack' && step.item_id}
          <Hang
            bind:this={hang}
            item_id={step.item_id}
            busy={bench.busy}
            verb="It hangs in"
            big
            onhang={(hanging) => void give('done', '', hanging)}
          />
        {/if}
        <div class={['answers', options.length > 1 && 'many']}>
          {#each step.kind === 'rack' ? [] : options as choice, i (choice.value)}
            <button
              class={['btn answer', choice.main && 'btn-primary']}
              disabled={bench.busy || !session.mayWrite}
              onclick={() => void give(choice.value)}
            >
              {#if options.length > 1}<kbd aria-hidden="true">{i + 1}</kbd>{/if}
              <span
                ><b>{choice.text}</b>{#if choice.more}<small>{choice.more}</small>{/if}</span
              >
            </button>
          {/each}
        </div>
      {:else}
        <h1 bind:this={heading} tabindex="-1">All steps are answered.</h1>
        <p class="say">End the sitting: only now the records are written and the clocks move.</p>
        {#each failed as one (one.key)}
          <p class="caution">
            <b>Not right yet:</b>
            {short(one)}. Step back and seat it again, or end the sitting and keep an eye on it.
          </p>
        {/each}
        <div class="answers">
          <button
            class="btn btn-primary answer"
            disabled={bench.busy || !session.mayWrite}
            onclick={() => void bench.finish()}
          >
            <b>End the sitting</b>
          </button>
        </div>
      {/if}
      <div class="under">
        <button class="btn btn-ghost" disabled={!answered || bench.busy} onclick={() => void back()}
          >← Back</button
        >
        {#if maySkip}
          <button class="btn btn-ghost" disabled={bench.busy} onclick={() => (skipping = true)}>Skip…</button>
        {/if}
        <span class="grow"></span>
        <a class="btn btn-ghost" href="#/">Rest here</a>
        {#if sheet.may_drop}
          <button class="btn btn-ghost" disabled={bench.busy} onclick={() => (dropping = true)}
            >Give up…</button
          >
        {/if}
      </div>
    </section>

    <ol class="list" aria-label="All steps">
      {#each sheet.steps as one (one.key)}
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
    </ol>
  </div>
{/if}

{#if skipping && step}
  <Modal title={`Skip: ${short(step)}`} onclose={() => (skipping = false)}>
    <form class="grid gap-3" onsubmit={skip}>
      <label class="grid gap-1">
        Why? <input
          class="input w-full"
          bind:value={reason}
          maxlength="200"
          required
          placeholder="no time, no water, part missing…"
        />
      </label>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-ghost" onclick={() => (skipping = false)}>Do it after all</button
        >
        <button class="btn btn-primary">Skip it</button>
      </div>
    </form>
  </Modal>
{/if}
{#if dropping}
  <Modal title="Give this sheet up?" onclose={() => (dropping = false)}>
    <p>No part has been touched yet, so nothing is recorded and the dates stay as they are.</p>
    <div class="mt-4 flex justify-end gap-2">
      <button class="btn btn-primary" onclick={() => (dropping = false)}>Keep it</button>
      <button class="btn btn-error btn-outline" onclick={() => void drop()}>Give it up</button>
    </div>
  </Modal>
{/if}

<style>
  .page {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 19rem;
    grid-template-areas: 'progress progress' 'step list';
    gap: 1rem 2rem;
    max-width: 76rem;
    margin-inline: auto;
    padding: 1.25rem clamp(1rem, 2.5vw, 1.75rem) 6rem;
  }
  .progress-line {
    grid-area: progress;
  }
  .step {
    grid-area: step;
    align-self: start;
    padding: clamp(1rem, 3vw, 2rem);
  }
  h1 {
    font-size: clamp(1.7rem, 4vw, 2.4rem);
    font-weight: 800;
    line-height: 1.15;
    margin-bottom: 1rem;
  }
  h1:focus {
    outline: none;
  }
  .say,
  .how {
    font-size: clamp(1.2rem, 2.4vw, 1.45rem);
  }
  .how {
    display: grid;
    gap: 0.6rem;
    padding-left: 1.4em;
    list-style: decimal;
  }
  .caution {
    margin-bottom: 1rem;
    padding: 0.75rem 1rem;
    border: 2px solid var(--due);
    border-radius: var(--radius-box);
    font-size: 1.1rem;
  }
  .caution.gate {
    font-size: clamp(1.2rem, 2.4vw, 1.45rem);
  }
  .caution b {
    color: var(--due);
  }
  .tools {
    font-size: 1.1rem;
  }
  ul.tools {
    padding-left: 1.2em;
    list-style: disc;
  }
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
    place-items: center;
    width: 1.9rem;
    height: 1.9rem;
    border: 1.5px solid currentColor;
    border-radius: 0.4rem;
    font-size: 1rem;
  }
  .under {
    display: flex;
    flex-wrap: wrap;
    gap: 0.25rem;
    margin-top: 1rem;
  }
  .under .btn {
    --size: 3rem;
    --fontsize: 1rem;
  }
  .list {
    grid-area: list;
    align-self: start;
    display: grid;
    gap: 0.1rem;
  }
  .list li {
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
  @media (max-width: 959px) {
    .page {
      grid-template-columns: minmax(0, 1fr);
      grid-template-areas: 'progress' 'step' 'list';
    }
  }
</style>
