<!-- Says that what is shown is from before the connection went. -->
<script lang="ts">
  import { session } from '../state/session.svelte';
  import { dayAndTime } from '../words/format';

  let { since }: { since: string | null } = $props();
</script>

{#if since}
  <p class="panel mb-2 border-l-4 border-l-[var(--unknown)] p-3" role="status">
    <b>No connection.</b> This is as of {dayAndTime(since, session.member?.time_zone)}; nothing can be
    recorded here until it is back.
  </p>
{/if}
