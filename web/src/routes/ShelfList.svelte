<!-- The shopping list on paper: what to buy, for which machine and why, with a box to tick. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ShelfState } from '../lib/state/shelf.svelte';
  import AsOf from '../lib/ui/AsOf.svelte';
  import PaperPage from '../lib/ui/PaperPage.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { because, money, orderBy } from '../lib/words/shelf';

  let { params }: { params: { horizon: string; waste?: string } } = $props();
  const stock = new ShelfState();
  const look = () =>
    void Promise.all([
      stock.refresh(),
      stock.findWays(Number(params.horizon) || 365, params.waste ? Number(params.waste) : stock.waste),
    ]);
  untrack(look);

  const found = $derived(stock.ways.status === 'ok' ? stock.ways.data : null);
  const shelf = $derived(stock.shelf);
  const problem = $derived(
    [stock.ways, stock.load].flatMap((one) => (one.status === 'error' ? [one.problem] : []))[0],
  );
  /** What is needed in this span of time, with the part it is of. */
  const needed = $derived(
    (found?.needs ?? []).flatMap(({ id, count }) => {
      const kind = shelf?.kinds.find((one) => one.id === id);
      return kind ? [{ kind, count }] : [];
    }),
  );
  const best = $derived(found?.ways[0] ?? null);
</script>

<svelte:head><title>Shopping list · Yperon</title></svelte:head>

{#if problem}
  <div class="mx-auto max-w-xl p-6"><Trouble {problem} retry={look} /></div>
{:else if !found || !shelf}
  <Waiting what="Writing the list" />
{:else}
  <PaperPage back={{ href: '#/shelf', text: 'Back to the shelf' }}>
    <AsOf since={stock.since} />
    <h1>Shopping list</h1>
    {#if best}
      <h2>To buy, {money(best.cost, found.currency)}{best.delivery ? ' with delivery' : ''}</h2>
      <ul>
        {#each best.picks as pick (pick.supplier + pick.code)}
          <li>
            ☐ {pick.count} × {pick.name} ({pick.code}, {pick.supplier}), {money(
              pick.price * pick.count,
              found.currency,
            )}
          </li>
        {/each}
      </ul>
    {/if}
    {#if found.unsold.length}
      <h2>On no price list</h2>
      <ul>
        {#each found.unsold as one (one.name)}<li>☐ {one.count} × {one.name}</li>{/each}
      </ul>
    {/if}
    <h2>What for</h2>
    <ul>
      {#each needed as { kind, count } (kind.id)}
        <li>
          <b
            >{count} × {kind.name}{kind.numbers.length
              ? ` (${kind.numbers.map((n) => n.number).join(', ')})`
              : ''}.</b
          >
          {kind.order_by ? `Order ${orderBy(kind.order_by, shelf.today)}.` : ''}
          {because(kind, shelf.today)}
        </li>
      {:else}
        <li>Nothing is needed.</li>
      {/each}
    </ul>
    <p class="soft">
      Hold each part against its place before you open the packet: what does not fit goes back.
    </p>
  </PaperPage>
{/if}

<style>
  h2 {
    margin-top: 0.75rem;
  }
  li {
    padding-block: 0.3rem;
  }
</style>
