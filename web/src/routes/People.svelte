<!-- Who belongs to the household, what each may do, and links that let somebody in. -->
<script lang="ts">
  import { type Person, PeopleState, type Role } from '../lib/state/people.svelte';
  import { session } from '../lib/state/session.svelte';
  import Choice from '../lib/ui/Choice.svelte';
  import Code from '../lib/ui/Code.svelte';
  import Field from '../lib/ui/Field.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import Panel from '../lib/ui/Panel.svelte';
  import Row from '../lib/ui/Row.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import { fullDay } from '../lib/words/format';
  import { ROLES, roleWords } from '../lib/words/people';
  import Goodbye from './household/Goodbye.svelte';
  import Tabs from './household/Tabs.svelte';

  const people = new PeopleState();
  void people.refresh();

  const owner = $derived(session.member?.role === 'owner');
  let open = $state<string | null>(null);
  let name = $state('');
  let role = $state<Role>('helper');
  let leaving = $state.raw<Person | null>(null);
  let copied = $state(false);

  async function invite(event: SubmitEvent) {
    event.preventDefault();
    if (await people.invite({ name, role }, name || 'somebody')) [name, copied] = ['', false];
  }
  async function copy(address: string) {
    await navigator.clipboard?.writeText(address).catch(() => {});
    copied = true;
  }
  const mayBeNamed = (person: Person) => owner || person.me;
</script>

<svelte:head><title>People · Yperon</title></svelte:head>

<div class="page max-w-240">
  <header><Tabs /></header>
  {#if people.problem}<Trouble problem={people.problem} />{/if}
  {#if people.link}
    {@const link = people.link}
    <section
      class="panel p-4 grid grid-cols-[minmax(0,1fr)_11rem] gap-y-4 gap-x-6 items-start border-l-4 border-l-secondary max-sm:grid-cols-1"
      aria-label="The link"
    >
      <div>
        <h2>A link for {link.name}</h2>
        <p class="mt-1">
          Send it, or let it be scanned. It is good once, until {fullDay(link.expires_at)}, and is shown only
          now.
        </p>
        <p class="mt-3 py-2 px-3 wrap-anywhere bg-base-200 rounded-[0.5rem]"><code>{link.address}</code></p>
        {#if link.only_here}
          <p class="soft mt-1">
            This address is good on this computer only. For a phone, start Yperon with
            <b>make serve LAN=1</b>, open the address it names, and make the link there.
          </p>
        {/if}
        <p class="mt-3 flex flex-wrap gap-2">
          <button class="btn btn-primary" onclick={() => void copy(link.address)}
            >{copied ? 'Copied' : 'Copy it'}</button
          >
          <button class="btn" onclick={() => (people.link = null)}>It is sent</button>
        </p>
      </div>
      <Code address={link.address} rows={link.rows} />
    </section>
  {/if}
  <Loaded load={people.load} what="Looking who is here" retry={() => void people.refresh()}>
    {#snippet children(here)}
      <Panel title="Who belongs to it">
        {#each here.people as person (person.id)}
          <Row
            open={open === person.id}
            ontoggle={() => (open = open === person.id ? null : person.id)}
            end={roleWords(person.role)}
          >
            {#snippet line()}<b>{person.name}</b>{person.me ? ', you' : ''}
              <span class="soft"
                >{person.user_name ? `signs in as ${person.user_name}` : 'known by name only'}</span
              >{/snippet}
            <div class="grid gap-3 py-2">
              <p class="soft">Here since {fullDay(person.joined_at)}, as {ROLES[person.role]}.</p>
              {#if mayBeNamed(person)}
                <form
                  class="flex flex-wrap items-end gap-2"
                  onsubmit={(event) => {
                    event.preventDefault();
                    const name = new FormData(event.currentTarget).get('name');
                    void people.change(person, String(name), person.role);
                  }}
                >
                  <label class="grid gap-1"
                    >Name in records <input
                      class="input"
                      name="name"
                      value={person.name}
                      maxlength="80"
                      required
                    /></label
                  >
                  <button class="btn">Keep the name</button>
                </form>
              {/if}
              {#if owner}
                <Choice
                  legend="May"
                  options={Object.entries(ROLES) as [Role, string][]}
                  value={person.role}
                  disabled={people.busy}
                  onchoose={(role) => void people.change(person, person.name, role)}
                />
              {/if}
              <p class="flex flex-wrap gap-2">
                {#if owner && !person.me}
                  <button
                    class="btn"
                    onclick={() =>
                      void people.invite({ member_id: person.id, name: '', role: person.role }, person.name)}
                    >{person.user_name ? 'A link for a new password' : 'A link to sign in'}</button
                  >
                {/if}
                {#if owner || person.me}
                  <button class="btn" onclick={() => (leaving = person)}
                    >{person.me ? 'Leave this household…' : `${person.name} leaves…`}</button
                  >
                {/if}
                {#if person.me}<a class="btn" href="#/household/you">Password and more</a>{/if}
              </p>
            </div>
          </Row>
        {/each}
        {#if here.people.length === 1 && owner}
          <p class="soft mt-3">Nobody else yet. Whoever helps needs a sign-in of their own: invite them.</p>
        {/if}
      </Panel>
      {#if owner}
        <Panel title="Invite somebody">
          <form class="grid gap-3" onsubmit={invite}>
            <div class="max-w-80">
              <Field label="What they are called" of="InvitationIn" name="name" bind:value={name} />
            </div>
            <Choice
              legend="May"
              options={Object.entries(ROLES) as [Role, string][]}
              value={role}
              onchoose={(one) => (role = one)}
            />
            <button class={['btn justify-self-start', !people.link && 'btn-primary']} disabled={people.busy}
              >Make a link</button
            >
          </form>
          {#if here.invitations.length}
            <h3 class="mt-4 font-bold">Links that are still good</h3>
            <ul>
              {#each here.invitations as one (one.id)}
                <li class="flex flex-wrap items-center justify-between gap-2 py-1">
                  <span
                    >{one.name || 'somebody'}: {one.sets_password ? 'a new password' : roleWords(one.role)},
                    until {fullDay(one.expires_at)}
                    <span class="soft">made by {one.made_by}</span></span
                  >
                  <button class="btn btn-sm" onclick={() => void people.takeBack(one.id)}>Take it back</button
                  >
                </li>
              {/each}
            </ul>
          {/if}
        </Panel>
      {:else}
        <p class="soft">An owner lets people in and says who may do what.</p>
      {/if}
    {/snippet}
  </Loaded>
</div>
{#if leaving}
  <Goodbye {people} person={leaving} onclose={() => (leaving = null)} />
{/if}
