<!-- When a new machine usually runs, for how long, and what it means when nobody says anything. -->
<script lang="ts">
  import { bounds } from '../../lib/api/bounds';
  import type { SetUpState } from '../../lib/state/setup.svelte';
  import Choice from '../../lib/ui/Choice.svelte';
  import RunsOn from '../../lib/ui/RunsOn.svelte';

  let { setup }: { setup: SetUpState } = $props();
</script>

<RunsOn
  legend="It usually runs"
  bind:days={setup.days}
  bind:every={setup.every}
  onchange={() => void setup.foresee()}
/>
<div class="flex flex-wrap gap-4">
  <label class="grid gap-1">
    <span class="font-bold">Minutes a run</span>
    <input
      class="input w-28"
      type="number"
      inputmode="numeric"
      step="any"
      {...bounds('WeekIn', 'minutes')}
      value={setup.minutes}
      oninput={(e) => (setup.typedMinutes = e.currentTarget.valueAsNumber)}
      onchange={() => void setup.foresee()}
      required
    />
  </label>
  <label class="grid gap-1">
    <span class="font-bold">Starts at, if it has a time</span>
    <input class="input w-40" type="time" bind:value={setup.starts} />
  </label>
</div>
<Choice
  legend="If nobody says anything, then"
  options={[
    ['ran', 'it ran as usual'],
    ['rested', 'it did not run'],
  ]}
  value={setup.silence}
  small
  onchoose={(value) => (setup.silent = value)}
/>
