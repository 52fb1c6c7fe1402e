<!-- A visit to another day: one that suits, one that has a visit already, or any. -->
<script lang="ts">
  import type { Season, Visit } from '../../lib/state/season.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { day, daysAfter, daysBetween, figure } from '../../lib/words/format';
  import { wholeDay } from '../../lib/words/season';

  let {
    season,
    visit,
    latest,
    onclose,
    onput,
  }: {
    season: Season;
    visit: Visit;
    /** The last day of the season. */
    latest: string;
    onclose: () => void;
    onput: (to: string) => void;
  } = $props();

  let other = $state('');
  const NEAR = 9;
  const ISO = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA'];
  const liked = $derived(new Set<string>(season.habits.hands.flatMap((one) => one.weekdays)));
  const near = $derived(
    Array.from({ length: 2 * NEAR + 1 }, (_, n) => daysAfter(visit.date, n - NEAR)).filter(
      (date) =>
        date >= season.today &&
        date !== visit.date &&
        (liked.has(ISO[new Date(`${date}T12:00`).getDay()] ?? '') ||
          Math.abs(daysBetween(visit.date, date)) <= 2),
    ),
  );
  const there = (date: string) => season.visits.find((one) => one.date === date);
</script>

<Modal title={`Move the visit of ${wholeDay(visit.date)}`} {onclose}>
  <div class="grid gap-2">
    {#each near as date (date)}
      {@const with_it = there(date)}
      <button class="btn justify-between" onclick={() => onput(date)}
        ><span>{wholeDay(date)}</span>
        <span class="soft font-normal"
          >{with_it
            ? `together with ${figure(Math.round(with_it.minutes))} min there`
            : liked.has(ISO[new Date(`${date}T12:00`).getDay()] ?? '')
              ? ''
              : 'not one of your days'}</span
        ></button
      >
    {/each}
  </div>
  <form
    class="mt-3 flex flex-wrap items-end gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      onput(other);
    }}
  >
    <label class="grid grow gap-1"
      >Another day
      <input
        class="input w-full"
        type="date"
        min={season.today}
        max={latest}
        required
        bind:value={other}
      /></label
    >
    <button class="btn" disabled={!other || other === visit.date}
      >{other ? `Put it on ${day(other)}` : 'Put it there'}</button
    >
  </form>
</Modal>
