<!-- Before a machine is given up: what costs next to nothing to look at, and nobody looked at lately. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { startOf } from '../../lib/state/trace.svelte';
  import { figure, plural } from '../../lib/words/format';

  let { machine_id }: { machine_id: string } = $props();

  const SHOWN = 4;
  let start = $state.raw<Schemas['StartOut'] | null>(null);
  const cheap = $derived(start?.cheap ?? []);
  const minutes = $derived(cheap.slice(0, SHOWN).reduce((sum, one) => sum + one.minutes, 0));

  $effect(() => {
    const wanted = machine_id;
    untrack(() => void startOf(wanted).then((told) => (start = told.status === 'ok' ? told.data : null)));
  });
</script>

{#if cheap.length}
  <div class="cheap" role="note">
    <p>
      <b>Is something wrong with it?</b> Nobody looked at these lately; the first {plural(
        Math.min(SHOWN, cheap.length),
        'look',
      )} take about {figure(Math.ceil(minutes))} min together:
    </p>
    <ul>
      {#each cheap.slice(0, SHOWN) as one (one.name)}<li>{one.name}</li>{/each}
    </ul>
    <a class="link" href={`#/trace/${machine_id}`}>Look for the cause first</a>
  </div>
{/if}

<style>
  .cheap {
    padding-left: 0.75rem;
    border-left: 4px solid var(--due);
  }
  ul {
    padding-left: 1.2em;
    list-style: disc;
  }
</style>
