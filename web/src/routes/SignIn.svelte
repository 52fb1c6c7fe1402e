<script lang="ts">
  import { session } from '../lib/state/session.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Outside from './Outside.svelte';
  import Field from '../lib/ui/Field.svelte';

  let name = $state('');
  let password = $state('');
  let busy = $state(false);
  const demo = $derived(session.load.status === 'ok' ? session.load.data.demo : null);

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    await session.signIn(name, password);
    busy = false;
  }
</script>

<Outside>
  <p class="soft">What your vacuum cleaners need next, when, and why.</p>
  {#if session.problem}<Trouble problem={session.problem} />{/if}
  <form class="grid gap-3" onsubmit={submit}>
    <Field label="User name" autocomplete="username" bind:value={name} required />
    <Field label="Password" type="password" autocomplete="current-password" bind:value={password} required />
    <button class="btn btn-primary" disabled={busy}>Sign in</button>
  </form>
  {#if demo}
    <div class="panel p-4">
      <p>This is the demo household. Sign in as <b>{demo.user_name}</b> with <b>{demo.password}</b>.</p>
      <button class="btn btn-sm mt-2" onclick={() => ((name = demo.user_name), (password = demo.password))}
        >Fill it in</button
      >
    </div>
  {/if}
</Outside>
