<!-- Who lives here, how large it is, what brings dust: each answer says what it changes. -->
<script lang="ts">
  import { bounds } from '../../lib/api/bounds';
  import type { Schemas } from '../../lib/api/client';
  import type { Draft, HouseholdState } from '../../lib/state/household.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Stepper from '../../lib/ui/Stepper.svelte';
  import { effectWords, nothingChanges } from '../../lib/words/effects';
  import { areaMeant, percent } from '../../lib/words/format';

  let { answers, draft, mayWrite }: { answers: HouseholdState; draft: Draft; mayWrite: boolean } = $props();

  const problem = $derived(answers.problem);
  const other = $derived(session.us ? 'm²' : 'sq ft');
  const unit = $derived(session.us ? 'sq ft' : 'm²');

  const COUNTS = [
    { key: 'long_haired', text: 'People with long hair' },
    { key: 'animals', text: 'Animals that shed' },
    { key: 'children', text: 'Children' },
  ] as const;
  const DUST: readonly [Schemas['DustSource'], string][] = [
    ['workshop', 'a workshop, paper or wood dust'],
    ['building', 'building work'],
    ['soil', 'a farm or clay soil'],
    ['smoking', 'smoking'],
  ];
  const effectOf = (key: string) => answers.preview?.answers.find((one) => one.answer === key) ?? null;
  function toggle<T>(list: T[], one: T): T[] {
    return list.includes(one) ? list.filter((each) => each !== one) : [...list, one];
  }
  function inOther(): number {
    return areaMeant(draft.area, session.us);
  }
</script>

{#snippet changes(key: string)}
  {@const found = effectOf(key)}
  {#if found}<p class="changes">{effectWords(found) || nothingChanges(draft.school)}</p>{/if}
{/snippet}

<section class="panel" aria-label="Hair and volume">
  <h2 class="px-4 pt-4">Who lives here, and how large it is</h2>
  {#each COUNTS as { key, text } (key)}
    <div class="line">
      <span class="what">{text}</span>
      <Stepper
        label={text}
        value={draft[key]}
        most={Number(bounds('AnswersIn', key).max)}
        disabled={!mayWrite}
        onchange={(value) => void answers.change({ [key]: value })}
      />
      {@render changes(key)}
    </div>
  {/each}
  <div class="line">
    <label class="what" for="area">Floor that is vacuumed</label>
    <label class="input w-36"
      ><input
        id="area"
        type="number"
        step="any"
        inputmode="numeric"
        value={draft.area}
        disabled={!mayWrite}
        onchange={(e) => void answers.change({ area: e.currentTarget.valueAsNumber || 0 })}
      /><span class="soft">{unit}</span></label
    >
    {#if problem?.values.unit_check}
      <div class="changes" role="alert">
        <p class="ink-due font-bold">
          {draft.area}
          {unit} is unusual for a home. Did you mean {draft.area}
          {other}?
        </p>
        <div class="mt-1 flex flex-wrap gap-2">
          <button type="button" class="btn btn-sm" onclick={() => void answers.meant(inOther())}
            >Yes: {draft.area} {other}, which is {inOther()} {unit}</button
          >
          <button type="button" class="btn btn-sm" onclick={() => void answers.meant(null)}
            >No, {draft.area} {unit}</button
          >
        </div>
      </div>
    {:else}{@render changes('area_m2')}{/if}
  </div>
  <div class="line">
    <label class="what" for="carpet">Share of it that is carpet</label>
    <span class="flex items-center gap-3"
      ><input
        id="carpet"
        class="range range-sm w-40"
        type="range"
        min="0"
        max="100"
        step="10"
        value={draft.carpet * 100}
        disabled={!mayWrite}
        aria-valuetext={percent(draft.carpet)}
        onchange={(e) => void answers.change({ carpet: e.currentTarget.valueAsNumber / 100 })}
      /><b>{percent(draft.carpet)}</b></span
    >
    {@render changes('carpet')}
  </div>
  <div class="line wide">
    <span class="what">What brings fine dust</span>
    <span class="flex flex-wrap gap-2">
      {#each DUST as [key, text] (key)}
        <button
          type="button"
          class={['btn btn-sm', draft.dust.includes(key) && 'btn-active']}
          aria-pressed={draft.dust.includes(key)}
          disabled={!mayWrite}
          onclick={() => void answers.change({ dust: toggle(draft.dust, key) })}>{text}</button
        >
      {/each}
    </span>
    {@render changes('dust')}
  </div>
  <div class="line">
    <span class="what">Somebody with an allergy or asthma</span>
    <label class="flex items-center gap-2"
      ><input
        type="checkbox"
        class="toggle"
        checked={draft.allergy}
        disabled={!mayWrite}
        aria-label="Somebody with an allergy or asthma"
        onchange={(e) => void answers.change({ allergy: e.currentTarget.checked })}
      />{draft.allergy ? 'yes' : 'no'}</label
    >
    <p class="changes">
      {draft.allergy
        ? 'Dusty steps say who should not do them, and keep the dust shut in. What you washed unmarked, at your own risk, stays dry again where fine dust could get through.'
        : 'Dusty steps carry the usual caution.'}
    </p>
  </div>
  <p class="soft p-4 pt-2 text-sm">
    A time of moulting, a visit, building work for a while: say so on Round, under “Away, or a busy time”.
  </p>
</section>

<style>
  .line {
    display: grid;
    grid-template-columns: 15rem auto minmax(0, 1fr);
    align-items: center;
    gap: 0.4rem 1.25rem;
    padding: 0.6rem 1rem;
    border-top: 1px solid var(--color-base-300);
  }
  .line:first-child {
    border-top: none;
  }
  .line.wide {
    grid-template-columns: 15rem minmax(0, 1fr);
  }
  .line.wide .changes {
    grid-column: 2;
  }
  .what {
    font-weight: 700;
  }
  .changes {
    color: var(--soft);
    font-size: 0.95rem;
  }
  @media (max-width: 53.99rem) {
    .line {
      grid-template-columns: minmax(0, 1fr) auto;
    }
    .line .changes {
      grid-column: 1 / -1;
    }
  }
  @media (max-width: 53.99rem) {
    .line.wide .changes {
      grid-column: 1 / -1;
    }
  }
  @media (max-width: 39.99rem) {
    .line,
    .line.wide {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
