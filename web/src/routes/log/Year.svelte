<!-- The last twelve months: minutes at the bench, hours run, parts renewed; and what put faults right. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import Panel from '../../lib/ui/Panel.svelte';
  import { asDay, figure, lazily, minutesWords, plural } from '../../lib/words/format';

  let { year }: { year: Schemas['StatisticsOut'] } = $props();

  const name = lazily(() => new Intl.DateTimeFormat('en-GB', { month: 'short', year: '2-digit' }));
  const months = $derived([...year.months].reverse());
  const most = $derived(Math.max(1, ...year.months.map((one) => one.minutes)));
  const sum = (of: (one: Schemas['MonthOut']) => number) =>
    year.months.reduce((total, one) => total + of(one), 0);
</script>

<Panel title="The last twelve months">
  {#if !year.months.some((one) => one.sittings + one.cleaned + one.renewed + one.run_hours)}
    <p class="soft">Nothing ran and nothing was done yet.</p>
  {:else}
    <p>
      A part was emptied, cleaned or swapped {plural(
        sum((one) => one.cleaned),
        'time',
      )}. Renewed: {plural(
        sum((one) => one.renewed),
        'part',
      )}. Machines ran {figure(sum((one) => one.run_hours))} h.
    </p>
    <p class="soft">
      At the bench: {minutesWords(sum((one) => one.minutes))} in {plural(
        sum((one) => one.sittings),
        'sitting',
      )} with a sheet. What was only tapped as done has no minutes.
    </p>
    <ul class="mt-3 grid gap-1">
      {#each months as one (one.month)}
        <li class="grid grid-cols-[4rem_minmax(0,1fr)_4.5rem] gap-2 items-center">
          <span>{name().format(asDay(one.month))}</span>
          <progress
            class="progress"
            max={most}
            value={one.minutes}
            aria-label={`Minutes at the bench in ${name().format(asDay(one.month))}`}
          ></progress>
          <span class="soft">{one.minutes ? minutesWords(one.minutes) : 'none'}</span>
        </li>
      {/each}
    </ul>
  {/if}
  <h3 class="mt-4 font-bold">What put faults right</h3>
  {#each year.helped as one (one.cause)}
    <p>{one.cause} <span class="soft">{plural(one.times, 'time')}</span></p>
  {:else}
    <p class="soft">No search for a fault has ended yet.</p>
  {/each}
</Panel>
