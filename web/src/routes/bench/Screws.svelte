<!-- Screws counted out of an opening and in again: it is closed only with as many as came out. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { plural } from '../../lib/words/format';
  import { SCREWS, screwsIn } from '../../lib/words/steps';

  let {
    step,
    steps,
    disabled,
    ongive,
  }: {
    step: Schemas['StepOut'];
    steps: Schemas['StepOut'][];
    disabled: boolean;
    ongive: (value: string) => void;
  } = $props();

  let count = $state<number | null>(null);
  const opening = $derived(step.kind === 'open');
  /** How many came out, where this sitting opened it. */
  const out = $derived(opening ? null : screwsIn(steps.find(({ key }) => key === step.counts)?.answer));
  const wrong = $derived(out !== null && count !== null && count !== out);

  function give(event: SubmitEvent) {
    event.preventDefault();
    if (count !== null && !wrong) ongive(`${SCREWS}${count}`);
  }
</script>

<form class="mt-3 grid gap-3" onsubmit={give}>
  <label class="flex flex-wrap items-center gap-3 text-lg font-bold"
    >{opening ? 'Screws that came out' : 'Screws that went in'}
    <input
      class="input input-lg w-28"
      type="number"
      inputmode="numeric"
      min="0"
      max="60"
      step="1"
      bind:value={count}
      required
    />{#if out !== null}<span class="font-normal">{plural(out, 'screw')} came out.</span>{/if}</label
  >
  {#if wrong}
    <p class="caution" role="alert">
      <b>{out} came out, {count} went in.</b> Look in the tray, on the floor and inside before it is closed. If
      they were miscounted, step back.
    </p>
  {/if}
  <button class="btn btn-primary answer text-lg" disabled={disabled || count === null || wrong}>
    <b
      >{opening
        ? count === 0
          ? 'It has none: a catch'
          : 'Out, and all in the tray'
        : 'In, and the tray is empty'}</b
    >
  </button>
</form>

<style>
  .caution {
    border-left: 4px solid currentColor;
    padding: 0.3rem 0.8rem;
  }
  .answer {
    min-height: 4rem;
    height: auto;
  }
</style>
