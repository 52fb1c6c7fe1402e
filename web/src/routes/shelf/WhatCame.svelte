<!-- What came of an order, part by part, on which day, and whether the rest still comes. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import type { ShelfState } from '../../lib/state/shelf.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Stepper from '../../lib/ui/Stepper.svelte';
  import WhichDay from '../../lib/ui/WhichDay.svelte';
  import { plural } from '../../lib/words/format';

  let {
    stock,
    order,
    today,
    onclose,
  }: { stock: ShelfState; order: Schemas['OrderOut']; today: string; onclose: () => void } = $props();

  let day = $state(untrack(() => today));
  const keyOf = (one: Schemas['ComingOut']) => `${one.spare_id} ${one.number}`;
  let came = $state(untrack(() => Object.fromEntries(order.coming.map((one) => [keyOf(one), one.missing]))));
  let restComes = $state(true);
  const here = $derived(Object.values(came).reduce((sum, n) => sum + n, 0));
  const left = $derived(order.coming.reduce((sum, one) => sum + one.missing, 0) - here);
  const says = $derived(
    [
      here ? `${plural(here, 'part')} on the shelf` : 'Nothing came',
      ...(left ? [`${left} ${restComes ? 'still on the way' : 'given up'}`] : []),
    ].join(', '),
  );

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const body = {
      day: day === today ? null : day,
      came: order.coming.map((one) => ({
        spare_id: one.spare_id,
        number: one.number,
        count: came[keyOf(one)] ?? 0,
      })),
      rest_comes: restComes || !left,
    };
    if (await stock.arrived(order, body, `${says}.`)) onclose();
  }
</script>

<Modal title="What came?" {onclose}>
  <form onsubmit={keep} class="grid gap-4">
    <ul class="grid gap-2">
      {#each order.coming as one (keyOf(one))}
        <li class="flex items-center justify-between gap-3">
          <span
            >{one.name} <span class="soft">{one.number ? `${one.number}, ` : ''}of {one.missing}</span></span
          >
          <Stepper
            label={one.number ? `${one.name}, ${one.number}` : one.name}
            value={came[keyOf(one)] ?? 0}
            most={one.missing}
            onchange={(n) => (came[keyOf(one)] = n)}
          />
        </li>
      {/each}
    </ul>
    {#if left}
      <fieldset>
        <legend class="mb-1 font-bold">And the {left} missing?</legend>
        <div class="flex flex-wrap gap-2">
          {#each [[true, 'Still coming'], [false, 'Not coming']] as [comes, text] (text)}
            <button
              type="button"
              class={['btn', restComes === comes && 'btn-active']}
              aria-pressed={restComes === comes}
              onclick={() => (restComes = Boolean(comes))}>{text}</button
            >
          {/each}
        </div>
      </fieldset>
    {/if}
    <WhichDay bind:day {today} first={order.ordered_on} />
    <p class="soft">{says}.</p>
    <div class="flex flex-wrap gap-2">
      <button class="btn btn-primary" disabled={stock.busy || (!here && restComes)}>Record it</button>
      <button type="button" class="btn" onclick={onclose}>Cancel</button>
    </div>
  </form>
</Modal>
