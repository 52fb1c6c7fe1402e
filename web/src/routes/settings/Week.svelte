<!-- The usual week from now on, and what silence means. -->
<script lang="ts">
  import { bounds } from '../../lib/api/bounds';
  import type { Schemas } from '../../lib/api/client';
  import { client } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { WEEK } from '../../lib/state/setup.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import RunsOn from '../../lib/ui/RunsOn.svelte';
  import { usualWeek } from '../../lib/words/tasks';

  let { strip, mayWrite }: { strip: Schemas['StripOut']; mayWrite: boolean } = $props();

  let open = $state(false);
  let days = $state<Schemas['WeekIn']['days']>([]);
  let minutes = $state(0);
  let starts = $state('');
  let mops = $state(false);
  let silence = $state<Schemas['Silence']>('ran');
  let every = $state<number | null>(null);
  let comesHome = $state<number | null>(null);

  function edit() {
    const told = /BYDAY=([A-Z,]+)/.exec(strip.usual.rule ?? '')?.[1]?.split(',') ?? [];
    days = WEEK.filter((day) => told.includes(day));
    [minutes, starts] = [strip.usual.minutes, strip.usual.starts?.slice(0, 5) ?? ''];
    every = strip.usual.every;
    [mops, silence, comesHome] = [strip.usual.mops, strip.usual.silence, strip.usual.return_min];
    open = true;
  }
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const runs = every === null ? { days } : { days: [], every };
    const body = { ...runs, minutes, starts: starts || null, mops, silence, return_min: comesHome || null };
    const request = client.POST('/api/machines/{machine_id}/week', {
      params: { path: { machine_id: strip.id } },
      body,
    });
    if (await house.record(request, `${strip.name}: another usual week from today.`)) open = false;
  }
</script>

<p>
  <b>Usual week:</b>
  {usualWeek(strip.usual)}; if nobody says, it {strip.usual.silence === 'ran'
    ? 'ran as usual'
    : 'did not run'}.
  <button class="btn btn-sm ml-2" disabled={!mayWrite} onclick={edit}>Change…</button>
</p>
{#if open}
  <Modal title={`${strip.name}: its usual week`} onclose={() => (open = false)}>
    <form class="grid gap-4" onsubmit={keep}>
      <RunsOn legend="It runs" bind:days bind:every />
      <div class="grid grid-cols-2 gap-3">
        <label class="grid gap-1"
          >Minutes a run <input
            class="input w-full"
            type="number"
            step="any"
            {...bounds('WeekIn', 'minutes')}
            bind:value={minutes}
            required
          /></label
        >
        <label class="grid gap-1"
          >Starts at, if it does <input class="input w-full" type="time" bind:value={starts} /></label
        >
      </div>
      {#if strip.usual.emptied_at_home}
        <label class="grid gap-1"
          >Comes home to be emptied after so many minutes; nothing if only at its end
          <input
            class="input w-full"
            type="number"
            step="any"
            {...bounds('WeekIn', 'return_min')}
            bind:value={comesHome}
          /></label
        >
      {/if}
      {#if strip.mops}
        <label class="flex items-center gap-2"
          ><input type="checkbox" class="checkbox" bind:checked={mops} />Its runs mop</label
        >
      {/if}
      <fieldset class="grid gap-1">
        <legend class="mb-1 font-bold">If nobody says anything</legend>
        <label class="flex items-center gap-2"
          ><input type="radio" class="radio" value="ran" bind:group={silence} />it ran as usual</label
        >
        <label class="flex items-center gap-2"
          ><input type="radio" class="radio" value="rested" bind:group={silence} />it did not run</label
        >
      </fieldset>
      <div class="flex justify-end gap-2">
        <button type="button" class="btn btn-ghost" onclick={() => (open = false)}>Cancel</button>
        <button class="btn btn-primary" disabled={house.busy}>From today on</button>
      </div>
    </form>
  </Modal>
{/if}
