<!-- The usual week from now on, and what silence means. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { client } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { WEEK } from '../../lib/state/setup.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import RunsOn from '../../lib/ui/RunsOn.svelte';
  import { daysAfter, minutesWords, plural } from '../../lib/words/format';
  import { usualWeek } from '../../lib/words/round';
  import Field from '../../lib/ui/Field.svelte';

  let { strip, mayWrite }: { strip: Schemas['StripOut']; mayWrite: boolean } = $props();

  let open = $state(false);
  let days = $state<Schemas['WeekIn']['days']>([]);
  let minutes = $state(0);
  let starts = $state('');
  let mops = $state(false);
  let silence = $state<Schemas['Silence']>('ran');
  let every = $state<number | null>(null);
  let comesHome = $state<number | null>(null);
  let quietFrom = $state('');
  let quietUntil = $state('');
  let dries = $state<number | null>(null);

  function edit() {
    const chosen = /BYDAY=([A-Z,]+)/.exec(strip.usual.rule ?? '')?.[1]?.split(',') ?? [];
    days = WEEK.filter((day) => chosen.includes(day));
    [minutes, starts] = [strip.usual.minutes, strip.usual.starts?.slice(0, 5) ?? ''];
    every = strip.usual.every;
    [mops, silence, comesHome] = [strip.usual.mops, strip.usual.silence, strip.usual.return_min];
    [quietFrom, quietUntil] = [
      strip.usual.quiet_from?.slice(0, 5) ?? '',
      strip.usual.quiet_until?.slice(0, 5) ?? '',
    ];
    dries = strip.usual.dry_h;
    open = true;
  }
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const runs = every === null ? { days } : { days: [], every };
    const dock = {
      return_min: comesHome || null,
      quiet_from: quietFrom || null,
      quiet_until: quietUntil || null,
      dry_h: dries || null,
    };
    const longer = (dries ?? 0) > (strip.usual.dry_h ?? 0) && strip.usual.mops_dried;
    const body = { ...runs, minutes, starts: starts || null, mops, silence, ...dock };
    const request = client.POST('/api/machines/{machine_id}/week', {
      params: { path: { machine_id: strip.id } },
      body,
    });
    if (!(await house.record(request, `${strip.name}: another usual week from today.`))) return;
    open = false;
    const today = house.round.status === 'ok' ? house.round.data.today : null;
    if (!longer || !today) return;
    const text = `${strip.name}: are the mops dry, now that the dock dries them for ${dries} h? Still damp: one hour more, up to its own limit.`;
    await house.remind(
      strip.id,
      text,
      daysAfter(today, 1),
      'Kept. Tomorrow Round asks whether the mops are dry.',
    );
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
        <Field label="Minutes a run" type="number" of="WeekIn" name="minutes" bind:value={minutes} required />
        <Field label="Starts at, if it does" type="time" bind:value={starts} />
      </div>
      {#if strip.usual.by_area_min}
        <p class="soft text-sm">
          Your floor takes it about {minutesWords(strip.usual.by_area_min)} in one go, at a usual pace.
          <button
            type="button"
            class="link"
            onclick={() => (minutes = Math.min(strip.usual.by_area_min ?? minutes, 600))}>Take that</button
          >
        </p>
      {/if}
      {#if strip.usual.emptied_at_home}
        <Field
          label="Comes home to be emptied after so many minutes; nothing if only at its end"
          type="number"
          of="WeekIn"
          name="return_min"
          bind:value={comesHome}
        />
        {#if comesHome}
          <p class="soft text-sm">
            A run of {minutes} min is emptied {plural(Math.ceil(minutes / comesHome), 'time')}; against a bin
            that packs with hair every 30 minutes is usual.
          </p>
        {/if}
        <div class="grid grid-cols-2 items-end gap-3">
          <Field label="Not emptied from, if it has quiet hours" type="time" bind:value={quietFrom} />
          <Field label="until" type="time" bind:value={quietUntil} />
        </div>
      {/if}
      {#if strip.usual.mops_dried}
        <Field
          label="The dock dries the mops for so many hours, if you know"
          type="number"
          step="0.5"
          of="WeekIn"
          name="dry_h"
          bind:value={dries}
        />
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
