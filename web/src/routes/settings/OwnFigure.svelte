<!-- One's own figure for a task, with the reason; or to do without; or the book's again. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import type { MachineSetup } from '../../lib/state/machineSetup.svelte';
  import Choice from '../../lib/ui/Choice.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { bookFigures } from '../../lib/words/figures';
  import { doWord } from '../../lib/words/tasks';
  import Field from '../../lib/ui/Field.svelte';

  let {
    rule,
    part,
    setup,
    onclose,
  }: {
    rule: Schemas['SetupRuleOut'];
    part: Schemas['SetupPartOut'];
    setup: MachineSetup;
    onclose: () => void;
  } = $props();

  const METERS: readonly [Schemas['Meter'], string][] = [
    ['days', 'days'],
    ['run_hours', 'hours of running'],
    ['runs', 'runs'],
    ['fills', 'full bins'],
    ['washes', 'washes'],
  ];
  // svelte-ignore state_referenced_locally
  const first = rule.book.find((trigger) => METERS.some(([key]) => key === trigger.meter));
  // svelte-ignore state_referenced_locally
  let how = $state<'figure' | 'off' | 'book'>(rule.own_off ? 'off' : 'figure');
  // svelte-ignore state_referenced_locally
  let meter = $state<Schemas['Meter']>(rule.own_meter ?? first?.meter ?? 'days');
  // svelte-ignore state_referenced_locally
  let figure = $state<number | null>(rule.own_figure ?? first?.low ?? 30);
  // svelte-ignore state_referenced_locally
  let why = $state(rule.own_why);
  const options = $derived(
    (
      [
        ['figure', 'a figure of my own'],
        ['off', 'we do without'],
        ['book', 'as the book says'],
      ] as const
    ).filter(([key]) => key !== 'off' || !rule.guarded),
  );

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const about = `${part.name}: ${doWord(rule.action)}`;
    const off = how === 'off';
    const body = { action: rule.action, off, why, meter: null, figure: null };
    const ok =
      how === 'figure'
        ? await setup.figure(part.slot, { ...body, meter, figure }, `${about}: your own figure counts.`)
        : await setup.figure(part.slot, body, `${about}: ${off ? 'left out' : 'as the book says'}.`);
    if (ok) onclose();
  }
</script>

<Modal title={`${part.name}: ${doWord(rule.action)}`} {onclose}>
  <form class="grid gap-4" onsubmit={keep}>
    <p>The book says {bookFigures(rule.book)}. {rule.reason}</p>
    <Choice legend="What counts here?" {options} value={how} onchoose={(value) => (how = value)} />
    {#if how === 'figure'}
      <div class="flex flex-wrap items-end gap-2">
        <Field
          label="every"
          class="input w-28"
          type="number"
          of="FigureIn"
          name="figure"
          bind:value={figure}
          required
        />
        <label
          ><span class="sr-only">Unit</span>
          <select class="select w-44" bind:value={meter}>
            {#each METERS as [key, text] (key)}<option value={key}>{text}</option>{/each}
          </select></label
        >
      </div>
      {#if rule.guarded}
        <p class="soft text-sm">
          It guards you or the motor, so it may be shorter than the book's longest, not longer.
        </p>
      {/if}
    {/if}
    {#if how !== 'book'}
      <Field
        label="Why"
        of="FigureIn"
        name="why"
        bind:value={why}
        required
        placeholder="the manual of this one says so"
      />
    {/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={house.busy}>Keep it</button>
    </div>
  </form>
</Modal>
