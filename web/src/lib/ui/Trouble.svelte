<!-- A refusal or an error: what is wrong and the way out, with a button to try again where that helps. -->
<script lang="ts">
  import type { Problem } from '../api/client';

  let { problem, retry = null }: { problem: Problem; retry?: (() => void) | null } = $props();
</script>

<div class="panel border-l-4 border-l-error p-4" role="alert">
  <p class="font-bold">{problem.detail}</p>
  {#if problem.fix}<p class="mt-1">{problem.fix}</p>{/if}
  {#if retry}<button class="btn btn-sm mt-3" onclick={retry}>Try again</button>{/if}
</div>
