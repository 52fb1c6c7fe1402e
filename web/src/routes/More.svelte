<!-- What a phone's bar has no room for. -->
<script lang="ts">
  import { keys } from '../lib/state/keys.svelte';
  import { session } from '../lib/state/session.svelte';
  import { theme } from '../lib/state/theme.svelte';

  const PLACES = [
    { to: '/season', name: 'Season', says: 'half a year in few visits' },
    { to: '/log', name: 'Log', says: 'everything that happened' },
    { to: '/household', name: 'Household', says: 'who lives here, dust, drying places' },
    { to: '/household/people', name: 'People', says: 'who may do what, invitations' },
    { to: '/household/you', name: 'You', says: 'units, letters, password, where you are signed in' },
    { to: '/household/data', name: 'Data', says: 'take it out, bring it in, copies' },
    { to: '/bench', name: 'Bench', says: 'sheets that are open, and what could be done now' },
    { to: '/rack', name: 'Rack', says: 'what dries, until when and why' },
    { to: '/floor', name: 'Before a run', says: 'may I pick this up, is the machine ready' },
    { to: '/labels', name: 'Labels', says: 'to print, for machines and parts' },
    { to: '/add', name: 'Add a machine', says: 'by its picture, in a minute or two' },
  ];
</script>

<svelte:head><title>More · Yperon</title></svelte:head>

<div class="mx-auto max-w-xl p-4">
  <h1>More</h1>
  <ul class="panel mt-3">
    {#each PLACES as place (place.to)}
      <li>
        <a href={`#${place.to}`}><b>{place.name}</b> <span class="soft">{place.says}</span></a>
      </li>
    {/each}
    <li>
      <button onclick={() => void session.nextTheme()}
        ><b>{theme.words}</b> <span class="soft">change</span></button
      >
    </li>
    <li><button onclick={() => keys.help()}><b>Keys</b> <span class="soft">for a keyboard</span></button></li>
    <li>
      <button onclick={() => void session.signOut()}
        ><b>Sign out</b> <span class="soft">{session.member?.household}</span></button
      >
    </li>
  </ul>
</div>

<style>
  li + li {
    border-top: 1px solid var(--color-base-300);
  }
  a,
  button {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 0 0.75rem;
    width: 100%;
    padding: 0.75rem 1rem;
    text-align: left;
    cursor: pointer;
  }
  a:hover,
  button:hover {
    background: color-mix(in oklab, var(--color-base-content) 6%, transparent);
  }
</style>
