<!-- The parts it comes with: where one was seen to on another day than the rest, and spares that lie ready. -->
<script lang="ts">
  import { bounds } from '../../lib/api/bounds';
  import type { SetUpState } from '../../lib/state/setup.svelte';
  import Stepper from '../../lib/ui/Stepper.svelte';

  let { setup, today }: { setup: SetUpState; today: string } = $props();

  const spares = $derived(Object.values(setup.spares).reduce((sum, one) => sum + one, 0));
  function choose(slot: string, day: string | null) {
    const others = Object.fromEntries(Object.entries(setup.parts).filter(([key]) => key !== slot));
    setup.parts = day === null ? others : { ...others, [slot]: day };
  }
</script>

<details class="panel p-3">
  <summary class="cursor-pointer">
    <b>Its {setup.ownParts.length} parts</b>
    <span class="soft">
      {setup.filters.length} of them filters{spares ? `, ${spares} spare` : ''}. Open it if one was cleaned on
      another day, or for spares.</span
    >
  </summary>
  <ul class="mt-2 grid">
    {#each setup.ownParts as part (part.slot)}
      <li class="row">
        <span
          ><b>{part.name}</b>
          <span class="soft text-sm">{part.station}{part.is_filter ? ', filter' : ''}</span></span
        >
        {#if setup.past !== 'new'}
          <span class="flex flex-wrap items-center gap-2">
            {#if part.slot in setup.parts}
              <label class="input input-sm w-40"
                ><span class="sr-only">{part.name}: last done on</span><input
                  type="date"
                  {...bounds('EarlierIn', 'bought')}
                  max={today}
                  value={setup.parts[part.slot]}
                  onchange={(e) => choose(part.slot, e.currentTarget.value)}
                /></label
              >
              <button type="button" class="btn btn-sm btn-ghost" onclick={() => choose(part.slot, null)}
                >As the rest</button
              >
            {:else}
              <button
                type="button"
                class="btn btn-sm"
                aria-label={`${setup.past === 'day' ? 'Another day' : 'I know the day'}: ${part.name}`}
                onclick={() => choose(part.slot, setup.past === 'day' ? '' : today)}
                >{setup.past === 'day' ? 'Another day' : 'I know the day'}</button
              >
            {/if}
          </span>
        {/if}
        {#if part.removable}
          <span class="flex items-center gap-2">
            <span class="soft text-sm">spares</span>
            <Stepper
              label={`Spares of ${part.name}`}
              value={setup.spares[part.slot] ?? 0}
              most={5}
              onchange={(count) => (setup.spares = { ...setup.spares, [part.slot]: count })}
            />
          </span>
        {/if}
      </li>
    {/each}
  </ul>
  <p class="soft mt-2 text-sm">
    Spares of what is washed take turns with the part in it; what is only used up waits on the shelf.
  </p>
  {#if setup.past !== 'new'}
    <label class="mt-3 grid gap-1 text-sm">
      Bought new on, if you know it: then its parts' ages are known, too
      <input
        class="input w-44"
        type="date"
        {...bounds('EarlierIn', 'bought')}
        max={today}
        bind:value={setup.bought}
      />
    </label>
  {/if}
</details>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 0.4rem 1rem;
    padding-block: 0.4rem;
    border-top: 1px solid var(--color-base-300);
  }
  .row > :first-child {
    flex: 1;
    min-width: 11rem;
  }
</style>
