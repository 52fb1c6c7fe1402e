<!-- The household's answers, each with what it changes: who lives here, floors, dust, how far you go, where parts dry. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { bounds } from '../lib/api/bounds';
  import type { Schemas } from '../lib/api/client';
  import { house } from '../lib/state/house.svelte';
  import { HouseholdState } from '../lib/state/household.svelte';
  import { session } from '../lib/state/session.svelte';
  import Choice from '../lib/ui/Choice.svelte';
  import Stepper from '../lib/ui/Stepper.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { effectWords, nothingChanges } from '../lib/words/effects';
  import { percent } from '../lib/words/format';
  import { SCHOOL } from '../lib/words/tasks';
  import Places from './household/Places.svelte';
  import Tools from './household/Tools.svelte';
  import Versions from './household/Versions.svelte';

  const answers = new HouseholdState();
  $effect(() => {
    const us = session.us;
    untrack(() => void answers.refresh(us));
  });

  const draft = $derived(answers.draft);
  const mayWrite = $derived(session.mayWrite);
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
  const SKILLS = [
    ['modules', 'clean and swap what comes out by hand'],
    ['screws', 'undo screws, too'],
    ['strip_down', 'open the body, short of the motor'],
  ] as const;
  const SCHOOLS: readonly [Schemas['School'], string, string][] = [
    ['label', SCHOOL.label ?? '', 'What is printed, at its shortest; water only. Keeps the guarantee.'],
    [
      'workshop',
      SCHOOL.workshop ?? '',
      'A repairer’s habits: your household places the range, look and feel decide.',
    ],
    [
      'thrifty',
      SCHOOL.thrifty ?? '',
      'Clean more, replace by condition only, other makers’ spares after a fit check.',
    ],
  ];

  const effectOf = (key: string) => answers.preview?.answers.find((one) => one.answer === key) ?? null;
  function toggle<T>(list: T[], one: T): T[] {
    return list.includes(one) ? list.filter((each) => each !== one) : [...list, one];
  }
  function inOther(): number {
    const typed = draft?.area ?? 0;
    return Math.round(session.us ? typed * 10.7639 : typed * 0.092903);
  }
</script>

<svelte:head><title>Household · Yperon</title></svelte:head>

{#snippet changes(key: string)}
  {@const found = effectOf(key)}
  {#if found}<p class="changes">{effectWords(found) || nothingChanges(draft?.school ?? 'label')}</p>{/if}
{/snippet}

{#if answers.load.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={answers.load.problem} retry={() => void answers.refresh(session.us)} />
  </div>
{:else if !draft || answers.load.status === 'pending'}
  <Waiting what="Opening your answers" />
{:else}
  <div class="page">
    <header>
      <h1>{session.member?.household}</h1>
      <p class="soft mt-1 max-w-3xl">
        What your home asks of its machines. Each answer says what it changes; yesterday stays explained by
        yesterday's answers.
      </p>
    </header>
    <form class="answers" onsubmit={(e) => (e.preventDefault(), void answers.save())}>
      <section class="panel" aria-label="Hair and volume">
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
                class={['btn btn-sm', draft.dust.includes(key) && 'btn-primary']}
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
          A time of moulting, a visit, building work for a while: say so on Round, under “Away, or a busy
          time”.
        </p>
      </section>

      <section class="panel grid gap-4 p-4" aria-label="How you do it">
        <fieldset>
          <legend class="mb-1 font-bold">Schools differ. Which one is yours?</legend>
          <div class="grid gap-2 lg:grid-cols-3">
            {#each SCHOOLS as [key, name, text] (key)}
              <button
                type="button"
                class={['school', draft.school === key && 'chosen']}
                aria-pressed={draft.school === key}
                disabled={!mayWrite}
                onclick={() => void answers.change({ school: key })}><b>{name}</b><span>{text}</span></button
              >
            {/each}
          </div>
          <p class="soft mt-1 text-sm">
            A machine, or one part of it, can be kept otherwise on its own page. No school stretches what
            guards you or a motor.
          </p>
        </fieldset>
        <div>
          <Choice
            legend="How far do you go into a machine?"
            options={SKILLS}
            value={draft.skill}
            small
            disabled={!mayWrite}
            onchoose={(skill) => void answers.change({ skill })}
          />
          <p class="soft mt-1 text-sm">
            What goes further is handed over: a sheet then says so in place of the steps. Motor, mains and
            battery packs are never yours to open.
          </p>
        </div>
        <Tools
          known={answers.load.data.tools}
          owned={draft.tools}
          {mayWrite}
          onchange={(tools) => void answers.change({ tools })}
        />
      </section>

      <Places {answers} {mayWrite} />

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

    <section class="panel grid gap-3 p-4" aria-label="Units">
      <Choice
        legend="Units, for you on every device"
        options={[
          ['metric', 'metric: m², °C, mm'],
          ['us', 'US: sq ft, °F, inches'],
        ]}
        value={session.us ? 'us' : 'metric'}
        small
        onchoose={(units) => void session.chooseUnits(units)}
      />
    </section>
    <Versions versions={answers.load.data.versions} />
    <p class="mt-4">
      <a class="link" href="#/labels">Labels to print</a> for machines and for parts that take turns: scanned, each
      opens its page.
    </p>
  </div>
{/if}

<style>
  .page {
    display: grid;
    gap: 1.25rem;
    max-width: 68rem;
    margin-inline: auto;
    padding: 1.25rem clamp(1rem, 2.5vw, 1.75rem) 6rem;
  }
  .answers {
    display: grid;
    gap: 1.25rem;
  }
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
  .school {
    display: grid;
    gap: 0.15rem;
    align-content: start;
    padding: 0.6rem 0.8rem;
    text-align: left;
    cursor: pointer;
    border: 1.5px solid color-mix(in oklab, var(--color-base-content) 45%, transparent);
    border-radius: var(--radius-box);
  }
  .school span {
    font-size: 0.9rem;
  }
  .school.chosen {
    background: var(--color-primary);
    color: var(--color-primary-content);
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
  @media (max-width: 859px) {
    .line {
      grid-template-columns: minmax(0, 1fr) auto;
    }
    .line .changes {
      grid-column: 1 / -1;
    }
  }
  @media (max-width: 859px) {
    .line.wide .changes {
      grid-column: 1 / -1;
    }
  }
  @media (max-width: 639px) {
    .line,
    .line.wide {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
