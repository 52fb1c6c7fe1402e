<!-- The households of whoever is signed in, and another one. -->
<script lang="ts">
  import { session } from '../../lib/state/session.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import Panel from '../../lib/ui/Panel.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import { here } from '../../lib/words/format';
  import { roleWords } from '../../lib/words/people';

  let name = $state('');
  const owns = $derived(session.households.some((one) => one.role === 'owner'));
</script>

<Panel title="Your households">
  <ul>
    {#each session.households as one (one.id)}
      <li class="flex flex-wrap items-center justify-between gap-2 py-1">
        <span><b>{one.name}</b> <span class="soft">{roleWords(one.role)}</span></span>
        {#if one.id === session.member?.household_id}<span class="soft">you look at it now</span>
        {:else}<button class="btn btn-sm" onclick={() => void session.lookAt(one.id)}>Look at it</button>{/if}
      </li>
    {/each}
  </ul>
  {#if owns}
    {#if session.problem}<div class="mt-3"><Trouble problem={session.problem} /></div>{/if}
    <form
      class="mt-3 flex flex-wrap items-end gap-3"
      onsubmit={(event) => {
        event.preventDefault();
        void session.found(name, here());
      }}
    >
      <Field label="Another one: its name" of="FoundIn" name="name" bind:value={name} required />
      <button class="btn">Make it</button>
    </form>
  {/if}
</Panel>
