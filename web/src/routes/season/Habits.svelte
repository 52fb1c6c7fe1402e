<!-- On which days visits are liked: who has time when, how long, how far they go; from what time, what it is weighed by. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { bounds } from '../../lib/api/bounds';
  import type { Season, SeasonState } from '../../lib/state/season.svelte';
  import { DAYS, WEEK } from '../../lib/state/setup.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import Modal from '../../lib/ui/Modal.svelte';

  let { season, plan, onclose }: { season: Season; plan: SeasonState; onclose: (kept: boolean) => void } =
    $props();

  const SKILL: [Schemas['Skill'], string][] = [
    ['modules', 'what comes out by hand'],
    ['screws', 'what is screwed'],
    ['strip_down', 'into the body'],
  ];
  // svelte-ignore state_referenced_locally
  let edited = $state(structuredClone(season.habits));
  // svelte-ignore state_referenced_locally
  let hour = $state(season.habits.hour_value / 100);
  let at = $state(edited.at.slice(0, 5));
  const fits = $derived(
    edited.hands.every((one) => one.who.trim() && one.weekdays.length && one.minutes >= 5),
  );

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const habits = { ...edited, at, hour_value: Math.round(hour * 100) };
    if (await plan.keepHabits(habits, 'Kept: visits are planned on these days.')) onclose(true);
  }
  const more = () =>
    edited.hands.push({ who: '', weekdays: ['SA'], minutes: 30, skill: edited.hands[0]?.skill ?? 'modules' });
</script>

<Modal title="Days and minutes" onclose={() => onclose(false)}>
  <form class="grid gap-4" onsubmit={(event) => void keep(event)}>
    {#each edited.hands as hands, n (n)}
      <fieldset class="grid gap-2 border-t border-base-300 pt-3">
        <legend class="sr-only">{hands.who || 'Somebody'}</legend>
        <div class="flex items-end gap-2">
          <div class="grow">
            <Field label="Who has time" of="HandsIn" name="who" required bind:value={hands.who} />
          </div>
          {#if edited.hands.length > 1}
            <button type="button" class="btn" onclick={() => edited.hands.splice(n, 1)}>Leave out</button>
          {/if}
        </div>
        <div class="flex flex-wrap gap-2" role="group" aria-label="Days">
          {#each WEEK as key (key)}
            <label class={['btn btn-sm', hands.weekdays.includes(key) && 'btn-active']}
              ><input type="checkbox" class="sr-only" value={key} bind:group={hands.weekdays} />{DAYS[
                key
              ]}</label
            >
          {/each}
        </div>
        <div class="grid grid-cols-2 gap-2">
          <Field
            label="Minutes a day"
            type="number"
            inputmode="numeric"
            of="HandsIn"
            name="minutes"
            required
            bind:value={hands.minutes}
          />
          <label class="grid gap-1"
            >Goes as far as
            <select class="select w-full" bind:value={hands.skill}>
              {#each SKILL as [key, text] (key)}<option value={key}>{text}</option>{/each}
            </select></label
          >
        </div>
      </fieldset>
    {/each}
    {#if edited.hands.length < 8}
      <p><button type="button" class="btn btn-sm" onclick={more}>Somebody else helps</button></p>
    {/if}
    <Field label="A visit begins at" type="time" required bind:value={at} />
    <details>
      <summary class="cursor-pointer">What it is weighed by</summary>
      <div class="mt-2 grid gap-3">
        <Field
          label="Getting ready and tidying up, once a visit (min)"
          type="number"
          of="HabitsIn"
          name="visit_min"
          required
          bind:value={edited.visit_min}
        />
        <Field
          label="A run that a machine misses while a part dries is as bad as (min of work)"
          type="number"
          of="HabitsIn"
          name="wait_min"
          required
          bind:value={edited.wait_min}
        />
        <Field
          label={`What an hour of yours is worth (${season.currency || 'money'})`}
          type="number"
          step="0.5"
          min="0"
          max={Number(bounds('HabitsIn', 'hour_value').max) / 100}
          required
          bind:value={hour}
        />
      </div>
    </details>
    {#if !fits}<p class="ink-due">Everybody needs a name and at least one day.</p>{/if}
    <button class="btn btn-primary" disabled={!fits || plan.planning}
      >{plan.planning ? 'Planning…' : 'Plan with these'}</button
    >
  </form>
</Modal>
