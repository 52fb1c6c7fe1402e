<!-- One kind of part: how many are there, how long they last, and on a tap why, where it goes and where it is sold. -->
<script lang="ts">
  import { session } from '../../lib/state/session.svelte';
  import type { Schemas } from '../../lib/api/client';
  import type { Kind, ShelfState } from '../../lib/state/shelf.svelte';
  import Stepper from '../../lib/ui/Stepper.svelte';
  import { fullDay, plural, when } from '../../lib/words/format';
  import { arithmetic, because, CHECK, money, orderBy, TONE } from '../../lib/words/shelf';
  import LastsBar from './LastsBar.svelte';
  import Moves from './Moves.svelte';
  import Turn from './Turn.svelte';

  let {
    stock,
    shelf,
    kind,
    low = false,
    open,
    ontoggle,
    onedit,
  }: {
    stock: ShelfState;
    shelf: Schemas['ShelfOut'];
    kind: Kind;
    /** Whether it is a line of a table. */
    low?: boolean;
    open: boolean;
    ontoggle: () => void;
    onedit: () => void;
  } = $props();

  const uid = $props.id();
  let turning = $state(false);
  const may = $derived(session.mayWrite && !stock.busy);
  const hurry = $derived(['waits', 'now', 'soon'].includes(kind.supply));
</script>

<li
  class={low ? 'row low' : 'panel row'}
  data-kind={kind.name}
  data-supply={kind.supply}
  style:--tone={`var(--${TONE[kind.supply]})`}
>
  <div class="main">
    <div class="min-w-0">
      <button class="name" aria-expanded={open} aria-controls={`${uid}-more`} onclick={ontoggle}>
        <b>{kind.name}</b>
      </button>
      <p class="soft">
        {#if hurry && kind.order_by}<b class="text-(--tone)">Order {orderBy(kind.order_by, shelf.today)}.</b
          >{/if}
        {because(kind, shelf.today)}
      </p>
    </div>
    <LastsBar {kind} today={shelf.today} />
    <div class="count">
      <Stepper
        label={`on the shelf: ${kind.name}`}
        value={kind.on_hand}
        most={500}
        disabled={!may}
        onchange={(value) => void stock.count(kind, value)}
      />
      <p class="soft text-sm">
        {low ? '' : 'on the shelf'}{kind.on_order ? `, ${kind.on_order} on the way` : ''}
      </p>
    </div>
  </div>
  {#if kind.turns_missing && kind.on_hand}
    <p class="offer">
      <button class="btn btn-sm" disabled={!may} onclick={() => (turning = true)}>Let one take turns</button>
      <span class="soft">then the machine need not wait while one dries</span>
    </p>
  {/if}
  {#if open}
    <div class="more" id={`${uid}-more`}>
      <div>
        <h3>Why</h3>
        {#each arithmetic(kind.because) as line (line)}<p>{line}</p>{/each}
      </div>
      <div>
        <h3>Where it goes</h3>
        {#each kind.places as place (place.machine_id + place.slot)}
          <p>
            <a class="link" href={`#/machines/${place.machine_id}/${place.slot}`}
              >{place.machine_name}, {place.slot_name.toLowerCase()}</a
            >:
            {place.p50 && place.p10 && place.p90
              ? `a new one ${when({ p10: place.p10, p50: place.p50, p90: place.p90, certain: place.certain }, shelf.today)}`
              : 'when somebody finds it worn'}{place.every_days
              ? `, then about every ${place.every_days < 60 ? plural(Math.round(place.every_days), 'day') : plural(Math.round(place.every_days / 30.4), 'month')}`
              : ''}
          </p>
        {/each}
      </div>
      {#if kind.faults.length}
        <p><b>A new one puts right:</b> {kind.faults.map((one) => one.toLowerCase()).join('; ')}.</p>
      {/if}
      <div>
        <h3>Numbers and offers</h3>
        {#each kind.numbers as number (number.number)}
          <p>
            <b>{number.number}</b>, {number.maker ? 'the maker’s' : 'another maker’s'}, {CHECK[
              number.check
            ]}{number.note ? `: ${number.note}` : ''}
          </p>
        {:else}
          <p class="soft">No number yet: add the one on the part or its box, and offers find it.</p>
        {/each}
        {#each kind.sales as sale (sale.supplier + sale.code)}
          <p>
            {sale.name}: {money(sale.price, shelf.currency)} at {sale.supplier}, {sale.in_stock
              ? `${plural(sale.lead_days, 'day')} to come`
              : 'not in stock'}
          </p>
        {/each}
        {#if kind.ends_guarantee}
          <p class="mt-[0.4rem] pl-3 border-l-4 border-l-(--due)">
            <b>Mind:</b> another maker’s part may end the guarantee{kind.guarantee_until
              ? `, which runs until ${fullDay(kind.guarantee_until)}`
              : '. You keep by the label'}: read its terms first.
          </p>
        {/if}
      </div>
      <Moves {stock} {kind} />
      {#if session.mayWrite}
        <p class="flex flex-wrap gap-2">
          <button class="btn btn-sm" onclick={onedit}>Change</button>
          <button class="btn btn-sm" disabled={!may} onclick={() => void stock.drop(kind)}
            >Keep no longer</button
          >
        </p>
      {/if}
    </div>
  {/if}
</li>
{#if turning}<Turn {stock} {kind} onclose={() => (turning = false)} />{/if}

<style>
  .row {
    display: grid;
    gap: 0.4rem;
    padding: 0.6rem 1rem;
    border-left: 5px solid var(--tone);
  }
  .low {
    padding: 0.2rem 0 0.2rem 0.5rem;
    border-left: none;
    border-top: 1px solid var(--color-base-300);
  }
  .low .name {
    font-size: 1rem;
  }
  .low .main > :first-child {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 0 0.75rem;
  }
  .main {
    display: grid;
    grid-template-columns: minmax(0, 1.6fr) minmax(9rem, 1fr) 8.5rem;
    align-items: center;
    gap: 0.25rem 1.25rem;
  }
  .name {
    text-align: left;
    font-size: 1.1rem;
    cursor: pointer;
    text-decoration: underline;
    text-decoration-color: var(--duct);
    text-underline-offset: 0.2em;
    min-height: 1.75rem;
  }
  .count {
    text-align: center;
  }
  .offer {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0.25rem 0.75rem;
  }
  .more {
    display: grid;
    gap: 0.9rem;
    padding-top: 0.6rem;
    border-top: 1px solid var(--color-base-300);
    max-width: 46rem;
  }
  h3 {
    font-weight: 800;
  }
  @media (max-width: 39.99rem) {
    .main {
      grid-template-columns: minmax(0, 1fr);
    }
    .count {
      display: flex;
      align-items: center;
      gap: 0.75rem;
    }
  }
</style>
