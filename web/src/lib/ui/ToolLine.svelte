<!-- A tool to have ready: its name, what serves as well, how to keep it or what it risks. -->
<script lang="ts">
  import type { Schemas } from '../api/client';

  let { tool }: { tool: Schemas['ToolOut'] } = $props();
  const soft = $derived(
    `${tool.instead.length ? `, or ${tool.instead.join(', ')}` : ''}${tool.mind ? `: ${tool.mind}` : ''}`,
  );
</script>

{tool.name}{#if soft}<span class="soft">{soft}</span>{/if}
