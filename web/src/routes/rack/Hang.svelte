<!-- Where a washed part hangs: each place with when it would be ready there, pressed or not, in moving air or not. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { type Hanging, placesFor } from '../../lib/state/rack.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { dayAndHour } from '../../lib/words/format';

  let {
    item_id,
    action = null,
    start = null,
    busy,
    verb,
    big = false,
    onhang,
  }: {
    item_id: string;
    /** What wets it; a wipe dries sooner than a wash. */
    action?: Schemas['Action'] | null;
    start?: Hanging | null;
    busy: boolean;
    /** What a place's button says before its name. */
    verb: string;
    big?: boolean;
    /** Null: nobody said where, so where the last part hung. */
    onhang: (hanging: Hanging | null) => void;
  } = $props();

  let pressed = $state(untrack(() => start?.pressed ?? false));
  let moving = $state(untrack(() => start?.moving ?? false));
  let options = $state.raw<Schemas['HangingOptionsOut'] | null>(null);
  let failed = $state(false);

  async function load(press: boolean, move: boolean) {
    const places = await placesFor(item_id, press, move, action);
    if (press !== pressed || move !== moving) return;
    options = places ?? options;
    failed = places === null;
  }
  $effect(() => void load(pressed, moving));

  const soonest = $derived(
    options?.places.reduce((best, one) => (one.ready_at < best.ready_at ? one : best)) ?? null,
  );
  /** Take the place where it is ready soonest: what Enter does. */
  export async function takeSoonest() {
    if (!options) await load(pressed, moving);
    onhang(soonest ? { place: soonest.name, pressed, moving } : null);
  }
</script>

<div class="grid gap-2">
  <div class="flex flex-wrap gap-x-6 gap-y-1">
    {#if options?.pressable}
      <label class="flex items-center gap-[0.6rem] min-h-11 cursor-pointer"
        ><input type="checkbox" class="checkbox" bind:checked={pressed} /> Pressed in a dry towel</label
      >
    {/if}
    <label class="flex items-center gap-[0.6rem] min-h-11 cursor-pointer"
      ><input type="checkbox" class="checkbox" bind:checked={moving} /> In moving air</label
    >
  </div>
  <div class="grid gap-2 sm:grid-cols-2">
    {#each options?.places ?? [] as place (place.name)}
      <button
        type="button"
        class={['btn place', big && 'big', place === soonest && 'btn-primary']}
        disabled={busy || !session.mayWrite}
        onclick={() => onhang({ place: place.name, pressed, moving })}
      >
        <span
          ><b>{place.name ? `${verb}: ${place.name}` : `${verb}: in free air`}</b>
          <small>ready about {dayAndHour(place.ready_at, session.member?.time_zone)}</small>
          {#if place.mildew}<small class="font-bold">so cold or damp that mildew comes first</small
            >{/if}</span
        >
      </button>
    {/each}
  </div>
  {#if failed && !options}
    <button type="button" class={['btn place btn-primary', big && 'big']} onclick={() => onhang(null)}
      ><b>{verb} the usual place</b></button
    >
  {/if}
  {#if options && options.places.every((one) => one.name === null)}
    <p class="soft text-sm">
      Tell <a class="link" href="#/household">Household</a> of your drying places: a cold or damp one takes three
      times as long, a warm dry one less.
    </p>
  {/if}
</div>

<style>
  .place {
    height: auto;
    min-height: 3.5rem;
    justify-content: start;
    padding-block: 0.5rem;
    text-align: left;
  }
  .place.big {
    min-height: 4.5rem;
    font-size: 1.2rem;
  }
  .place small {
    display: block;
    font-size: 0.9rem;
    font-weight: 400;
  }
</style>
