<!-- What was ordered and has not come; one tap puts it on the shelf. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { session } from '../../lib/state/session.svelte';
  import type { ShelfState } from '../../lib/state/shelf.svelte';
  import { day } from '../../lib/words/format';
  import { money } from '../../lib/words/shelf';

  let { stock, shelf }: { stock: ShelfState; shelf: Schemas['ShelfOut'] } = $props();
  const may = $derived(session.mayWrite && !stock.busy);
</script>

<section aria-label="On the way">
  <h2>On the way</h2>
  {#each shelf.orders as order (order.id)}
    <div class="panel order">
      <p>
        <b>{order.lines[0]?.supplier}</b>, {money(order.cost, shelf.currency)}
        <span class={order.late ? 'ink-overdue' : 'soft'}
          >{order.late ? 'was expected' : 'expected'} {day(order.expected)}</span
        >
      </p>
      <ul>
        {#each order.lines as line (line.code)}<li>{line.count} × {line.name}</li>{/each}
      </ul>
      {#if order.late}<p class="soft">Late: ask the shop, or call it off and order elsewhere.</p>{/if}
      <p class="flex flex-wrap gap-2">
        <button class="btn btn-primary" disabled={!may} onclick={() => void stock.arrived(order)}
          >It came</button
        >
        <button class="btn" disabled={!may} onclick={() => void stock.callOff(order)}>Call it off</button>
      </p>
    </div>
  {:else}
    <p class="soft">Nothing is ordered.</p>
  {/each}
</section>

<style>
  h2 {
    margin-bottom: 0.5rem;
    font-size: 1.1rem;
    font-weight: 800;
  }
  .order {
    display: grid;
    gap: 0.5rem;
    padding: 0.9rem 1rem;
  }
  .order + .order {
    margin-top: 0.5rem;
  }
</style>
