<!-- What to buy for a span of time: the best ways, each with its cost and what is left over; why a kit wins or loses. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { session } from '../../lib/state/session.svelte';
  import { HORIZONS, type ShelfState, WASTES } from '../../lib/state/shelf.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import Waiting from '../../lib/ui/Waiting.svelte';
  import { plural } from '../../lib/words/format';
  import { money } from '../../lib/words/shelf';

  let { stock, shelf }: { stock: ShelfState; shelf: Schemas['ShelfOut'] } = $props();

  const SPAN: Record<number, string> = { 30: 'a month', 90: '3 months', 365: 'a year', 730: 'two years' };
  const WASTE = ['nothing is left unused', 'at most a third is left unused', 'whatever is left over'];
  const found = $derived(stock.ways.status === 'ok' ? stock.ways.data : null);
  const may = $derived(session.mayWrite && !stock.busy);
  const counts = (counted: Schemas['CountOut'][]) =>
    counted.map((one) => `${one.count} × ${one.name}`).join(', ');
  const price = (cents: number) => money(cents, found?.currency ?? shelf.currency);

  function order(way: Schemas['WayOut']) {
    void stock.order(way.picks.map(({ supplier, code, count }) => ({ supplier, code, count })));
  }
</script>

<section class="panel grid gap-[0.9rem] py-4 px-[clamp(1rem,2vw,1.5rem)]" aria-label="What to buy">
  <div class="flex flex-wrap justify-between items-center gap-3">
    <h2 class="text-[1.3rem] font-extrabold">What to buy for {SPAN[stock.horizon]}</h2>
    <div class="join" role="group" aria-label="For how long">
      {#each HORIZONS as days (days)}
        <button
          class={['btn btn-sm join-item', stock.horizon === days && 'btn-active']}
          aria-pressed={stock.horizon === days}
          onclick={() => void stock.findWays(days)}>{SPAN[days]}</button
        >
      {/each}
    </div>
  </div>
  <label class="flex flex-wrap items-center gap-2"
    >So that <select
      class="select w-auto"
      value={stock.waste}
      onchange={(e) => void stock.findWays(stock.horizon, Number(e.currentTarget.value))}
    >
      {#each WASTES as share, i (share)}<option value={share}>{WASTE[i]}</option>{/each}
    </select></label
  >
  <div class="relative">
    {#if stock.comparing}
      <div class={[stock.ways.status !== 'pending' && 'absolute inset-x-0 top-0 z-1']}>
        <Waiting what="Comparing singles, packs and kits" />
      </div>
    {/if}
    <div
      class={[
        'grid gap-[0.9rem] transition-opacity',
        stock.comparing === 'again' && 'opacity-0 delay-300',
        stock.comparing === 'otherwise' && 'invisible',
      ]}
      inert={stock.comparing !== null}
    >
      {#if stock.ways.status === 'error'}
        <Trouble problem={stock.ways.problem} retry={() => void stock.findWays()} />
      {:else if found}
        {#if !found.needs.length}
          <p>Nothing: what is there lasts for {SPAN[stock.horizon]}.</p>
        {:else}
          <details>
            <summary
              >Needed: {plural(
                found.needs.reduce((sum, one) => sum + one.count, 0),
                'part',
              )}</summary
            >
            <ul class="soft mt-1">
              {#each found.needs as one (one.id)}<li>{one.count} × {one.name}</li>{/each}
            </ul>
          </details>
        {/if}
        {#if found.loosened}
          <p class="pl-3 border-l-4 border-l-(--due)">
            No way keeps waste small: packs hold more than you use. These are the cheapest all the same.
          </p>
        {/if}
        <ol class="grid grid-cols-[repeat(auto-fit,minmax(min(19rem,100%),1fr))] gap-y-4 gap-x-7">
          {#each found.ways as way, i (i)}
            <li class={['way', i === 0 && 'best']}>
              <h3 class="font-extrabold">
                {i === 0 ? 'Cheapest' : `${price(way.cost - (found.ways[0]?.cost ?? 0))} more`}
              </h3>
              <p>
                <b class="text-xl">{price(way.cost)}</b>
                <span class="soft"
                  >{[
                    ...(way.delivery ? [`with ${price(way.delivery)} delivery`] : []),
                    ...(stock.horizon === 365 ? [] : [`${price(way.a_year)} a year`]),
                  ].join(', ')}</span
                >
              </p>
              <ul>
                {#each way.picks as pick (pick.supplier + pick.code)}
                  <li class="pick">
                    <span>{pick.count} × {pick.name}{pick.other_makers ? ' (another maker’s)' : ''}</span
                    ><span>{price(pick.price * pick.count)}</span>
                  </li>
                {/each}
              </ul>
              <p class="soft">
                {way.left.length ? `Left over, to use later: ${counts(way.left)}.` : 'Nothing is left over.'}
                {way.wasted.length ? `Nothing will use: ${counts(way.wasted)}.` : ''}
              </p>
              <button class={['btn', i === 0 && 'btn-primary']} disabled={!may} onclick={() => order(way)}
                >I ordered this</button
              >
            </li>
          {/each}
        </ol>
        {#each found.kits as kit (kit.supplier + kit.code)}
          <p>
            <b>{kit.name}, {price(kit.price)}:</b>
            {#if kit.with_it === null}
              does not fit what is needed without more waste than you want.
            {:else if kit.wins}
              worth it. With it all costs {price(kit.with_it)}{kit.without_it === null
                ? '; without it something could not be had'
                : `, without it ${price(kit.without_it)}`}.
            {:else}
              not worth it. With it all costs {price(kit.with_it)}, without it {price(kit.without_it ?? 0)}:
              you need too little of what is in it.
            {/if}
          </p>
        {/each}
        {#if found.kits_left_out}
          <p class="pl-3 border-l-4 border-l-(--due)">
            {plural(found.kits_left_out, 'more kit')} that cost more for what is of use here.
          </p>
        {/if}
        {#if found.unsold.length}
          <p class="pl-3 border-l-4 border-l-(--due)">
            No price list has: {counts(found.unsold)}. Buy elsewhere and count it in, or give the part the
            number it is sold under.
          </p>
        {/if}
        {#if found.needs.length}
          <p class="no-print flex flex-wrap gap-2">
            <a class="btn btn-sm" href={`#/shelf/list/${stock.horizon}/${stock.waste}`}>On paper</a>
            <a
              class="btn btn-sm"
              href={`/api/shelf/list.csv?horizon=${stock.horizon}&waste=${stock.waste}`}
              download>As CSV</a
            >
            {#if found.ways.length}
              <span class="soft self-center"
                >{plural(found.ways.length, 'way')} compared, {found.ways[0]?.proven
                  ? 'the cheapest is proven'
                  : 'the first is the cheapest that was found in the time there was'}.</span
              >
            {/if}
          </p>
        {/if}
      {/if}
    </div>
  </div>
</section>

<style>
  .way {
    display: grid;
    gap: 0.5rem;
    align-content: start;
    padding-top: 0.6rem;
    border-top: 3px solid var(--duct);
  }
  .way.best {
    border-top-color: var(--color-base-content);
  }
  .pick {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    padding-block: 0.15rem;
    border-bottom: 1px solid var(--color-base-300);
  }
  .pick span:last-child {
    white-space: nowrap;
  }
</style>
