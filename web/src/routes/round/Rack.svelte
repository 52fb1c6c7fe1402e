<!-- What is drying, until when, and what can be done about it. -->
<script lang="ts">
  import Droplet from '~icons/lucide/droplet';
  import { push } from 'svelte-spa-router';

  import type { Schemas } from '../../lib/api/client';
  import { openRefit } from '../../lib/state/bench.svelte';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { dayAndTime, span } from '../../lib/words/format';
  import FitEarly from '../rack/FitEarly.svelte';

  type OnRack = Schemas['RackOut'];
  let { rack, now, mayWrite }: { rack: OnRack[]; now: string; mayWrite: boolean } = $props();
  let early = $state.raw<OnRack | null>(null);

  const rested = (on: OnRack) => !on.item.locked_until || Date.parse(on.item.locked_until) <= Date.parse(now);

  async function putBack(on: OnRack) {
    const id = await openRefit(on.item.id);
    if (id) await push(`/bench/${id}`);
  }
</script>

{#if rack.length === 0}
  <p class="soft">Nothing is drying.</p>
{:else}
  <ul class="grid gap-3">
    {#each rack as on (on.item.id)}
      <li class="panel p-3">
        <p class="flex items-center gap-2 font-bold">
          <Droplet width="18" height="18" class="ink-drying" aria-hidden="true" />{on.item.name}
          <span class="soft font-normal">{on.machine_name}</span>
        </p>
        {#if !rested(on) && on.item.locked_until}
          <p class="ink-drying font-bold">{span(now, on.item.locked_until)} to go</p>
          <p class="soft text-sm">
            Rests until {dayAndTime(on.item.locked_until, session.member?.time_zone)}, however dry it feels.
            Air only, no heat.
          </p>
          {#if on.slot_empty}
            <p class="text-sm">The machine stays out of use until then.</p>
            {#if mayWrite}
              <button class="link soft text-sm" onclick={() => (early = on)}>Fit it early…</button>
            {/if}
          {/if}
        {:else if on.slot_empty}
          <p class="text-sm">Its rest is over. Feel whether it is dry, then put it back.</p>
          <button class="btn btn-sm btn-primary mt-2" disabled={!mayWrite} onclick={() => void putBack(on)}>
            Put it back
          </button>
        {:else}
          <p class="text-sm">Its rest is over. Any trace of damp?</p>
          <div class="mt-2 flex gap-2">
            <button
              class="btn btn-sm btn-primary"
              disabled={!mayWrite}
              onclick={() => void house.dryCheck(on.item, true)}>Bone dry</button
            >
            <button
              class="btn btn-sm"
              disabled={!mayWrite}
              onclick={() => void house.dryCheck(on.item, false)}
            >
              Still damp
            </button>
          </div>
        {/if}
      </li>
    {/each}
  </ul>
{/if}

{#if rack.length}<p class="mt-2">
    <a class="link text-sm" href="#/rack">Why so long, and where sooner</a>
  </p>{/if}
{#if early}
  <FitEarly item={early.item} onclose={() => (early = null)} />
{/if}
