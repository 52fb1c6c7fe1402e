<script lang="ts">
  import { session } from '../lib/state/session.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';

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

<main class="mx-auto grid min-h-dvh max-w-sm content-center gap-4 p-6">
  <svg width="120" height="44" viewBox="0 0 120 44" aria-hidden="true">
    <path d="M2 40 14 14h92" fill="none" stroke="var(--duct)" stroke-width="12" stroke-linejoin="round" />
    <path d="M102 0l18 14-18 14z" fill="var(--duct)" />
    <rect
      x="46"
      y="1"
      width="24"
      height="27"
      rx="5"
      fill="var(--chamber)"
      stroke="var(--due)"
      stroke-width="3.5"
    />
  </svg>
  <h1 class="text-3xl font-extrabold">Yperon</h1>
  <p class="soft">What your vacuum cleaners need next, when, and why.</p>
  {#if session.problem}<Trouble problem={session.problem} />{/if}
  <form class="grid gap-3" onsubmit={submit}>
    <label class="grid gap-1"
      >User name <input class="input w-full" autocomplete="username" bind:value={name} required /></label
    >
    <label class="grid gap-1"
      >Password <input
        class="input w-full"
        type="password"
        autocomplete="current-password"
        bind:value={password}
        required
      /></label
    >
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
</main>
