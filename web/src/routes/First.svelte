<!-- The first start: whoever is here makes the first household and becomes its owner. -->
<script lang="ts">
  import { session } from '../lib/state/session.svelte';
  import Field from '../lib/ui/Field.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import { here } from '../lib/words/format';
  import Outside from './Outside.svelte';

  let { codeNeeded }: { codeNeeded: boolean } = $props();

  let form = $state({ name: '', user_name: '', password: '', person: '', code: '' });
  let busy = $state(false);

  async function make(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    await session.makeFirst({ ...form, time_zone: here() });
    busy = false;
  }
</script>

<Outside title="Welcome">
  <p>Nobody has an account here yet. Make the first one: its owner lets others in.</p>
  {#if session.problem}<Trouble problem={session.problem} />{/if}
  <form class="grid gap-3" onsubmit={make}>
    {#if codeNeeded}
      <Field
        label="The code that the terminal shows where Yperon was started"
        of="FirstIn"
        name="code"
        autocomplete="one-time-code"
        bind:value={form.code}
        required
      />
    {/if}
    <Field label="What your household is called" of="FirstIn" name="name" bind:value={form.name} required />
    <Field
      label="Your name, as records show it"
      of="FirstIn"
      name="person"
      autocomplete="name"
      bind:value={form.person}
      required
    />
    <Field
      label="User name, to sign in"
      of="FirstIn"
      name="user_name"
      autocomplete="username"
      bind:value={form.user_name}
      required
    />
    <Field
      label="Password (8 characters or more)"
      type="password"
      autocomplete="new-password"
      minlength={8}
      bind:value={form.password}
      required
    />
    <button class="btn btn-primary" disabled={busy}>Begin</button>
  </form>
</Outside>
