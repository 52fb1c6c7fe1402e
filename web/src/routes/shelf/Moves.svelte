<!-- What came in and went out of a kind of part lately, and telling of some that came from elsewhere or are gone. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { type Load, PENDING } from '../../lib/state/load';
  import { session } from '../../lib/state/session.svelte';
  import type { Kind, ShelfState } from '../../lib/state/shelf.svelte';
  import Stepper from '../../lib/ui/Stepper.svelte';
  import { dayAndTime } from '../../lib/words/format';
  import { MOVED } from '../../lib/words/shelf';

  let { stock, kind }: { stock: ShelfState; kind: Kind } = $props();

  const SHOWN = 5;
  let moves = $state.raw<Load<Schemas['StockMovedOut'][]>>(PENDING);
  let [count, number, note] = $state([1, '', '']);
  const may = $derived(session.mayWrite && !stock.busy);

  /** Whatever was recorded of the shelf may have moved some. */
  $effect(() => {
    const wanted = kind;
    untrack(() => void stock.movesOf(wanted).then((rows) => (moves = rows)));
  });

  async function move(why: 'bought' | 'gone') {
    if (await stock.move(kind, { count, why, number, note })) [count, note] = [1, ''];
  }
</script>

<div>
  <h3 class="font-extrabold">Came and went</h3>
  {#if moves.status === 'ok'}
    {#each moves.data.slice(0, SHOWN) as one (one.entry_id)}
      <p>
        <b>{one.count > 0 ? '+' : '−'}{Math.abs(one.count)}</b>
        {MOVED[one.why] ?? one.why}{one.note ? `, ${one.note}` : ''}
        <span class="soft">{dayAndTime(one.at, session.member?.time_zone)}{one.by ? `, ${one.by}` : ''}</span>
      </p>
    {:else}
      <p class="soft">Nothing yet.</p>
    {/each}
  {/if}
  {#if session.mayWrite}
    <div class="flex flex-wrap items-center gap-2 mt-[0.4rem]">
      <Stepper
        label="how many"
        value={count}
        most={50}
        disabled={!may}
        onchange={(value) => (count = Math.max(1, value))}
      />
      {#if kind.numbers.length > 1}
        <label
          ><span class="sr-only">Of which number</span><select class="select" bind:value={number}>
            <option value="">any number</option>
            {#each kind.numbers as one (one.number)}<option value={one.number}>{one.number}</option>{/each}
          </select></label
        >
      {/if}
      <label
        ><span class="sr-only">Where from, or where to</span><input
          class="input"
          maxlength="200"
          placeholder="where from, where to"
          bind:value={note}
        /></label
      >
      <button class="btn btn-sm" disabled={!may} onclick={() => void move('bought')}
        >Came from elsewhere</button
      >
      <button class="btn btn-sm" disabled={!may} onclick={() => void move('gone')}>Gone</button>
    </div>
  {/if}
</div>
