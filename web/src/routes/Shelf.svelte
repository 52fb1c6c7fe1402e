<!-- The shelf: what must be ordered first, how long each part lasts, what is on its way, and what to buy. -->
<script lang="ts">
  import ChevronRight from '~icons/lucide/chevron-right';
  import { onDestroy } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';

  import type { Schemas } from '../lib/api/client';
  import { keys } from '../lib/state/keys.svelte';
  import { session } from '../lib/state/session.svelte';
  import { type Kind, ShelfState } from '../lib/state/shelf.svelte';
  import AsOf from '../lib/ui/AsOf.svelte';
  import Empty from '../lib/ui/Empty.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import { plural, together } from '../lib/words/format';
  import { because, SUPPLY } from '../lib/words/shelf';
  import Edit from './shelf/Edit.svelte';
  import KindRow from './shelf/KindRow.svelte';
  import Lists from './shelf/Lists.svelte';
  import OnTheWay from './shelf/OnTheWay.svelte';
  import WaysToBuy from './shelf/WaysToBuy.svelte';

  const stock = new ShelfState();
  void stock.refresh();

  let open = $state<string | null>(null);
  let editing = $state.raw<Kind | 'new' | null>(null);
  const shelf = $derived(stock.shelf);
  const GROUPS: Schemas['Supply'][] = ['waits', 'now', 'soon', 'turns', 'enough', 'unforeseen'];
  const groups = $derived(
    GROUPS.map((supply) => ({
      supply,
      kinds: shelf?.kinds.filter((one) => one.supply === supply) ?? [],
    })).filter((group) => group.kinds.length),
  );
  const urgent = $derived(shelf?.kinds.filter((one) => ['waits', 'now'].includes(one.supply)) ?? []);
  const soon = $derived(shelf?.kinds.filter((one) => one.supply === 'soon') ?? []);
  const head = $derived.by(() => {
    if (urgent.length)
      return `Order now: ${together(urgent.slice(0, 3))}${urgent.length > 3 ? ' and more' : ''}.`;
    return soon.length ? `Order soon: ${together(soon.slice(0, 3))}.` : 'Nothing needs ordering.';
  });

  /** What there is enough of is one table that opens. */
  const CALM: Schemas['Supply'][] = ['enough', 'unforeseen'];
  const shown = new SvelteSet<Schemas['Supply']>();
  const fold = (supply: Schemas['Supply']) => (shown.has(supply) ? shown.delete(supply) : shown.add(supply));
  /** What was just put on the shelf is in sight. */
  let known = 0;
  $effect(() => {
    const count = shelf?.kinds.length ?? 0;
    if (known && count > known) for (const supply of CALM) shown.add(supply);
    known = count;
  });
  /** What is lacking first of what there is enough of. */
  const firstOf = (kinds: Kind[]) => {
    const [first] = kinds;
    return first && shelf ? `${first.name}: ${because(first, shelf.today)}` : '';
  };

  onDestroy(
    keys.lend('Shelf', [
      { key: 'n', does: 'Keep another part', run: () => session.mayWrite && (editing = 'new') },
      { key: 'c', does: 'What to buy', run: () => void stock.findWays() },
    ]),
  );
</script>

<svelte:head><title>Shelf · Yperon</title></svelte:head>

