<!-- One tap says that a machine ran; minutes stand as usual and can be changed. What is not usual is behind "more". -->
<script lang="ts">
  import { bounds } from '../../lib/api/bounds';
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { ago, daysBefore, figure, listed, restWords } from '../../lib/words/format';
  import { usualWeek } from '../../lib/words/round';

  let { machine, today, mayWrite }: { machine: Schemas['StripOut']; today: string; mayWrite: boolean } =
    $props();

  // svelte-ignore state_referenced_locally
  let minutes = $state(Math.round(machine.usual.minutes));
  let day = $state('');
  let started = $state('');
  let more = $state(false);
  // svelte-ignore state_referenced_locally
  let mopped = $state(machine.usual.mops);
  let until = $state('');

  let asking = $state(false);
  const out = $derived(listed(machine.empty_slots).toLowerCase());

  function ran(event: SubmitEvent) {
    event.preventDefault();
    if (machine.empty_slots.length && !(more && day && day < today)) asking = true;
    else void keep();
  }
  async function keep(part_was_out = false) {
    asking = false;
    const run: Parameters<typeof house.logRun>[1] = { minutes, part_was_out };
    if (more && day) run.day = day;
    if (more && started) run.started = started;
    if (machine.mops) run.mopped = mopped;
    if (await house.logRun(machine, run)) {
      more = false;
      day = started = '';
    }
  }
  async function restedThisWeek() {
    const text = `${machine.name}: did not run in the last seven days.`;
    const rest = {
      machine_id: machine.id,
      why: 'did_not_run' as const,
      first: daysBefore(today, 6),
      last: today,
    };
    if (await house.rest(rest, text)) more = false;
  }
  async function pause(event: SubmitEvent) {
    event.preventDefault();
    const rest = { machine_id: machine.id, why: 'paused' as const, first: today, last: until || null };
    if (await house.rest(rest, `${machine.name} is paused.`)) more = false;
  }
  /** Ends a pause, or everybody's being away, today: what was planned from here on counts again. */
  async function back() {
    const away = machine.resting?.why === 'away';
    const rest = {
      machine_id: away ? null : machine.id,
      why: 'back' as const,
      first: today,
      last: today,
    };
    await house.rest(rest, away ? 'Everybody is back.' : `${machine.name} is back in use.`);
  }
  const status = $derived(
    machine.minutes_today > 0
      ? `${figure(machine.minutes_today)} min today`
      : machine.last_run
        ? `ran ${ago(machine.last_run, today)}${machine.last_is_assumed ? ', as usual' : ''}`
        : 'no run yet',
  );
</script>

<form class="panel p-2 pl-3" onsubmit={ran} data-machine={machine.name}>
  <div class="flex items-baseline justify-between gap-2">
    <b>{machine.name}</b>
    <span class="soft text-sm">{status}</span>
  </div>
  <div class="mt-1 flex gap-2">
    <label class="input w-24 shrink-0">
      <span class="sr-only">Minutes that {machine.name} ran</span>
      <input
        type="number"
        inputmode="numeric"
        step="any"
        {...bounds('RunIn', 'minutes')}
        bind:value={minutes}
        required
        disabled={!mayWrite}
      />
      <span class="soft">min</span>
    </label>
    <button class="btn btn-primary grow" disabled={house.busy || !mayWrite}>It ran</button>
    <button
      type="button"
      class="btn"
      disabled={!mayWrite}
      aria-label={`more… about ${machine.name}`}
      onclick={() => (more = true)}>more…</button
    >
  </div>
  {#if machine.resting}
    <p class="mt-1 flex flex-wrap items-center justify-between gap-2 text-sm">
      <span class="soft">{restWords(machine.resting)}</span>
      {#if machine.resting.why !== 'did_not_run' && machine.resting.first <= today}
        <button
          type="button"
          class="btn btn-sm"
          disabled={house.busy || !mayWrite}
          onclick={() => void back()}>Back in use</button
        >
      {/if}
    </p>
  {/if}
  {#if machine.empty_slots.length}
    <p class="ink-overdue mt-1 text-sm font-bold">
      Out of use: {machine.empty_slots.join(', ').toLowerCase()} is out. Do not run it.
    </p>
  {/if}
</form>

{#if asking}
  <Modal title={`Did it run without the ${out}?`} onclose={() => (asking = false)}>
    <p>
      By the records the {out} of {machine.name} is out. A run without it lets dust into what lies behind.
    </p>
    <div class="mt-4 grid gap-2">
      <a class="btn btn-primary" href={`#/machines/${machine.id}`}>It is back in: record that first</a>
      <button type="button" class="btn" disabled={house.busy} onclick={() => void keep(true)}
        >It ran without it; look at what lies behind before the next run</button
      >
      <button type="button" class="btn btn-ghost" onclick={() => (asking = false)}>It did not run</button>
    </div>
  </Modal>
{/if}

{#if more}
  <Modal title={machine.name} onclose={() => (more = false)}>
    <p class="soft">
      Usually {usualWeek(machine.usual)}. {machine.usual.silence === 'ran'
        ? 'If nobody says, it ran as usual.'
        : 'If nobody says, it did not run.'}
    </p>
    <form class="mt-3 grid gap-3" onsubmit={ran}>
      <div class="grid grid-cols-2 gap-2">
        <label class="text-sm"
          >Minutes <input
            class="input w-full"
            type="number"
            step="any"
            {...bounds('RunIn', 'minutes')}
            bind:value={minutes}
            required
          /></label
        >
        <label class="text-sm"
          >Day <input class="input w-full" type="date" {...bounds('RunIn', 'day')} bind:value={day} /></label
        >
        <label class="text-sm"
          >Started, if known <input class="input w-full" type="time" bind:value={started} /></label
        >
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
        <label class="grow text-sm"
          >Put away until <input
            class="input w-full"
            type="date"
            {...bounds('RestIn', 'last')}
            min={today}
            bind:value={until}
          /></label
        >
        <button class="btn" disabled={house.busy}>Pause it</button>
      </form>
    </div>
  </Modal>
{/if}
