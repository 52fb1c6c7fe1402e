<!-- Before a machine is given up: what costs next to nothing to look at, and nobody looked at lately. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { minutesWords, plural } from '../../lib/words/format';

  let { machine_id, cheap }: { machine_id: string; cheap: Schemas['CheapOut'][] } = $props();

  const SHOWN = 4;
  const shown = $derived(cheap.slice(0, SHOWN));
  const minutes = $derived(Math.ceil(shown.reduce((sum, one) => sum + one.minutes, 0)));
</script>

{#if shown.length}
  <div class="pl-3 border-l-4 border-l-(--due)" role="note">
    <p>
      <b>Is something wrong with it?</b> Nobody looked at {shown.length === 1 ? 'this' : 'these'} lately; {plural(
        shown.length,
        'look',
      )} of about {minutesWords(minutes)} in all:
    </p>
    <ul class="pl-[1.2em] list-disc">
      {#each shown as one (one.name)}<li>{one.name}</li>{/each}
    </ul>
    <a class="link" href={`#/faults/${machine_id}`}>Look for the cause first</a>
  </div>
{/if}
