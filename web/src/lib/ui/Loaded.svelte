<!-- Something being loaded: that it takes its time, or what is wrong and the way out; else what came. -->
<script lang="ts" generics="T">
  import type { Snippet } from 'svelte';

  import type { Load } from '../state/load';
  import Trouble from './Trouble.svelte';
  import Waiting from './Waiting.svelte';

  let {
    load,
    what,
    retry = null,
    back,
    children,
  }: {
    load: Load<T>;
    /** What is waited for: "Opening the case". */
    what: string;
    retry?: (() => void) | null;
    /** Another way out than trying again. */
    back?: { href: string; text: string };
    children: Snippet<[T]>;
  } = $props();
</script>

{#if load.status === 'pending'}
  <Waiting {what} />
{:else if load.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={load.problem} {retry} />
    {#if back}<p class="mt-3"><a class="link" href={back.href}>{back.text}</a></p>{/if}
  </div>
{:else}
  {@render children(load.data)}
{/if}
