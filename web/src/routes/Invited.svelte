<!-- Where the link of an invitation leads: in with a new account or with the one there is, or to a new password. -->
<script lang="ts">
  import { replace } from 'svelte-spa-router';

  import { ask, client, type Schemas } from '../lib/api/client';
  import { type Load, loaded, PENDING } from '../lib/state/load';
  import { session } from '../lib/state/session.svelte';
  import Field from '../lib/ui/Field.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { roleWords } from '../lib/words/people';
  import Outside from './Outside.svelte';

  let { secret }: { secret: string } = $props();

  let load = $state.raw<Load<Schemas['InvitedOut']>>(PENDING);
  let mine = $state(false);
  let form = $state({ user_name: '', password: '', person: '' });
  let busy = $state(false);

  async function look() {
    load = loaded(await ask(client.POST('/api/invited', { body: { secret } })));
    if (load.status === 'ok') form.person = load.data.name;
  }
  void look();

  async function accept(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    if (await session.accept({ secret, mine, ...form })) void replace('/');
    busy = false;
  }
  const asMe = $derived(mine && session.member !== null);
</script>

<svelte:head><title>Invitation · Yperon</title></svelte:head>

{#if load.status === 'pending'}
  <Waiting what="Looking at the invitation" />
{:else if load.status === 'error'}
  <Outside>
    <Trouble problem={load.problem} retry={load.problem.status === 0 ? () => void look() : null} />
    <p><a class="link" href="#/">To the sign-in</a></p>
  </Outside>
{:else if load.data.user_name}
  <Outside title="A new password">
    <p>For <b>{load.data.user_name}</b> of {load.data.household}. Every browser is signed out by it.</p>
    {#if session.problem}<Trouble problem={session.problem} />{/if}
    <form class="grid gap-3" onsubmit={accept}>
      <input type="hidden" autocomplete="username" value={load.data.user_name} />
      <Field
        label="New password (8 characters or more)"
        type="password"
        autocomplete="new-password"
        minlength={8}
        bind:value={form.password}
        required
      />
      <button class="btn btn-primary" disabled={busy}>Set it and sign in</button>
    </form>
  </Outside>
{:else}
  <Outside title={load.data.household}>
    <p>{load.data.by} invites you, as {roleWords(load.data.role)}.</p>
    {#if session.problem}<Trouble problem={session.problem} />{/if}
    <fieldset class="grid gap-1">
      <legend class="mb-1 font-bold">Do you have an account here?</legend>
      <label class="flex items-center gap-3 min-h-11 cursor-pointer"
        ><input type="radio" class="radio" bind:group={mine} value={false} /> No, I am new</label
      >
      <label class="flex items-center gap-3 min-h-11 cursor-pointer"
        ><input type="radio" class="radio" bind:group={mine} value={true} />
        {session.member ? `Yes: come in as ${session.member.user_name}` : 'Yes, I have one'}</label
      >
    </fieldset>
    <form class="grid gap-3" onsubmit={accept}>
      {#if !asMe}
        {#if !mine}
          <Field
            label="Your name, as records show it"
            of="AcceptIn"
            name="person"
            autocomplete="name"
            bind:value={form.person}
            required
          />
        {/if}
        <Field
          label="User name"
          of="AcceptIn"
          name="user_name"
          autocomplete="username"
          bind:value={form.user_name}
          required
        />
        <Field
          label={mine ? 'Password' : 'Password (8 characters or more)'}
          type="password"
          autocomplete={mine ? 'current-password' : 'new-password'}
          minlength={mine ? undefined : 8}
          bind:value={form.password}
          required
        />
      {/if}
      <button class="btn btn-primary" disabled={busy}>Come in</button>
    </form>
  </Outside>
{/if}
