<!-- The numbers a part is sold under that the Shelf knows to fit, beside the step that puts a new one in. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, client, type Schemas } from '../../lib/api/client';

  let { machine, slot }: { machine: string; slot: string } = $props();
  let known = $state.raw<Schemas['PricesOut'] | null>(null);
  const numbers = $derived(known?.numbers[slot] ?? []);

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

{#if known}
  <p>
    {#if numbers.length}<b>Sold as:</b> {numbers.join(', ')}.
    {:else}<span class="soft"
        >No number of it is kept yet: write down what stands on the old one, for the <a
          class="link"
          href="#/shelf">Shelf</a
        >.</span
      >{/if}
  </p>
{/if}
