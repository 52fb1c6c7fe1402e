<!-- Visits into a calendar, by a private address or as a file; holidays and a robot's week from one. -->
<script lang="ts">
  import { ask, client, type Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { notice } from '../../lib/state/notice.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Choice from '../../lib/ui/Choice.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { day, fullDay, listed, minutesWords, plural } from '../../lib/words/format';
  import Field from '../../lib/ui/Field.svelte';

  let { season, onclose }: { season: Schemas['SeasonOut']; onclose: (changed: boolean) => void } = $props();

  type Times = Schemas['TimesOut'];
  let feed = $state.raw<Schemas['FeedOut'] | null>(null);
  /** The address, shown once. */
  let address = $state('');
  let how = $state<'timed' | 'all_day'>('timed');
  let alarm = $state<number | null>(60);
  let busy = $state(false);
  let revoking = $state(false);
  const onlyHere = $derived(/\/\/(127\.|localhost|\[::1\])/.test(address));

  void ask(client.GET('/api/season/feed')).then((answer) => {
    if (!answer.ok) return;
    feed = answer.data;
    if (answer.data.made_at)
      [how, alarm] = [answer.data.all_day ? 'all_day' : 'timed', answer.data.alarm_min];
  });
  async function make() {
    busy = true;
    const body = { all_day: how === 'all_day', alarm_min: alarm };
    const answer = await ask(client.POST('/api/season/feed', { body }));
    busy = false;
    if (!answer.ok) return notice.refused(answer.problem);
    [address, feed, revoking] = [answer.data.address, answer.data.feed, false];
  }
  async function revoke() {
    busy = true;
    const answer = await ask(client.DELETE('/api/season/feed'));
    busy = false;
    if (!answer.ok) return notice.refused(answer.problem);
    [address, feed, revoking] = ['', answer.data, false];
  }
  async function copy() {
    await navigator.clipboard?.writeText(address).catch(() => undefined);
  }

  let found = $state.raw<Schemas['FoundOut'] | null>(null);
  /** What is done with each: nothing, away, no visit, or the week of a machine (its id). */
  let taken = $state<string[]>([]);
  async function look(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    if (!file) return;
    const body = await file.arrayBuffer();
    busy = true;
    const request = client.POST('/api/season/import/preview', {
      body: body as never,
      bodySerializer: () => body,
      headers: { 'Content-Type': 'text/calendar' },
    });
    const answer = await ask(request);
    busy = false;
    if (!answer.ok) return notice.refused(answer.problem);
    found = answer.data;
    taken = answer.data.times.map((one) => (one.all_day && one.days.length < 20 ? 'away' : ''));
  }
  const daysOf = (one: Times) => {
    const [first] = one.days;
    if (!first) return '';
    const when = first.first === first.last ? day(first.first) : `${day(first.first)} to ${day(first.last)}`;
    return one.days.length > 1 ? `${plural(one.days.length, 'time')}, first ${when}` : when;
  };
  const timeOf = (one: Times) =>
    one.all_day ? '' : `, ${one.starts?.slice(0, 5) ?? ''}, ${minutesWords(one.minutes ?? 0)}`;
  const nothing = $derived(taken.every((one) => !one));
  async function take() {
    if (!found) return;
    const chosen = (kind: string) =>
      found?.times.flatMap((one, n) =>
        taken[n] === kind ? one.days.map((span) => ({ ...span, note: one.summary })) : [],
      ) ?? [];
    const at = taken.findIndex((one) => one && one !== 'away' && one !== 'no_visit');
    const robot = found.times[at];
    const week =
      robot && taken[at]
        ? {
            machine_id: taken[at],
            days: robot.weekdays as Schemas['WeekIn']['days'] & string[],
            minutes: robot.minutes ?? 30,
            starts: robot.starts,
          }
        : null;
    const body = { away: chosen('away'), no_visit: chosen('no_visit'), week };
    if (
      await house.record(
        client.POST('/api/season/import', { body: body as never }),
        'Taken from the calendar.',
      )
    )
      onclose(true);
  }
</script>

<Modal title="Into my calendar" onclose={() => onclose(false)}>
  <div class="grid gap-4">
    {#if address}
      <div class="grid gap-2">
        <p class="font-bold">This address is shown once. Give it to your calendar as a subscription.</p>
        <p class="flex gap-2">
          <input
            class="input w-full"
            readonly
            aria-label="Address for the calendar"
            value={address}
            onfocus={(event) => event.currentTarget.select()}
          /><button class="btn" onclick={() => void copy()}>Copy</button>
        </p>
        <p class="soft">
          Whoever knows it sees your visits, and nothing else.{onlyHere
            ? ' It works on this computer only: for a phone, open Yperon by its address in your network and make one there.'
            : ''}
        </p>
      </div>
    {:else}
      <p>
        Your visits as a subscription: they move there when they move here.
        {#if feed?.made_at}<span class="soft"
            >An address was made on {fullDay(feed.made_at)}{feed.used_at
              ? `, last used ${fullDay(feed.used_at)}`
              : ', not used yet'}.</span
          >{/if}
      </p>
      <Choice
        legend="Shown"
        options={[
          ['timed', `at ${season.habits.at.slice(0, 5)}`],
          ['all_day', 'all day'],
        ]}
        value={how}
        onchoose={(value) => (how = value)}
      />
      <Field
        label={`Alarm, minutes before (empty: none)${how === 'all_day' ? '; all day it rings at 9:00' : ''}`}
        type="number"
        of="FeedIn"
        name="alarm_min"
        bind:value={
          () => alarm ?? '', (value) => (alarm = value === '' || value === null ? null : Number(value))
        }
      />
      <p class="flex flex-wrap gap-2">
        {#if revoking}
          <button class="btn btn-primary" disabled={busy} onclick={() => void revoke()}
            >Yes, close the address</button
          >
          <button class="btn btn-ghost" onclick={() => (revoking = false)}>Keep it</button>
        {:else}
          <button class="btn btn-primary" disabled={busy} onclick={() => void make()}
            >{feed?.made_at ? 'A new address; the old one ends' : 'Make a private address'}</button
          >
          {#if feed?.made_at}<button class="btn" disabled={busy} onclick={() => (revoking = true)}
              >Close the address</button
            >{/if}
        {/if}
        <a class="btn" href={`/api/season.ics?all_day=${how === 'all_day'}`} download>As a file</a>
      </p>
    {/if}
    {#if session.mayWrite}
      <section class="grid gap-2 border-t border-base-300 pt-3" aria-label="From a calendar">
        <h3 class="font-bold">From a calendar</h3>
        <label class="grid gap-1"
          >Holidays or a robot’s schedule, as an .ics file
          <input
            class="file-input w-full"
            type="file"
            accept=".ics,text/calendar"
            onchange={(event) => void look(event)}
          /></label
        >
        {#if found}
          {#if !found.times.length}<p>Nothing in it lies in the coming half year.</p>{/if}
          {#each found.times as one, n (n)}
            <div class="grid gap-1 border-t border-base-300 pt-2">
              <p><b>{one.summary}</b> <span class="soft">{daysOf(one)}{timeOf(one)}</span></p>
              <select class="select w-full" aria-label={`What ${one.summary} is`} bind:value={taken[n]}>
                <option value="">leave out</option>
                <option value="away">everybody is away: machines rest</option>
                <option value="no_visit">no visit on these days</option>
                {#if !one.all_day}
                  {#each season.machines as machine (machine.id)}
                    <option value={machine.id}>{machine.name} runs then: {listed(one.weekdays)}</option>
                  {/each}
                {/if}
              </select>
            </div>
          {/each}
          {#if found.left_out}<p class="soft">
              {plural(found.left_out, 'entry', 'entries')} could not be read.
            </p>{/if}
          {#if found.times.length}
            <button class="btn" disabled={nothing || house.busy} onclick={() => void take()}
              >Take these</button
            >
          {/if}
        {/if}
      </section>
    {/if}
  </div>
</Modal>
