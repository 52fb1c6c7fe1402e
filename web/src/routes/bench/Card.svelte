<!-- What is at hand: one step, or with it all steps of its part, the cautions first and one answer for all of them. -->
<script lang="ts">
  import type { BenchState, Said } from '../../lib/state/bench.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { answersOf, asks, cardFrom, confirms } from '../../lib/state/cards';
  import type { Hanging } from '../../lib/state/rack.svelte';
  import { type Choice, choices, short, title } from '../../lib/words/steps';
  import Besides from './Besides.svelte';
  import StepAnswers from './StepAnswers.svelte';
  import StepTools from './StepTools.svelte';
  import StepWords from './StepWords.svelte';

  let {
    bench,
    byPart,
    maySkip,
    ongiven,
  }: {
    bench: BenchState;
    byPart: boolean;
    maySkip: boolean;
    /** After an answer: what it said. */
    ongiven: (value: string) => void;
  } = $props();

  /** The step of which everything that may be wrong is shown. */
  let moreAt = $state<string | null>(null);
  let heading = $state<HTMLHeadingElement | null>(null);
  let tools = $state<ReturnType<typeof StepTools> | null>(null);

  const step = $derived(bench.step!);
  const card = $derived(byPart ? cardFrom(bench.steps, step.key) : [step]);
  const last = $derived(card.at(-1) ?? step);
  /** The step whose answers are the buttons: what is asked, else what can be said no to, else the last. */
  const asked = $derived(asks(last) ? last : (card.find(confirms) ?? last));
  const whole = $derived(card.length > 1);
  const about = $derived(card.find((one) => one.item_name ?? one.slot_name));
  const name = $derived(
    whole
      ? `${about?.item_name ?? about?.slot_name ?? step.machine_name}: ${card.map(verb).join(', ')}`
      : title(step),
  );
  const cautions = $derived([
    ...new Map(card.flatMap((one) => one.cautions).map((one) => [one.key, one])).values(),
  ]);

  /** At the rack only what is not a place to hang. */
  const hangs = $derived(asked.kind === 'rack');
  const options = $derived(
    choices(asked)
      .filter((one) => !hangs || one.value !== 'done')
      .map(forAll),
  );
  const more = $derived(moreAt === asked.key);
  const shown = $derived(options.filter((one) => !one.besides || more));
  const several = $derived(options.length > 1 || hangs);

  function verb(one: (typeof card)[number]): string {
    const words = short(one).replace(`${one.machine_name}: `, '');
    const item = one.item_name ?? one.slot_name;
    const own = item ? words.replace(`${item}: `, '').replace(`: ${item}`, '') : words;
    return own.charAt(0).toLowerCase() + own.slice(1);
  }
  /** What says yes to a card of several steps says so. */
  function forAll(choice: Choice): Choice {
    return whole && choice.main && !asks(asked)
      ? { ...choice, text: confirms(asked) ? 'All of it is done, and it is so' : 'All of it is done' }
      : choice;
  }

  async function give(value: string, why = '', hanging: Hanging | null = null) {
    // A yes says that the whole card is done; a no, only what stands before it.
    const yes = !asks(asked) && value === asked.answers[0];
    const said: Said[] = answersOf(card, yes ? last : asked, yes ? (last.answers[0] ?? 'done') : value);
    await bench.answerAll([...said.slice(0, -1), { ...said.at(-1)!, reason: why, hanging }]);
    ongiven(value);
    heading?.focus({ preventScroll: true });
    window.scrollTo({ top: 0 });
  }

  export function onward(): void {
    if (hangs) return tools?.takeSoonest();
    const main = options.find((one) => one.main);
    if (main) void give(main.value);
  }
  export function answer(n: number): void {
    const choice = shown[n - 1];
    if (choice && several) void give(choice.value);
  }
</script>

<h1 class="text-[clamp(1.7rem,4vw,2.4rem)] mb-4" bind:this={heading} tabindex="-1">{name}</h1>
{#if whole}
  {#each cautions as caution (caution.key)}
    <p class="caution"><b>Mind:</b> {caution.text}</p>
  {/each}
  <ol>
    {#each card as one (one.key)}
      <li>
        <h2>{title(one)}</h2>
        <StepWords step={one} cautions={false} />
        {#if one !== asked}<StepTools
            {bench}
            step={one}
            ongive={(value, hanging = null) => void give(value, '', hanging)}
          />{/if}
      </li>
    {/each}
  </ol>
{:else}
  <StepWords {step} tools={bench.sheet?.answered.length ? [] : (bench.sheet?.tools ?? [])} />
{/if}
<StepTools
  bind:this={tools}
  {bench}
  step={asked}
  ongive={(value, hanging = null) => void give(value, '', hanging)}
/>
<StepAnswers
  step={asked}
  options={shown}
  whole={more || !options.some((one) => one.besides)}
  numbered={several}
  {maySkip}
  ongive={(value, why) => void give(value, why)}
  onmore={() => (moreAt = asked.key)}
/>
<Besides {bench} steps={card} disabled={!session.mayWrite} />

<style>
  h1:focus {
    outline: none;
  }
  ol {
    display: grid;
    gap: 1rem;
    counter-reset: step;
  }
  li {
    padding-left: 0.9rem;
    border-left: 4px solid var(--color-base-300);
  }
  li :global(:is(.say, .how)) {
    font-size: 1.15rem;
  }
</style>
