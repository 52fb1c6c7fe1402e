<!-- What is not usual about a machine's runs: other minutes, another day, it did not run, it is paused. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { daysBefore, listed } from '../../lib/words/format';
  import { usualWeek } from '../../lib/words/round';

  let { machine, today, onclose }: { machine: Schemas['StripOut']; today: string; onclose: () => void } =
    $props();

  // svelte-ignore state_referenced_locally
  let minutes = $state(Math.round(machine.usual.minutes));
  let day = $state('');
  let started = $state('');
  // svelte-ignore state_referenced_locally
  let mopped = $state(machine.usual.mops);
  let until = $state('');
  /** A run since a part is out is asked about: it may be back, or dust went further in. */
  let asking = $state(false);
  const out = $derived(listed(machine.empty_slots).toLowerCase());

  function ran(event: SubmitEvent) {
    event.preventDefault();
    if (machine.empty_slots.length && !(day && day < today)) asking = true;
    else void keep();
  }
  async function keep(part_was_out = false) {
    const run: Parameters<typeof house.logRun>[1] = { minutes, part_was_out };
    if (day) run.day = day;
    if (started) run.started = started;
    if (machine.mops) run.mopped = mopped;
    if (await house.logRun(machine, run)) onclose();
  }
  async function restedThisWeek() {
    const text = `${machine.name}: did not run in the last seven days.`;
    const first = daysBefore(today, 6);
    if (await house.rest({ machine_id: machine.id, why: 'did_not_run', first, last: today }, text)) onclose();
  }
  async function pause(event: SubmitEvent) {
    event.preventDefault();
    const rest = { machine_id: machine.id, why: 'paused' as const, first: today, last: until || null };
    if (await house.rest(rest, `${machine.name} is paused.`)) onclose();
  }
</script>

{#if asking}
  <Modal title={`Did it run without the ${out}?`} {onclose}>
    <p>
      By the records the {out} of {machine.name} is out. A run without it lets dust into what lies behind.
    </p>
    <div class="mt-4 grid gap-2">
      <a class="btn btn-primary" href={`#/machines/${machine.id}`}>It is back in: record that first</a>
      <button type="button" class="btn" disabled={house.busy} onclick={() => void keep(true)}
        >It ran without it; look at what lies behind before the next run</button
      >
      <button type="button" class="btn btn-ghost" onclick={onclose}>It did not run</button>
    </div>
  </Modal>
{:else}
  <Modal title={machine.name} {onclose}>
    <p class="soft">
      Usually {usualWeek(machine.usual)}. {machine.usual.silence === 'ran'
        ? 'If nobody says, it ran as usual.'
        : 'If nobody says, it did not run.'}
    </p>
    {#if machine.empty_slots.length}
      <p class="ink-overdue mt-1 font-bold">Out of use: {out} is out. Do not run it.</p>
    {/if}
    <form class="mt-3 grid gap-3" onsubmit={ran}>
      <div class="grid grid-cols-2 gap-2">
        <Field
          label="Minutes"
          type="number"
          inputmode="numeric"
          of="RunIn"
          name="minutes"
          required
          bind:value={minutes}
        />
        <Field label="Day" type="date" of="RunIn" name="day" bind:value={day} />
        <Field label="Started, if known" type="time" bind:value={started} />
        {#if machine.mops}
          <label class="flex items-center gap-2 self-end pb-2"
            ><input type="checkbox" class="checkbox" bind:checked={mopped} />It mopped</label
          >
        {/if}
      </div>
      <button class="btn btn-primary" disabled={house.busy}>It ran</button>
    </form>
    <div class="mt-4 grid gap-3 border-t border-base-300 pt-4">
      <button class="btn" disabled={house.busy} onclick={() => void restedThisWeek()}>
        Not this week: it did not run
      </button>
      <form class="flex flex-wrap items-end gap-2" onsubmit={pause}>
        <div class="grow">
          <Field label="Put away until" type="date" of="RestIn" name="last" min={today} bind:value={until} />
        </div>
        <button class="btn" disabled={house.busy}>Pause it</button>
      </form>
    </div>
  </Modal>
{/if}
