<!-- A sheet that has ended: where its records stand. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { plural } from '../../lib/words/format';
  import Late from './Late.svelte';

  let { sheet, unsent }: { sheet: Schemas['SheetOut']; unsent: number } = $props();
</script>

<div class="mx-auto max-w-2xl p-6" data-unsent={unsent}>
  <h1>This sheet has ended.</h1>
  <p class="mt-2">
    Its records stand on {#each sheet.machines as machine, i (machine.id)}{i ? ', ' : ''}<a
        class="link"
        href={`#/machines/${machine.id}`}>{machine.name}</a
      >{/each}.
  </p>
  <Late count={sheet.late} />
  {#if unsent}
    <p class="soft">{plural(unsent, 'more answer')} {unsent === 1 ? 'is' : 'are'} still to be sent.</p>
  {/if}
  <a class="btn btn-primary mt-4" href="#/">Back to Round</a>
</div>
