<!-- Measure one thing on a part: how, the figure, and on which day. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { bounds } from '../../lib/api/bounds';
  import { session } from '../../lib/state/session.svelte';
  import type { Gauge, Part, WearState } from '../../lib/state/wear.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import WhichDay from '../../lib/ui/WhichDay.svelte';
  import { measured } from '../../lib/words/wear';

  let {
    wear,
    part,
    gauge,
    today,
    onclose,
  }: { wear: WearState; part: Part; gauge: Gauge; today: string; onclose: () => void } = $props();

  let value = $state<number | null>(null);
  let day = $state(untrack(() => today));
  let unit = $state(untrack(() => (session.us ? gauge.units.at(-1) : gauge.units[0]) ?? ''));

  async function note(event: SubmitEvent) {
    event.preventDefault();
    if (value !== null && (await wear.measure(part, gauge, value, unit, day))) onclose();
  }
</script>

<Modal title={`${part.name}: ${gauge.name.toLowerCase()}`} {onclose}>
  <form onsubmit={note} class="grid gap-4">
    <p>{gauge.how}</p>
    <p class="soft">
      {gauge.why}{gauge.limit === null ? '' : ` The end: ${measured(gauge.limit, gauge.scale, session.us)}.`}
    </p>
    {#if gauge.scale === 'yes_no'}
      <div class="flex gap-2" role="group" aria-label={gauge.name}>
        {#each [{ says: 0, text: 'No, it is whole' }, { says: 1, text: 'Yes' }] as one (one.says)}
          <button
            type="button"
            class={['btn btn-lg', value === one.says && 'btn-active']}
            aria-pressed={value === one.says}
            onclick={() => (value = one.says)}>{one.text}</button
          >
        {/each}
      </div>
    {:else}
      <div class="flex flex-wrap items-end gap-2">
        <label class="grid gap-1"
          >Figure{gauge.scale === 'count' ? '' : ` in ${unit === 'in' ? 'inches' : unit}`}
          <input
            class="input w-40"
            type="number"
            step={gauge.scale === 'count' ? 1 : 'any'}
            {...bounds('MeasureIn', 'value')}
            bind:value
            required
          /></label
        >
        {#if gauge.units.length > 1}
          <div class="flex gap-2" role="group" aria-label="Unit">
            {#each gauge.units as one (one)}
              <button
                type="button"
                class={['btn', unit === one && 'btn-active']}
                aria-pressed={unit === one}
                onclick={() => (unit = one)}>{one}</button
              >
            {/each}
          </div>
        {/if}
      </div>
      {#if unit === 'in'}<p class="soft">A sixteenth of an inch is 0.06.</p>{/if}
    {/if}
    <WhichDay bind:day {today} />
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={wear.busy || value === null}>Note it</button>
    </div>
  </form>
</Modal>
