<!-- One tap says that a machine ran; minutes stand as usual and can be changed. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { ago, figure } from '../../lib/words/format';
  import { usualWeek } from '../../lib/words/tasks';

  let { machine, today, mayWrite }: { machine: Schemas['StripOut']; today: string; mayWrite: boolean } =
    $props();

  // svelte-ignore state_referenced_locally
  let minutes = $state(Math.round(machine.usual.minutes));
  let day = $state('');
  let started = $state('');
  let more = $state(false);

  async function ran(event: SubmitEvent) {
    event.preventDefault();
    const run: { minutes: number; day?: string; started?: string } = { minutes };
    if (more && day) run.day = day;
    if (more && started) run.started = started;
    if (await house.logRun(machine, run)) {
      more = false;
      day = started = '';
    }
  }
</script>

<form class="panel grid gap-2 p-3" onsubmit={ran} data-machine={machine.name}>
  <div class="flex items-baseline justify-between gap-2">
    <b>{machine.name}</b>
    <span class="soft text-sm">
      {#if machine.minutes_today > 0}{figure(machine.minutes_today)} min today{:else if machine.last_run}ran {ago(
          machine.last_run,
          today,
        )}{:else}no run yet{/if}
    </span>
  </div>
  <div class="flex gap-2">
    <label class="input w-28 shrink-0">
      <span class="sr-only">Minutes that {machine.name} ran</span>
      <input
        type="number"
        inputmode="numeric"
        step="any"
        bind:value={minutes}
        required
        disabled={!mayWrite}
      />
      <span class="soft">min</span>
    </label>
    <button class="btn btn-primary grow" disabled={house.busy || !mayWrite}>It ran</button>
  </div>
  {#if more}
    <div class="grid grid-cols-2 gap-2">
      <label class="text-sm">Day <input class="input w-full" type="date" bind:value={day} /></label>
      <label class="text-sm"
        >Started, if known <input class="input w-full" type="time" bind:value={started} /></label
      >
    </div>
  {/if}
  <div class="soft flex flex-wrap items-center justify-between gap-x-2 text-sm">
    <span>Usually {usualWeek(machine.usual)}</span>
    <button type="button" class="link" onclick={() => (more = !more)} aria-expanded={more}>
      {more ? 'just today' : 'another day'}
    </button>
  </div>
  {#if machine.empty_slots.length}
    <p class="ink-overdue text-sm font-bold">
      Out of use: {machine.empty_slots.join(', ').toLowerCase()} is out. Do not run it.
    </p>
  {/if}
</form>
