<!-- Where washed parts dry, and how fast: the climate of each place. -->
<script lang="ts">
  import type { HouseholdState, Place } from '../../lib/state/household.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { degreesIn, figure } from '../../lib/words/format';

  let { answers, mayWrite }: { answers: HouseholdState; mayWrite: boolean } = $props();

  const places = $derived(answers.draft?.places ?? []);
  const climate = (name: string) => answers.preview?.climates.find((one) => one.name === name.trim()) ?? null;

  function set(i: number, some: Partial<Place>) {
    void answers.change({ places: places.map((place, n) => (n === i ? { ...place, ...some } : place)) });
  }
  function add() {
    const name = places.length ? `Place ${places.length + 1}` : 'Drying place';
    void answers.change({ places: [...places, { name, temp: degreesIn(20, session.us), rh_pct: 50 }] });
  }
  function speed(factor: number): string {
    if (factor > 1.05) return `takes ${figure(factor)} times as long as in a room of usual air`;
    return factor < 0.95
      ? `dries in ${figure(factor)} of the usual time`
      : 'dries as fast as a room of usual air';
  }
</script>

<section class="panel p-4" aria-label="Drying places">
  <div class="flex flex-wrap items-baseline justify-between gap-2">
    <h2 class="font-bold">Where parts dry</h2>
    <button type="button" class="btn btn-sm" disabled={!mayWrite} onclick={add}>Add a place</button>
  </div>
  {#if places.length === 0}
    <p class="soft mt-1">None yet: drying is taken for a room at 20 °C and 50 % humidity (68 °F).</p>
  {/if}
  {#each places as place, i (i)}
    {@const air = climate(place.name)}
    <div class="flex flex-wrap items-center gap-y-2 gap-x-3 pt-3">
      <label class="input w-44"
        ><span class="sr-only">Name of the place</span><input
          value={place.name}
          maxlength="40"
          disabled={!mayWrite}
          required
          onchange={(e) => set(i, { name: e.currentTarget.value })}
        /></label
      >
      <label class="input w-28"
        ><span class="sr-only">Temperature of {place.name}</span><input
          type="number"
          step="any"
          value={place.temp}
          disabled={!mayWrite}
          onchange={(e) => set(i, { temp: e.currentTarget.valueAsNumber })}
        /><span class="soft">°{session.us ? 'F' : 'C'}</span></label
      >
      <label class="input w-28"
        ><span class="sr-only">Humidity of {place.name}</span><input
          type="number"
          step="any"
          value={place.rh_pct}
          disabled={!mayWrite}
          onchange={(e) => set(i, { rh_pct: e.currentTarget.valueAsNumber })}
        /><span class="soft">%</span></label
      >
      <p class="grow min-w-[14rem]">
        {#if air}
          {speed(air.factor)}{#if air.mildew}<b class="ink-due">
              : mildew is quicker there, except for hoses. Choose a drier place.</b
            >{/if}
        {/if}
      </p>
      <button
        type="button"
        class="btn btn-sm btn-ghost"
        disabled={!mayWrite}
        aria-label={`Remove ${place.name}`}
        onclick={() => void answers.change({ places: places.filter((_, n) => n !== i) })}>Remove</button
      >
    </div>
  {/each}
</section>
