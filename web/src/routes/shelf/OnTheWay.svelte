<!-- What was ordered and has not come; one tap puts it on the shelf, all of it or what came. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { session } from '../../lib/state/session.svelte';
  import type { ShelfState } from '../../lib/state/shelf.svelte';
  import { day } from '../../lib/words/format';
  import { money } from '../../lib/words/shelf';
  import WhatCame from './WhatCame.svelte';

  let { stock, shelf }: { stock: ShelfState; shelf: Schemas['ShelfOut'] } = $props();
  const may = $derived(session.mayWrite && !stock.busy);
  let telling = $state.raw<Schemas['OrderOut'] | null>(null);
</script>

<section aria-label="On the way">
  <h2 class="mb-2">On the way</h2>
  {#each shelf.orders as order (order.id)}
    <div class="panel order">
      <p>
        <b>{order.lines[0]?.supplier}</b>, {money(order.cost, shelf.currency)}
        <span class={order.late ? 'ink-overdue' : 'soft'}
          >{order.late ? 'was expected' : 'expected'} {day(order.expected)}</span
        >
      </p>
      {#if order.begun}
        <p>Some of it came. Still to come:</p>
        <ul>
          {#each order.coming as one (one.spare_id + one.number)}<li>
              {one.missing} of {one.ordered}: {one.name}{one.number ? ` (${one.number})` : ''}
            </li>{/each}
        </ul>
      {:else}
        <ul>
          {#each order.lines as line (line.code)}<li>{line.count} × {line.name}</li>{/each}
        </ul>
      {/if}
      {#if order.late}<p class="soft">Late: ask the shop, or call it off and order elsewhere.</p>{/if}
      <p class="flex flex-wrap gap-2">
        <button class="btn btn-primary" disabled={!may} onclick={() => void stock.arrived(order)}
          >{order.begun ? 'The rest came' : 'It came'}</button
        >
        <button class="btn" disabled={!may} onclick={() => (telling = order)}>Not all, or not today…</button>
        {#if order.begun}
          <button class="btn" disabled={!may} onclick={() => void stock.restNotComing(order)}
            >The rest does not come</button
          >
        {:else}
          <button class="btn" disabled={!may} onclick={() => void stock.callOff(order)}>Call it off</button>
        {/if}
      </p>
    </div>
  {:else}
    <p class="soft">Nothing is ordered.</p>
  {/each}
</section>

{#if telling}
  <WhatCame {stock} order={telling} today={shelf.today} onclose={() => (telling = null)} />
{/if}

<style>
  .order {
    display: grid;
    gap: 0.5rem;
    padding: 0.9rem 1rem;
  }
  .order + .order {
    margin-top: 0.5rem;
  }
</style>
