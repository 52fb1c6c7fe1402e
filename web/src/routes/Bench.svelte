<!-- One sheet, step by step or part by part, in letters that read at arm's length. -->
<script lang="ts">
  import { onDestroy } from 'svelte';

  import { keepAwake } from '../lib/state/awake';
  import { BenchState } from '../lib/state/bench.svelte';
  import { house } from '../lib/state/house.svelte';
  import { type Key, keys } from '../lib/state/keys.svelte';
  import { session } from '../lib/state/session.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Card from './bench/Card.svelte';
  import End from './bench/End.svelte';
  import Ended from './bench/Ended.svelte';
  import Ending from './bench/Ending.svelte';
  import Progress from './bench/Progress.svelte';
  import StepList from './bench/StepList.svelte';
  import Under from './bench/Under.svelte';

  let { params }: { params: { id: string } } = $props();

  const BY_PART = 'yperon.by-part';
  // svelte-ignore state_referenced_locally
  const bench = new BenchState(params.id);
  let byPart = $state(localStorage.getItem(BY_PART) === 'yes');
  let card = $state<ReturnType<typeof Card> | null>(null);
  let under = $state<ReturnType<typeof Under> | null>(null);

  const sheet = $derived(bench.sheet);
  const step = $derived(bench.step);
  const open = $derived(sheet?.status === 'open');
  const maySkip = $derived(step?.kind !== 'gate' && (step?.answers.includes('skip') ?? false));

  void bench.refresh();
  onDestroy(bench.leave);
  /** Somebody else may go on with the sheet on another device. */
  const others = setInterval(() => {
    if (!document.hidden && !bench.waiting.length && open) void bench.refresh();
  }, 10_000);
  onDestroy(() => clearInterval(others));
  onDestroy(keepAwake());

  function goBy(part: boolean) {
    byPart = part;
    localStorage.setItem(BY_PART, part ? 'yes' : 'no');
  }
  async function back() {
    if (open && !bench.ending_waits) await bench.back();
  }
  const onward = () => {
    if (!session.mayWrite) return;
    if (step) card?.onward();
    else if (open) void bench.finish();
  };

  /** How far a finger has to go sideways to turn the page [px]. */
  const SWIPE = 90;
  function swipes(panel: HTMLElement) {
    let start: Touch | null = null;
    const down = ({ touches }: TouchEvent) => (start = touches[0] ?? null);
    function up({ changedTouches }: TouchEvent) {
      const [end, from] = [changedTouches[0], start];
      start = null;
      if (!end || !from || Math.abs(end.clientY - from.clientY) > SWIPE / 2) return;
      // A gate is acknowledged on purpose, by its button or a key, never by a stray finger; nor is a whole part.
      if (end.clientX - from.clientX < -SWIPE && step && step.kind !== 'gate' && !byPart) onward();
      else if (end.clientX - from.clientX > SWIPE) void back();
    }
    panel.addEventListener('touchstart', down, { passive: true });
    panel.addEventListener('touchend', up);
  }

  const numbered: Key[] = [1, 2, 3, 4, 5].map((n) => ({
    key: String(n),
    does: `Answer ${n}, where there are several`,
    run: () => session.mayWrite && card?.answer(n),
  }));
  onDestroy(
    keys.lend('Bench', [
      { key: 'Enter', does: 'Done, yes, next', run: onward },
      { key: 'ArrowRight', shown: '→', does: 'Done, yes, next', run: onward },
      { key: 'ArrowLeft', shown: '←', does: 'Take the last answer back', run: () => void back() },
      { key: 's', does: 'Skip, with a reason', run: () => under?.skip() },
      { key: 'n', does: 'A note, a photo, something found', run: () => under?.note() },
      { key: 'p', does: 'Part by part, or step by step', run: () => goBy(!byPart) },
      ...numbered,
    ]),
  );
</script>

<svelte:head><title>Bench · Yperon</title></svelte:head>

<Loaded
  load={bench.load}
  what="Opening the sheet"
  retry={() => void bench.refresh()}
  back={{ href: '#/', text: 'Back to Round' }}
>
  {#if bench.ending}
    <div class="mx-auto max-w-2xl p-4 pb-24 sm:p-8"><Ending ending={bench.ending} /></div>
  {:else if sheet && !open}
    <Ended {sheet} unsent={bench.waiting.length} />
  {:else if sheet}
    <div class="bench">
      <Progress {bench} {byPart} onbypart={goBy} />
      <section
        class="step panel"
        data-step={step?.key ?? 'end'}
        data-unsent={bench.waiting.length}
        {@attach swipes}
      >
        {#if bench.problem}<div class="mb-4"><Trouble problem={bench.problem} /></div>{/if}
        {#if step}
          <Card
            bind:this={card}
            {bench}
            {byPart}
            {maySkip}
            ongiven={(value) => value.startsWith('danger:') && house.forget()}
          />
        {:else}
          <End {bench} />
        {/if}
        <Under bind:this={under} {bench} {byPart} {maySkip} onback={() => void back()} />
      </section>
      <StepList {sheet} steps={bench.steps} />
    </div>
  {/if}
</Loaded>

<style>
  .bench {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 19rem;
    grid-template-areas: 'progress progress' 'step list';
    gap: 1rem 2rem;
    max-width: 80rem;
    margin-inline: auto;
    padding: 1rem clamp(1rem, 2.5vw, 1.75rem) 6rem;
  }
  .step {
    grid-area: step;
    align-self: start;
    padding: clamp(1rem, 3vw, 2rem);
  }
  @media (max-width: 59.99rem) {
    .bench {
      grid-template-columns: minmax(0, 1fr);
      grid-template-areas: 'progress' 'step' 'list';
    }
  }
</style>
