<!-- One sheet, one step at a time, in letters that read at arm's length. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { push } from 'svelte-spa-router';

  import { keepAwake } from '../lib/state/awake';
  import { BenchState } from '../lib/state/bench.svelte';
  import { house } from '../lib/state/house.svelte';
  import { type Key, keys } from '../lib/state/keys.svelte';
  import { notice } from '../lib/state/notice.svelte';
  import type { Hanging } from '../lib/state/rack.svelte';
  import { outbox } from '../lib/state/outbox.svelte';
  import { session } from '../lib/state/session.svelte';
  import MayIWash from '../lib/ui/MayIWash.svelte';
  import Modal from '../lib/ui/Modal.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { figure, plural, together } from '../lib/words/format';
  import { choices, short, title } from '../lib/words/steps';
  import Besides from './bench/Besides.svelte';
  import OutOfUse from './bench/OutOfUse.svelte';
  import SkipStep from './bench/SkipStep.svelte';
  import StepAnswers from './bench/StepAnswers.svelte';
  import StepList from './bench/StepList.svelte';
  import StepWords from './bench/StepWords.svelte';
  import Ending from './bench/Ending.svelte';
  import Found from './bench/Found.svelte';
  import Pull from '../lib/ui/Pull.svelte';
  import Numbers from './bench/Numbers.svelte';
  import Screws from './bench/Screws.svelte';
  import Timer from './bench/Timer.svelte';
  import Hang from './rack/Hang.svelte';

  let { params }: { params: { id: string } } = $props();

  // svelte-ignore state_referenced_locally
  const bench = new BenchState(params.id);
  let skipping = $state(false);
  let dropping = $state(false);
  let noting = $state(false);
  let asking = $state(false);
  let zoomed = $state(false);
  /** The step of which everything that may be wrong is shown. */
  let moreAt = $state<string | null>(null);
  let hang = $state<ReturnType<typeof Hang> | null>(null);
  let heading = $state<HTMLHeadingElement | null>(null);

  const sheet = $derived(bench.sheet);
  const step = $derived(bench.step);
  const answered = $derived(sheet?.answered.length ?? 0);
  const several = $derived((sheet?.machines.length ?? 0) > 1);
  /** The answers to a step; at the rack only what is not a place to hang. */
  const hangs = $derived(step?.kind === 'rack');
  const options = $derived(step ? choices(step).filter((one) => !hangs || one.value !== 'done') : []);
  const more = $derived(moreAt === step?.key);
  const shown = $derived(options.filter((one) => !one.besides || more));
  const mine = $derived(sheet?.machines.find(({ id }) => id === step?.machine_id) ?? null);
  /** Suction is felt before a machine is made safe, and when it runs again. */
  const pullAt = $derived.by((): 'before' | 'after' | null => {
    if (!step || !mine?.pulls) return null;
    if (step.kind === 'power') return 'after';
    const first = sheet?.steps.find((one) => one.machine_id === step.machine_id);
    return sheet?.sitting === 'clean_and_rack' && first?.key === step.key ? 'before' : null;
  });
  const maySkip = $derived(step?.kind !== 'gate' && (step?.answers.includes('skip') ?? false));
  const failed = $derived(
    bench.steps.filter(
      (one) => one.answer === 'fail' || (one.kind === 'test' && one.answer === 'replace:due'),
    ),
  );

  void bench.refresh();
  onDestroy(bench.leave);
  /** Somebody else may go on with the sheet on another device. */
  const others = setInterval(() => {
    if (!document.hidden && !bench.waiting.length && sheet?.status === 'open') void bench.refresh();
  }, 10_000);
  onDestroy(() => clearInterval(others));
  onDestroy(keepAwake());

  async function give(value: string, why = '', hanging: Hanging | null = null) {
    if (!step || !session.mayWrite) return;
    await bench.answer(step.key, value, why, hanging);
    if (value.startsWith('danger:')) house.forget();
    heading?.focus({ preventScroll: true });
    window.scrollTo({ top: 0 });
  }
  async function back() {
    if (sheet?.status === 'open' && !bench.ending_waits) await bench.back();
  }
  async function skip(why: string) {
    skipping = false;
    await give('skip', why);
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

  /** The steps at which somebody may wonder whether water will do. */
  const AT_THE_SINK = ['wash', 'clean', 'clean_in_place'];
  /** How far a finger has to go sideways to turn the page [px]. */
  const SWIPE = 90;
  function swipes(panel: HTMLElement) {
    let start: Touch | null = null;
    const down = ({ touches }: TouchEvent) => (start = touches[0] ?? null);
    function up({ changedTouches }: TouchEvent) {
      const [end, from] = [changedTouches[0], start];
      start = null;
      if (!end || !from || Math.abs(end.clientY - from.clientY) > SWIPE / 2) return;
      // A gate is acknowledged on purpose, by its button or a key, never by a stray finger.
      if (end.clientX - from.clientX < -SWIPE && step && step.kind !== 'gate') onward();
      else if (end.clientX - from.clientX > SWIPE) void back();
    }
    panel.addEventListener('touchstart', down, { passive: true });
    panel.addEventListener('touchend', up);
  }

  const numbered: Key[] = [1, 2, 3, 4, 5].map((n) => ({
    key: String(n),
    does: `Answer ${n}, where there are several`,
    run: () => {
      const choice = shown[n - 1];
      if (choice && (options.length > 1 || hangs)) void give(choice.value);
    },
  }));
  onDestroy(
    keys.lend('Bench', [
      { key: 'Enter', does: 'Done, yes, next', run: onward },
      { key: 'ArrowRight', shown: '→', does: 'Done, yes, next', run: onward },
      { key: 'ArrowLeft', shown: '←', does: 'Take the last answer back', run: () => void back() },
      { key: 's', does: 'Skip, with a reason', run: () => maySkip && (skipping = true) },
      { key: 'n', does: 'A note, a photo, something found', run: () => step && (noting = true) },
      ...numbered,
    ]),
  );
</script>

<svelte:head><title>Bench · Yperon</title></svelte:head>

{#snippet late(count: number)}
  {#if count}
    <p class="unsent">
      {plural(count, 'answer')} came after somebody else had gone on: kept as {count === 1
        ? 'a note'
        : 'notes'}, nothing changed by {count === 1 ? 'it' : 'them'}.
    </p>
  {/if}
{/snippet}

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
  <div class="mx-auto max-w-2xl p-6" data-unsent={bench.waiting.length}>
    <h1 class="text-3xl font-extrabold">This sheet has ended.</h1>
    <p class="mt-2">
      Its records stand on {#each sheet.machines as machine, i (machine.id)}{i ? ', ' : ''}<a
          class="link"
          href={`#/machines/${machine.id}`}>{machine.name}</a
        >{/each}.
    </p>
    {@render late(sheet.late)}
    {#if bench.waiting.length}
      <p class="soft">
        {plural(bench.waiting.length, 'more answer')}
        {bench.waiting.length === 1 ? 'is' : 'are'} still to be sent.
      </p>
    {/if}
    <a class="btn btn-primary mt-4" href="#/">Back to Round</a>
  </div>
{:else if sheet}
  <div class="page">
    <div class="progress-line">
      <p>
        <b>{step?.machine_name ?? together(sheet.machines)}</b>
        <span class="soft">
          {several ? `and ${plural(sheet.machines.length - 1, 'more machine', 'more machines')}, ` : ''}
          {sheet.sitting === 'refit_and_test' ? 'put back and test' : 'clean'}, about {figure(sheet.minutes)} min
          ·
          {Math.min(answered + 1, bench.steps.length)} of {bench.steps.length}
        </span>
      </p>
      <progress class="progress" value={answered} max={bench.steps.length} aria-label="Steps done"></progress>
      {#if !outbox.reached && bench.waiting.length}
        <p class="unsent" role="status">
          Not sent yet: {plural(bench.waiting.length, 'answer')}
          {bench.waiting.length === 1 ? 'waits' : 'wait'} on this device and {bench.waiting.length === 1
            ? 'is'
            : 'are'} sent by itself; go on.
        </p>
      {/if}
      {#if !isSecureContext}
        <p class="soft text-sm">
          Open without a lock in the address, so the screen may go dark and a reload needs the connection;
          <b>make serve LAN=1</b> lets this device in with both.
        </p>
      {/if}
      {@render late(sheet.late)}
      <OutOfUse {sheet} />
    </div>

    <section
      class="step panel"
      data-step={step?.key ?? 'end'}
      data-unsent={bench.waiting.length}
      {@attach swipes}
    >
      {#if bench.problem}<div class="mb-4"><Trouble problem={bench.problem} /></div>{/if}
      {#if step}
        <h1 bind:this={heading} tabindex="-1">{title(step)}</h1>
        <StepWords {step} tools={answered === 0 ? sheet.tools : []} />
        {#if step.kind === 'retire' && step.slot}<Numbers machine={step.machine_id} slot={step.slot} />{/if}
        {#if step.each.length}
          {#key step.key}
            <ul class="each">
              {#each step.each as one (one)}
                <li><label><input type="checkbox" class="checkbox checkbox-lg" /> {one}</label></li>
              {/each}
            </ul>
          {/key}
        {/if}
        {#if step.wait_min}<Timer key={`${bench.id}/${step.key}`} minutes={step.wait_min} />{/if}
        {#if step.picture && ['fit', 'take_out', 'open', 'close'].includes(step.kind)}
          <button class="zoom" onclick={() => (zoomed = true)} title="Larger">
            <img
              class="sat"
              src={`/api/notes/${step.picture}/picture`}
              alt={`How it sat: ${step.item_name ?? ''}`}
            />
          </button>
        {/if}
        {#if step.kind === 'rack' && step.item_id}
          <Hang
            bind:this={hang}
            item_id={step.item_id}
            action={step.action}
            busy={false}
            verb="It hangs in"
            big
            onhang={(hanging) => void give('done', '', hanging)}
          />
        {/if}
        {#if pullAt}
          <Pull
            machine_id={step.machine_id}
            sheet_id={bench.id}
            moment={pullAt}
            told={(pullAt === 'before' ? mine?.pull_before : mine?.pull_after) ?? null}
            onkept={() => void bench.refresh()}
          />
        {/if}
        {#if step.counts}
          {#key step.key}
            <Screws
              {step}
              steps={sheet?.steps ?? []}
              disabled={!session.mayWrite}
              ongive={(value) => void give(value)}
            />
          {/key}
        {/if}
        <StepAnswers
          {step}
          options={shown}
          whole={more || !options.some((one) => one.besides)}
          numbered={options.length > 1 || hangs}
          {maySkip}
          ongive={(value, why) => void give(value, why)}
          onmore={() => (moreAt = step?.key ?? null)}
        />
        <Besides {bench} disabled={!session.mayWrite} />
      {:else}
        <h1 bind:this={heading} tabindex="-1">All steps are answered.</h1>
        <p class="say">End the sitting: only now the records are written and the clocks move.</p>
        {#each failed as one (one.key)}
          <p class="caution">
            <b>Not right yet:</b>
            {short(one)}. {one.answer === 'fail'
              ? 'Step back and do it again; if the sitting ends so, it stays due.'
              : 'A new one is due when the sitting ends.'}
          </p>
        {/each}
        <div class="answers">
          <button
            class="btn btn-primary answer"
            disabled={bench.ending_waits || !session.mayWrite}
            onclick={() => void bench.finish()}
          >
            <b>{bench.ending_waits ? 'It ends as soon as Yperon answers' : 'End the sitting'}</b>
          </button>
        </div>
      {/if}
      <div class="under">
        <button class="btn btn-ghost" disabled={!answered || bench.ending_waits} onclick={() => void back()}
          >← Back</button
        >
        {#if maySkip}
          <button class="btn btn-ghost" onclick={() => (skipping = true)}>Skip…</button>
        {/if}
        {#if step && session.mayWrite}
          <button class="btn btn-ghost" onclick={() => (noting = true)}>Note, photo, found…</button>
        {/if}
        {#if step && AT_THE_SINK.includes(step.kind)}
          <button class="btn btn-ghost" onclick={() => (asking = true)}>May I wash this?</button>
        {/if}
        <span class="grow"></span>
        <a class="btn btn-ghost" href={`#/print/${bench.id}`}>Print</a>
        <a class="btn btn-ghost" href="#/">Rest here</a>
        {#if sheet.may_drop}
          <button class="btn btn-ghost" onclick={() => (dropping = true)}>Give up…</button>
        {/if}
      </div>
    </section>

    <StepList {sheet} steps={bench.steps} />
  </div>
{/if}

{#if zoomed && step?.picture}
  <Modal title={`How it sat: ${step.item_name ?? ''}`} onclose={() => (zoomed = false)}>
    <img
      class="w-full"
      src={`/api/notes/${step.picture}/picture`}
      alt={`How it sat: ${step.item_name ?? ''}`}
    />
  </Modal>
{/if}
{#if asking && step?.slot}
  <MayIWash
    machine_id={step.machine_id}
    slot={step.slot}
    name={step.slot_name ?? ''}
    onclose={() => (asking = false)}
  />
{/if}
{#if noting && step}
  <Found {step} onclose={() => (noting = false)} onkept={() => void bench.refresh()} />
{/if}
{#if skipping && step}
  <SkipStep {step} onclose={() => (skipping = false)} onskip={(why) => void skip(why)} />
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
  .unsent {
    margin-top: 0.5rem;
    padding: 0.5rem 0.75rem;
    border-left: 4px solid var(--due);
    background: var(--color-base-200);
  }
  .each {
    margin-top: 1rem;
  }
  .each label {
    display: flex;
    align-items: center;
    gap: 0.9rem;
    min-height: 3.25rem;
    font-size: 1.2rem;
    cursor: pointer;
  }
  .zoom {
    cursor: zoom-in;
  }
  .sat {
    width: auto;
    max-height: 20rem;
    margin-block: 1rem;
    border-radius: var(--radius-box);
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
  .say {
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
  .caution b {
    color: var(--due);
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
  @media (max-width: 959px) {
    .page {
      grid-template-columns: minmax(0, 1fr);
      grid-template-areas: 'progress' 'step' 'list';
    }
  }
</style>
