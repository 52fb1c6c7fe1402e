<!-- By which school a household keeps its machines, how far it goes into them, and the tools it has. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import type { Draft, HouseholdState } from '../../lib/state/household.svelte';
  import Choice from '../../lib/ui/Choice.svelte';
  import { SCHOOL } from '../../lib/words/tasks';
  import Tools from './Tools.svelte';

  let {
    answers,
    draft,
    tools,
    mayWrite,
  }: {
    answers: HouseholdState;
    draft: Draft;
    tools: Schemas['HouseholdOut']['tools'];
    mayWrite: boolean;
  } = $props();

  const SKILLS = [
    ['modules', 'clean and swap what comes out by hand'],
    ['screws', 'undo screws, too'],
    ['strip_down', 'open the body, short of the motor'],
  ] as const;
  const SCHOOLS: readonly [Schemas['School'], string, string][] = [
    ['label', SCHOOL.label, 'What is printed, at its shortest; water only. Keeps the guarantee.'],
    [
      'workshop',
      SCHOOL.workshop,
      'A repairer’s habits: your household places the range, look and feel decide.',
    ],
    [
      'thrifty',
      SCHOOL.thrifty,
      'Clean more, replace by condition only, other makers’ spares after a fit check.',
    ],
  ];
</script>

<section class="panel grid gap-4 p-4" aria-label="How you do it">
  <h2>How you do it</h2>
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
      A machine, or one part of it, can be kept otherwise on its own page. No school stretches what guards you
      or a motor.
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
      What goes further is handed over: a sheet then says so in place of the steps. Motor, mains and battery
      packs are never yours to open.
    </p>
  </div>
  <Tools known={tools} owned={draft.tools} {mayWrite} onchange={(tools) => void answers.change({ tools })} />
</section>

<style>
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
    background: color-mix(in oklab, var(--color-base-content) 16%, var(--color-base-100));
    border-color: var(--color-base-content);
    box-shadow: inset 0 0 0 1px var(--color-base-content);
  }
</style>
