<!-- How things are shown to whoever is signed in, their password, where they are signed in, their households. -->
<script lang="ts">
  import { AccountState } from '../lib/state/account.svelte';
  import { session } from '../lib/state/session.svelte';
  import Choice from '../lib/ui/Choice.svelte';
  import Field from '../lib/ui/Field.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import Panel from '../lib/ui/Panel.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import { day } from '../lib/words/format';
  import Another from './household/Another.svelte';
  import Tabs from './household/Tabs.svelte';

  const account = new AccountState();
  void account.refresh();

  const tastes = $derived(session.member!.tastes);
  let old = $state('');
  let fresh = $state('');

  async function change(event: SubmitEvent) {
    event.preventDefault();
    if (await account.changePassword(old, fresh)) [old, fresh] = ['', ''];
  }
</script>

<svelte:head><title>You · Yperon</title></svelte:head>

<div class="page max-w-240">
  <header>
    <Tabs />
    <p class="soft">
      {session.member?.name}, signed in as {session.member?.user_name}. What you choose here is yours on every
      device.
    </p>
  </header>
  <Panel title="How things are shown">
    <div class="grid gap-4">
      <Choice
        legend="Units"
        options={[
          ['metric', 'metric: m², °C, mm'],
          ['us', 'US: sq ft, °F, inches'],
        ]}
        value={tastes.units}
        small
        onchoose={(units) => void session.choose({ units })}
      />
      <Choice
        legend="Colours"
        options={[
          ['auto', 'as the device has them'],
          ['light', 'light'],
          ['dark', 'dark'],
        ]}
        value={tastes.theme}
        small
        onchoose={(theme) => void session.choose({ theme })}
      />
      <Choice
        legend="Letters"
        options={[
          ['usual', 'as usual'],
          ['large', "larger, to be read at arm's length"],
        ]}
        value={tastes.text}
        small
        onchoose={(text) => void session.choose({ text })}
      />
      <Choice
        legend="Figures"
        options={[
          ['device', 'as the device writes them'],
          ['point', '1,234.5'],
          ['comma', '1.234,5'],
          ['space', '1 234,5'],
        ]}
        value={tastes.numbers}
        small
        onchoose={(numbers) => void session.choose({ numbers })}
      />
    </div>
  </Panel>
  <Panel title="Password">
    {#if account.problem}<div class="mb-3"><Trouble problem={account.problem} /></div>{/if}
    <form class="flex flex-wrap items-end gap-3" onsubmit={change}>
      <input type="hidden" autocomplete="username" value={session.member?.user_name} />
      <Field
        label="The one until now"
        type="password"
        autocomplete="current-password"
        bind:value={old}
        required
      />
      <Field
        label="The new one (8 characters or more)"
        type="password"
        autocomplete="new-password"
        minlength={8}
        bind:value={fresh}
        required
      />
      <button class="btn">Change it</button>
    </form>
    <p class="soft mt-2">
      Every other browser is then signed out. Forgotten? An owner makes you a link for a new one.
    </p>
  </Panel>
  <Panel title="Where you are signed in">
    <Loaded load={account.load} what="Looking" retry={() => void account.refresh()}>
      {#snippet children(found)}
        <ul>
          {#each found as one (one.id)}
            <li class="flex flex-wrap items-center justify-between gap-2 py-1">
              <span
                >{one.device}{one.here ? ', here' : ''}
                {#if one.since}<span class="soft">since {day(one.since)}</span>{/if}</span
              >
              {#if !one.here}
                <button
                  class="btn btn-sm"
                  aria-label={`Sign out ${one.device}`}
                  onclick={() => void account.end(one.id)}>Sign out there</button
                >
              {/if}
            </li>
          {/each}
        </ul>
        <p class="mt-3 flex flex-wrap gap-2">
          {#if found.length > 1}
            <button class="btn" onclick={() => void account.endOthers()}>Sign out everywhere else</button>
          {/if}
          <button class="btn" onclick={() => void session.signOut()}>Sign out here</button>
        </p>
      {/snippet}
    </Loaded>
  </Panel>
  <Another />
</div>
