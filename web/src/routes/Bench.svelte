<!-- One sheet, one step at a time, in letters that read at arm's length. -->
<script lang="ts">
  import Check from '~icons/lucide/check';
  import { onDestroy } from 'svelte';
  import { push } from 'svelte-spa-router';

  import type { Schemas } from '../lib/api/client';
  import { keepAwake } from '../lib/state/awake';
  import { BenchState } from '../lib/state/bench.svelte';
  import { house } from '../lib/state/house.svelte';
  import { type Key, keys } from '../lib/state/keys.svelte';
  import { notice } from '../lib/state/notice.svelte';
  import type { Hanging } from '../lib/state/rack.svelte';
  import { outbox } from '../lib/state/outbox.svelte';
  import { session } from '../lib/state/session.svelte';
  import HowTo from '../lib/ui/HowTo.svelte';
  import MayIWash from '../lib/ui/MayIWash.svelte';
  import Modal from '../lib/ui/Modal.svelte';
  import ToolLine from '../lib/ui/ToolLine.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { figure, plural, together } from '../lib/words/format';
  import { choices, extra, short, STUCK, title } from '../lib/words/steps';
  import Besides from './bench/Besides.svelte';
  import Ending from './bench/Ending.svelte';
  import Found from './bench/Found.svelte';
  import Pull from '../lib/ui/Pull.svelte';
  import NewPrice from './bench/NewPrice.svelte';
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
  /** The step at which something does not go in or does not close. */
  let stuckAt = $state<string | null>(null);
  let reason = $state('');
  let hang = $state<ReturnType<typeof Hang> | null>(null);
  let heading = $state<HTMLHeadingElement | null>(null);

  const sheet = $derived(bench.sheet);
  const step = $derived(bench.step);
  const answered = $derived(sheet?.answered.length ?? 0);
  const where = (one: Schemas['StepOut']) =>
    ['wash', 'rack'].includes(one.kind) ? 'At the sink' : one.machine_name;
  /** The steps in stretches, each at one machine or at the sink. */
  const blocks = $derived.by(() => {
    const made: Schemas['StepOut'][][] = [];
    for (const one of bench.steps) {
      const last = made.at(-1);
      if (last?.[0] && where(last[0]) === where(one)) last.push(one);
      else made.push([one]);
    }
    return made;
  });
  const several = $derived((sheet?.machines.length ?? 0) > 1);
  /** The answers to a step; at the rack only what is not a place to hang. */
  const hangs = $derived(step?.kind === 'rack');
  const options = $derived(step ? choices(step).filter((one) => !hangs || one.value !== 'done') : []);
  const more = $derived(moreAt === step?.key);
  const stuck = $derived(step?.seat.length ? STUCK[step.kind] : undefined);
  const mine = $derived(sheet?.machines.find(({ id }) => id === step?.machine_id) ?? null);
  /** Suction is felt before a machine is made safe, and when it runs again. */
  const pullAt = $derived.by((): 'before' | 'after' | null => {
    if (!step || !mine?.pulls) return null;
    if (step.kind === 'power') return 'after';
    const first = sheet?.steps.find((one) => one.machine_id === step.machine_id);
    return sheet?.sitting === 'clean_and_rack' && first?.key === step.key ? 'before' : null;
  });
  const maySkip = $derived(step?.kind !== 'gate' && (step?.answers.includes('skip') ?? false));
  /** Cleaned dry, it puts fine dust into the air. */
  const dusty = $derived(
    step !== null &&
      ['clean', 'clean_in_place'].includes(step.kind) &&
      step.action === 'clean' &&
      step.cautions.some(({ key }) => key.startsWith('dust')),
  );
  const dangers = $derived(
    (sheet?.steps ?? []).flatMap((one) =>
      one.dangers
        .filter(({ value }) => value === one.answer)
        .map((told) => ({ ...told, machine: one.machine_name })),
    ),
  );
  /** Told elsewhere while this sheet was open: parts that are out may go back, nothing else is done. */
  const elsewhere = $derived(
    (sheet?.machines ?? []).flatMap(({ name, dangers: known }) =>
      known
        .filter((one) => !dangers.some((told) => told.value === `danger:${one.key}` && told.machine === name))
        .map((one) => ({ ...one, machine: name })),
    ),
  );
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
      const choice = options.filter((one) => !one.besides || more)[n - 1];
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
      {#each elsewhere as danger (danger.machine + danger.key)}
        <section class="panel mt-3 p-4" role="alert">
          <h2 class="text-xl font-extrabold">{danger.machine} is out of use: {danger.name}.</h2>
          <p class="caution gate">{danger.now}</p>
          <p>Told elsewhere. Put back only what is out already; skip the rest, or end the sitting.</p>
        </section>
      {/each}
      {#each sheet.beside as { machine, danger } (machine + danger.key)}
        <section class="panel mt-3 p-4" role="alert">
          <h2 class="text-xl font-extrabold">{machine} is out of use: {danger.name}.</h2>
          <p class="caution gate">{danger.now}</p>
          <p>It belongs to this one: keep the two apart, and skip what is done at it.</p>
        </section>
      {/each}
      {#each dangers as danger (danger.machine + danger.value)}
        <section class="panel mt-3 p-4" role="alert">
          <h2 class="text-xl font-extrabold">{danger.machine} is out of use: {danger.name}.</h2>
          <p class="caution gate">{danger.now}</p>
          <p>{danger.who} Round says what ends this, and takes it back if it was told by mistake.</p>
        </section>
      {/each}
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
        {#each step.cautions as caution (caution.key)}
          <p class="caution"><b>Mind:</b> {caution.text}</p>
        {/each}
        {#if dusty && step.slot}
          <NewPrice machine={step.machine_id} slot={step.slot} />
        {/if}
        {#if step.kind === 'gate'}
          {#each step.text as text (text)}<p class="caution gate">{text}</p>{/each}
          {#if sheet.tools.length && answered === 0}
            <p class="tools"><b>Have ready:</b></p>
            <ul class="tools">
              {#each sheet.tools as tool (tool.name)}
                <li>
                  <ToolLine {tool} />
                </li>
              {/each}
            </ul>
          {/if}
        {:else}
          <div class={['told', step.drawing && 'drawn']}>
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
        <div class={['answers', options.length > 1 && 'many']}>
          {#each options.filter((one) => !one.besides || more) as choice, i (choice.value)}
            <button
              class={['btn answer', choice.main && 'btn-primary']}
              disabled={!session.mayWrite}
              onclick={() => void give(choice.value)}
            >
              {#if options.length > 1 || hangs}<kbd aria-hidden="true">{i + 1}</kbd>{/if}
              <span
                ><b>{choice.text}</b>{#if choice.more}<small>{choice.more}</small>{/if}</span
              >
            </button>
          {/each}
          {#if !more && options.some((one) => one.besides)}
            <button class="btn btn-ghost answer" onclick={() => (moreAt = step?.key ?? null)}
              >Something else is wrong with it…</button
            >
          {/if}
          {#if stuck && stuckAt !== step.key}
            <button class="btn btn-ghost answer" onclick={() => (stuckAt = step?.key ?? null)}
              >{stuck.ask}</button
            >
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
                  onclick={() => void give('skip', stuck.left)}>Leave it out: the machine waits</button
                >{:else}Rest here and do not run it: a shop, or somebody with the manual, has it shut in a
                minute.{/if}
            </p>
          </section>
        {/if}
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
  .whose {
    margin-top: 0.5rem;
    font-weight: 800;
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
  .drawn {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 15rem;
    align-items: start;
    gap: 1rem 1.5rem;
  }
  @media (max-width: 1023px) {
    .drawn {
      grid-template-columns: minmax(0, 1fr);
    }
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
  @media (max-width: 959px) {
    .page {
      grid-template-columns: minmax(0, 1fr);
      grid-template-areas: 'progress' 'step' 'list';
    }
  }
</style>
