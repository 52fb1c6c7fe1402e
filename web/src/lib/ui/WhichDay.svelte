<!-- The day on which something was done: today, or an earlier one, not before `first`. -->
<script lang="ts">
  import { bounds } from '../api/bounds';
  import { daysBefore } from '../words/format';

  let { day = $bindable(), today, first = '' }: { day: string; today: string; first?: string } = $props();

  const near = $derived(
    (
      [
        ['Today', 0],
        ['Yesterday', 1],
        ['A week ago', 7],
      ] as const
    )
      .map(([text, days]) => ({ text, day: daysBefore(today, days) }))
      .filter((one) => one.day >= first),
  );
</script>

<fieldset>
  <legend class="mb-1 font-bold">When?</legend>
  <div class="flex flex-wrap items-center gap-2">
    {#each near as one (one.text)}
      <button
        type="button"
        class={['btn', day === one.day && 'btn-active']}
        aria-pressed={day === one.day}
        onclick={() => (day = one.day)}>{one.text}</button
      >
    {/each}
    <label class="input w-44"
      ><span class="sr-only">Another day</span><input
        type="date"
        bind:value={day}
        min={first || bounds('LookIn', 'day').min}
        max={today}
        required
      /></label
    >
  </div>
</fieldset>