<Loaded load={stock.load} what="Looking at the shelf" retry={() => void stock.refresh()}>
  {#if shelf}
    {#if !shelf.kinds.length}
      <Empty title="Nothing is kept yet.">
        {#if shelf.loose.length}
          <p>
            Your machines have {plural(shelf.loose.length, 'part')} that are renewed. Keep those that wear by use
            or by date: then Yperon says when to order which, so that none is lacking and none gathers dust.
          </p>
          <p class="flex flex-wrap gap-3">
            <button
              class="btn btn-primary btn-lg"
              disabled={!session.mayWrite || stock.busy}
              onclick={() => void stock.propose()}>Keep what wears</button
            >
            <button class="btn btn-lg" disabled={!session.mayWrite} onclick={() => (editing = 'new')}
              >Choose myself</button
            >
          </p>
        {:else}
          <p>Add a machine first: its parts are what is kept here.</p>
          <p><a class="btn btn-primary btn-lg" href="#/add">Add a machine</a></p>
        {/if}
      </Empty>
    {:else}
      <div class="page">
        <header class="lead">
          <div class="min-w-0">
            <AsOf since={stock.since} />
            <h1>{head}</h1>
            <p class="soft">
              By how your machines run. A bar is a year from today: full as long as what is there lasts,
              striped where it may run out; its notch says when to order.
            </p>
          </div>
          <button class="btn btn-primary btn-lg" onclick={() => void stock.findWays()}>What to buy</button>
        </header>

        {#if stock.asked}
          <div class="ways"><WaysToBuy {stock} {shelf} /></div>
        {/if}

        <div class="kinds">
          {#each groups as group (group.supply)}
            {@const calm = CALM.includes(group.supply)}
            <section aria-label={SUPPLY[group.supply]} class={[calm && 'panel calm']}>
              <h2>
                {#if calm}
                  <button
                    class="flex flex-wrap items-center gap-y-[0.2rem] gap-x-2 w-full min-h-10 text-left cursor-pointer"
                    aria-expanded={shown.has(group.supply)}
                    onclick={() => fold(group.supply)}
                  >
                    <ChevronRight
                      width="18"
                      height="18"
                      class={shown.has(group.supply) ? 'rotate-90' : ''}
                      aria-hidden="true"
                    />
                    {SUPPLY[group.supply]} <span class="soft">{group.kinds.length}</span>
                    <span class="soft grow text-right font-normal">{firstOf(group.kinds)}</span>
                  </button>
                {:else}{SUPPLY[group.supply]} <span class="soft">{group.kinds.length}</span>{/if}
              </h2>
              <ul hidden={calm && !shown.has(group.supply)}>
                {#each group.kinds as kind (kind.id)}
                  <KindRow
                    {stock}
                    {shelf}
                    {kind}
                    low={calm}
                    open={open === kind.id}
                    ontoggle={() => (open = open === kind.id ? null : kind.id)}
                    onedit={() => (editing = kind)}
                  />
                {/each}
              </ul>
            </section>
          {/each}
          {#if session.mayWrite}
            <p class="flex flex-wrap gap-2">
              <button class="btn" onclick={() => (editing = 'new')}>Keep another part</button>
              {#if shelf.loose.some((one) => one.p50)}
                <button class="btn" disabled={stock.busy} onclick={() => void stock.propose()}
                  >Keep all that wear</button
                >
              {/if}
            </p>
          {/if}
        </div>

        <aside>
          <OnTheWay {stock} {shelf} />
          <Lists {stock} {shelf} />
        </aside>
      </div>
    {/if}
    {#if editing}
      <Edit {stock} {shelf} kind={editing === 'new' ? null : editing} onclose={() => (editing = null)} />
    {/if}
  {/if}
</Loaded>

<style>
  .page {
    grid-template-columns: minmax(0, 1fr) 21rem;
    grid-template-areas: 'lead lead' 'ways ways' 'kinds aside';
    gap: 1rem 2rem;
    align-items: start;
  }
  .calm {
    padding: 0.3rem 0.75rem;
  }
  .calm h2 {
    margin: 0;
  }
  .calm ul {
    gap: 0;
  }
  .lead {
    grid-area: lead;
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 1.5rem;
  }
  .ways {
    grid-area: ways;
    min-width: 0;
  }
  .kinds {
    grid-area: kinds;
    display: grid;
    gap: 1.5rem;
    min-width: 0;
  }
  h2 {
    margin-bottom: 0.5rem;
  }
  ul {
    display: grid;
    gap: 0.5rem;
  }
  aside {
    grid-area: aside;
    display: grid;
    gap: 1.5rem;
    min-width: 0;
  }
  @media (max-width: 59.99rem) {
    .page {
      grid-template-columns: minmax(0, 1fr);
      grid-template-areas: 'lead' 'ways' 'kinds' 'aside';
    }
  }
  @media (max-width: 39.99rem) {
    .lead {
      flex-direction: column;
      align-items: stretch;
    }
  }
</style>
