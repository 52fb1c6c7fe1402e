<!-- Beside a step that throws fine dust: what a new part costs instead, where a price is known. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, client, type Schemas } from '../../lib/api/client';
  import { money } from '../../lib/words/shelf';

  let { machine, slot }: { machine: string; slot: string } = $props();
  let known = $state.raw<Schemas['PricesOut'] | null>(null);
  const price = $derived(known?.prices[slot] ?? null);

  $effect(() => {
    const params = { path: { machine_id: machine } };
    untrack(
      () =>
        void ask(client.GET('/api/machines/{machine_id}/prices', { params })).then((answer) => {
          if (answer.ok) known = answer.data;
        }),
    );
  });
</script>

{#if known && price !== null}
  <p class="soft">
    It puts fine dust into the air each time, and takes less out the older the part is. A new one costs about
    {money(price, known.currency)}.
  </p>
{/if}
