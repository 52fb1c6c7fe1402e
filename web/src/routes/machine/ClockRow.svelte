<!-- One rule of a part: its clock, when it is expected, and the reasons behind it. -->
<script lang="ts">
  import Glyph from '../../lib/airpath/Glyph.svelte';
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { percent, when } from '../../lib/words/format';
  import { bare, byFinding, doWord, LEVEL, usedOf } from '../../lib/words/tasks';
  import { contradicted, reason, why } from '../../lib/words/why';

  let {
    machine_id,
    state,
    today,
    open = false,
  }: { machine_id: string; state: Schemas['StateOut']; today: string; open?: boolean } = $props();
  // The clock that governs stands first; the others follow in "or, if sooner".
  const clock = $derived(state.clocks[0]);
  const found = $derived(byFinding(state));
  const title = $derived(state.is_life ? 'Life, since new' : 'Service, since last done');
  const asks = $derived(contradicted(state));
  async function tellChanged(changed: boolean) {
    const text = changed ? 'What was seen before no longer counts.' : 'Noted: nothing changed at home.';
    await house.homeChanged(machine_id, { slot: state.slot, action: state.action, changed }, text);
  }
</script>

<article class={['clock', `ink-${state.level}`]}>
  <div class="flex flex-wrap items-baseline justify-between gap-x-4">
    <h3>{title}: <span class="capitalize-first">{doWord(state.action)}</span></h3>
    <b>{state.share >= 1 ? 'now' : found ? 'when you find it needs it' : when(state.due, today)}</b>
  </div>
  {#if clock && !found}
    <div
      class="bar"
      role="meter"
      aria-valuemin="0"
      aria-valuemax="100"
      aria-valuenow={Math.min(100, Math.round(state.share * 100))}
      aria-label={`${title}: ${percent(state.share)} used, ${LEVEL[state.level]}`}
    >
      <span style:width={`${Math.min(state.share, 1) * 100}%`}></span>
    </div>
    <p class="figures">
      <span class="flex items-center gap-2">
        <svg width="20" height="20" viewBox="-10 -10 20 20" aria-hidden="true"
          ><Glyph level={state.level} r={6} /></svg
        >
        {LEVEL[state.level]}: {usedOf(clock)}
      </span>
      <span
        >{clock.left > 0
          ? `${bare(clock.meter, clock.left)} left (${percent(clock.share_left)})`
          : `${percent(state.share)} used`}</span
      >
    </p>
  {/if}
  {#if asks}
    <div
      class="text-base-content border-l-4 border-l-current py-[0.3rem] px-[0.8rem] my-2"
      role="group"
      aria-label="Has something changed at home?"
    >
      <p><b>Has something changed at home?</b> {asks}</p>
      <p class="mt-1 flex flex-wrap gap-2">
        <button
          class="btn btn-sm"
          disabled={house.busy || !session.mayWrite}
          onclick={() => void tellChanged(true)}>Yes: go by what is seen since then</button
        >
        <button
          class="btn btn-sm"
          disabled={house.busy || !session.mayWrite}
          onclick={() => void tellChanged(false)}>No, nothing</button
        >
      </p>
    </div>
  {/if}
  <details {open}>
    <summary class="cursor-pointer py-1 text-(--soft)">Why: {reason(state)}</summary>
    <dl>
      {#each why(state, today) as line (line.label)}
        <dt class="text-(--soft)">{line.label}</dt>
        <dd class="max-sm:mb-[0.4rem]">{line.text}</dd>
      {/each}
    </dl>
  </details>
</article>

<style>
  .clock {
    padding: 0.9rem 1rem;
    border-top: 1px solid var(--color-base-300);
  }
  h3,
  details,
  .figures {
    color: var(--color-base-content);
  }
  h3 {
    font-weight: 700;
  }
  .bar {
    height: 0.8rem;
    margin-block: 0.4rem;
    border: 2px solid currentColor;
    border-radius: 0.4rem;
    background: var(--chamber);
    overflow: hidden;
  }
  .bar span {
    display: block;
    height: 100%;
    background: currentColor;
    transition: width 0.6s ease;
  }
  .figures {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0 1rem;
  }
  dl {
    display: grid;
    grid-template-columns: minmax(7rem, auto) 1fr;
    gap: 0.3rem 1rem;
    padding: 0.4rem 0 0.2rem 1.1rem;
    font-size: 0.95rem;
  }
  @media (max-width: 39.99rem) {
    dl {
      grid-template-columns: 1fr;
      gap: 0;
    }
  }
</style>
