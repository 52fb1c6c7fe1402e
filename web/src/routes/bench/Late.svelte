<!-- Answers that came when somebody else had gone on with the sheet. -->
<script lang="ts">
  import { plural } from '../../lib/words/format';

  let { count }: { count: number } = $props();
</script>

{#if count}
  <p class="mt-2 border-l-4 border-l-[var(--due)] px-3 py-2">
    {plural(count, 'answer')} came after somebody else had gone on: kept as {count === 1
      ? 'a note'
      : 'notes'}, nothing changed by {count === 1 ? 'it' : 'them'}.
  </p>
{/if}
