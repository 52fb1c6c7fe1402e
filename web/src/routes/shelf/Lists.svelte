<!-- Price lists in use: from the shop near by, or a file of one's own; a bad file is told line by line. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { session } from '../../lib/state/session.svelte';
  import type { ShelfState } from '../../lib/state/shelf.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import { plural } from '../../lib/words/format';
  import { money } from '../../lib/words/shelf';
  import Field from '../../lib/ui/Field.svelte';

  let { stock, shelf }: { stock: ShelfState; shelf: Schemas['ShelfOut'] } = $props();

  let supplier = $state('');
  let currency = $state(untrack(() => shelf.currency));
  let delivery = $state('0');
  let files = $state<FileList | null>(null);
  let taking = $state(false);
  const may = $derived(session.mayWrite && !stock.busy);

  async function take(event: SubmitEvent) {
    event.preventDefault();
    const file = files?.[0];
    if (!file) return;
    if (await stock.takeList(file, { supplier, currency, delivery })) [taking, files] = [false, null];
  }
</script>

<section aria-label="Price lists">
  <h2 class="mb-2">Price lists</h2>
  {#each shelf.lists as list (list.supplier)}
    <p class="line">
      <span
        ><b>{list.supplier}</b>, {plural(list.offers, 'offer')}{list.delivery
          ? `, delivery ${money(list.delivery, shelf.currency)}`
          : ''}</span
      >
      {#if session.mayWrite}
        <button
          class="btn btn-sm btn-ghost"
          disabled={!may}
          onclick={() => void stock.dropList(list.supplier)}
          >Drop<span class="sr-only"> the list of {list.supplier}</span></button
        >
      {/if}
    </p>
  {:else}
    <p class="soft">None yet: without prices Yperon says how many to buy, not what is cheapest.</p>
  {/each}
  {#if session.mayWrite}
    <p class="mt-2 flex flex-wrap gap-2">
      {#if shelf.has_shop}
        <button class="btn btn-sm" disabled={!may} onclick={() => void stock.askShop()}>Ask the shop</button>
      {/if}
      <button class="btn btn-sm" aria-expanded={taking} onclick={() => (taking = !taking)}
        >Take a list as a file</button
      >
    </p>
  {/if}
  {#if taking}
    <form class="panel grid gap-3 mt-2 p-4" onsubmit={take}>
      <Field label="Shop" bind:value={supplier} maxlength={60} required />
      <div class="grid grid-cols-2 gap-3">
        <Field label="Currency" bind:value={currency} maxlength={3} required />
        <Field label="Delivery" inputmode="decimal" bind:value={delivery} required />
      </div>
      <label class="grid gap-1"
        >File (CSV, UTF-8) <input
          class="file-input w-full"
          type="file"
          accept=".csv,text/csv"
          bind:files
          required
        /></label
      >
      <p class="soft text-sm">
        Columns: code, name, contents, price, lead_days, in_stock. Contents are part numbers with how many of
        each: BR-20 x 1 + SB-7 x 3.
      </p>
      <button class="btn btn-primary" disabled={!may || !files?.length}>Use this list</button>
    </form>
  {/if}
  {#if stock.badList}
    <div class="mt-2">
      <Trouble problem={stock.badList} />
      {#if stock.badList.lines?.length}
        <ol class="bad" aria-label="Lines to mend">
          {#each stock.badList.lines as line (line.line + line.problem)}
            <li><b>Line {line.line}:</b> {line.problem}. <span class="soft">{line.fix}</span></li>
          {/each}
        </ol>
        <p class="soft">Nothing of the file was taken; the list of before stays.</p>
      {/if}
    </div>
  {/if}
</section>

<style>
  .line {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
  }
  .bad {
    display: grid;
    gap: 0.3rem;
    max-height: 16rem;
    margin-block: 0.5rem;
    overflow-y: auto;
  }
</style>
