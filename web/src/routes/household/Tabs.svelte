<!-- The head of every page about the household: its name, and the pages there are. -->
<script lang="ts">
  import { router } from 'svelte-spa-router';

  import { session } from '../../lib/state/session.svelte';

  const PAGES = [
    ['/household', 'The home'],
    ['/household/people', 'People'],
    ['/household/you', 'You'],
    ['/household/devices', 'Devices'],
    ['/household/data', 'Data'],
  ] as const;
</script>

<h1>{session.member?.household}</h1>
<nav aria-label="Household" class="mt-2 mb-3 flex flex-wrap gap-2">
  {#each PAGES as [to, name] (to)}
    <a
      href={`#${to}`}
      class={['btn btn-sm', router.location === to && 'btn-active']}
      aria-current={router.location === to ? 'page' : undefined}>{name}</a
    >
  {/each}
</nav>
