<!-- The frame: who is signed in, where one is, and what just happened. -->
<script lang="ts">
  import CalendarRange from '~icons/lucide/calendar-range';
  import Ellipsis from '~icons/lucide/ellipsis';
  import Fan from '~icons/lucide/fan';
  import House from '~icons/lucide/house';
  import NotebookText from '~icons/lucide/notebook-text';
  import ListChecks from '~icons/lucide/list-checks';
  import LogOut from '~icons/lucide/log-out';
  import Moon from '~icons/lucide/moon';
  import Package from '~icons/lucide/package';
  import Search from '~icons/lucide/search';
  import Sun from '~icons/lucide/sun';
  import SunMoon from '~icons/lucide/sun-moon';
  import Router, { push, router } from 'svelte-spa-router';
  import wrap from 'svelte-spa-router/wrap';

  import { keys } from './lib/state/keys.svelte';
  import { live } from './lib/state/live';
  import { notice } from './lib/state/notice.svelte';
  import { session } from './lib/state/session.svelte';
  import { theme } from './lib/state/theme.svelte';
  import Notice from './lib/ui/Notice.svelte';
  import Trouble from './lib/ui/Trouble.svelte';
  import Waiting from './lib/ui/Waiting.svelte';
  import Moved from './routes/Moved.svelte';
  import Nowhere from './routes/Nowhere.svelte';
  import Round from './routes/Round.svelte';
  import SignIn from './routes/SignIn.svelte';

  const machine = wrap({ asyncComponent: () => import('./routes/Machine.svelte') });
  const add = wrap({ asyncComponent: () => import('./routes/SetUp.svelte') });
  const floor = wrap({ asyncComponent: () => import('./routes/Floor.svelte') });
  const faults = wrap({ asyncComponent: () => import('./routes/Faults.svelte') });
  const routes = {
    '/': Round,
    '/machines': wrap({ asyncComponent: () => import('./routes/Machines.svelte') }),
    '/machines/:id': machine,
    '/machines/:id/set-up': wrap({ asyncComponent: () => import('./routes/MachineSettings.svelte') }),
    '/machines/:id/:slot': machine,
    '/add': add,
    '/add/:old': add,
    '/look/:id': wrap({ asyncComponent: () => import('./routes/LookRound.svelte') }),
    '/floor': floor,
    '/floor/:id': floor,
    '/household': wrap({ asyncComponent: () => import('./routes/Household.svelte') }),
    '/household/people': wrap({ asyncComponent: () => import('./routes/People.svelte') }),
    '/household/you': wrap({ asyncComponent: () => import('./routes/You.svelte') }),
    '/household/devices': wrap({ asyncComponent: () => import('./routes/Devices.svelte') }),
    '/household/data': wrap({ asyncComponent: () => import('./routes/Data.svelte') }),
    '/season': wrap({ asyncComponent: () => import('./routes/Season.svelte') }),
    '/season/what-if': wrap({ asyncComponent: () => import('./routes/WhatIf.svelte') }),
    '/shelf': wrap({ asyncComponent: () => import('./routes/Shelf.svelte') }),
    '/shelf/list/:horizon/:waste?': wrap({ asyncComponent: () => import('./routes/ShelfList.svelte') }),
    '/wear/:id': wrap({ asyncComponent: () => import('./routes/Wear.svelte') }),
    '/filters/:id': wrap({ asyncComponent: () => import('./routes/FilterLog.svelte') }),
    '/rack': wrap({ asyncComponent: () => import('./routes/Rack.svelte') }),
    '/labels': wrap({ asyncComponent: () => import('./routes/Labels.svelte') }),
    '/print/:id': wrap({ asyncComponent: () => import('./routes/PrintSheet.svelte') }),
    '/plan': wrap({ asyncComponent: () => import('./routes/Plan.svelte') }),
    '/faults': faults,
    '/faults/case/:id': wrap({ asyncComponent: () => import('./routes/Case.svelte') }),
    '/faults/report/:id': wrap({ asyncComponent: () => import('./routes/FaultsReport.svelte') }),
    '/faults/:machine': faults,
    '/trace': Moved,
    '/trace/*': Moved,
    '/bench': wrap({ asyncComponent: () => import('./routes/Sheets.svelte') }),
    '/bench/:id': wrap({ asyncComponent: () => import('./routes/Bench.svelte') }),
    '/log': wrap({ asyncComponent: () => import('./routes/Log.svelte') }),
    '/more': wrap({ asyncComponent: () => import('./routes/More.svelte') }),
    '*': Nowhere,
  };
  /** The places, each guessed from its word; Bench and Rack belong to Round, which leads there. */
  const tabs = [
    { to: '/', name: 'Round', icon: ListChecks, at: /^\/($|bench|rack|plan)/, phone: true },
    { to: '/season', name: 'Season', icon: CalendarRange, at: /^\/season/, phone: false },
    { to: '/machines', name: 'Machines', icon: Fan, at: /^\/(machines|wear|filters|look|add)/, phone: true },
    { to: '/faults', name: 'Faults', icon: Search, at: /^\/faults/, phone: true },
    { to: '/shelf', name: 'Shelf', icon: Package, at: /^\/shelf/, phone: true },
    { to: '/log', name: 'Log', icon: NotebookText, at: /^\/log/, phone: false },
    { to: '/household', name: 'Household', icon: House, at: /^\/(household|labels)/, phone: false },
  ];
  const inMore = (path: string) =>
    path.startsWith('/more') || tabs.some((tab) => !tab.phone && tab.at.test(path));
  const LOOKS = { auto: SunMoon, light: Sun, dark: Moon };
  const Look = $derived(LOOKS[theme.current]);

  void session.refresh();
  $effect(() => live.want(session.lastRecord ?? null));
  keys.lend('Everywhere', [
    { key: 'h', does: 'Round', run: () => void push('/') },
    { key: 'n', does: 'Season: visits of half a year', run: () => void push('/season') },
    { key: 'm', does: 'Machines', run: () => void push('/machines') },
    { key: 'b', does: 'Bench', run: () => void push('/bench') },
    { key: 'y', does: 'Rack: what dries', run: () => void push('/rack') },
    { key: 'e', does: 'Faults: something is wrong', run: () => void push('/faults') },
    { key: 's', does: 'Shelf: spare parts', run: () => void push('/shelf') },
    { key: 'l', does: 'Log: everything that happened', run: () => void push('/log') },
    { key: 'o', does: 'Household', run: () => void push('/household') },
    { key: 'a', does: 'Add a machine', run: () => void push('/add') },
    { key: 'f', does: 'Before a run, and may I pick this up?', run: () => void push('/floor') },
    { key: 'u', does: 'Undo what was just recorded', run: () => void notice.undo() },
    { key: 't', does: 'Light, dark, or as the device has it', run: () => void session.nextTheme() },
    { key: '?', does: 'This list', run: () => keys.help() },
  ]);
</script>

<svelte:window onkeydown={(event) => keys.handle(event)} />

{#if session.load.status === 'pending'}
  <Waiting what="Opening Yperon" />
{:else if session.load.status === 'error'}
  <main class="mx-auto max-w-xl p-6 max-sm:pb-(--tabbar)">
    <Trouble problem={session.load.problem} retry={() => void session.refresh()} />
  </main>
{:else if router.location.startsWith('/invited/')}
  {#await import('./routes/Invited.svelte') then { default: Invited }}
    <Invited secret={router.location.slice('/invited/'.length)} />
  {/await}
{:else if session.first}
  {#await import('./routes/First.svelte') then { default: First }}<First
      codeNeeded={session.first.code_needed}
    />{/await}
{:else if !session.member}
  <SignIn />
{:else}
  <a class="skip" href="#main" onclick={(e) => (e.preventDefault(), document.getElementById('main')?.focus())}
    >Skip to the page</a
  >
  <header class="bar">
    <p class="brand">Yperon</p>
    <nav aria-label="Screens">
      {#each tabs as tab (tab.to)}
        <a
          href={`#${tab.to}`}
          class={[tab.at.test(router.location) && 'here', !tab.phone && 'wide']}
          aria-current={tab.at.test(router.location) ? 'page' : undefined}
        >
          <tab.icon width="20" height="20" aria-hidden="true" />{tab.name}
        </a>
      {/each}
      <a
        href="#/more"
        class={['narrow', inMore(router.location) && 'here']}
        aria-current={inMore(router.location) ? 'page' : undefined}
        ><Ellipsis width="20" height="20" aria-hidden="true" />More</a
      >
    </nav>
    {#if session.households.length > 1}
      <select
        class="house select select-sm"
        aria-label="Household"
        value={session.member.household_id}
        onchange={(event) => void session.lookAt(event.currentTarget.value)}
      >
        {#each session.households as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select>
    {:else}
      <p class="house">
        {session.member.household}{session.speed > 1 ? `, time ${session.speed} times as fast` : ''}
      </p>
    {/if}
    <div class="flex gap-1">
      <button class="tool" aria-label="Keys" title="Keys (?)" onclick={() => keys.help()}>?</button>
      <button
        class="tool"
        aria-label={theme.words}
        title={theme.words}
        onclick={() => void session.nextTheme()}><Look width="19" height="19" /></button
      >
      <button class="tool wide" aria-label="Sign out" title="Sign out" onclick={() => void session.signOut()}
        ><LogOut width="19" height="19" /></button
      >
    </div>
  </header>
  <main class="max-sm:pb-(--tabbar)" id="main" tabindex="-1">
    {#key session.member.tastes.numbers}<Router {routes} />{/key}
  </main>
  <Notice />
{/if}
{#if keys.helpOpen}
  {#await import('./lib/ui/KeysHelp.svelte') then { default: KeysHelp }}<KeysHelp />{/await}
{/if}

<style>
  .skip {
    position: absolute;
    left: -999px;
  }
  .skip:focus {
    left: 1rem;
    top: 0.5rem;
    z-index: 50;
    padding: 0.5rem 1rem;
    background: var(--color-base-100);
  }
  main:focus {
    outline: none;
  }
  .narrow {
    display: none;
  }
  .bar {
    display: flex;
    align-items: center;
    gap: 1.5rem;
    height: var(--bar);
    padding-inline: clamp(1rem, 2.5vw, 1.75rem);
    background: var(--color-neutral);
    color: var(--color-neutral-content);
  }
  .brand {
    font-size: 1.3rem;
    font-weight: 800;
    letter-spacing: 0.01em;
  }
  nav {
    display: flex;
    align-self: stretch;
    gap: 0.25rem;
    flex: 1;
  }
  nav a {
    display: flex;
    align-items: center;
    gap: 0.5rem;
    padding-inline: 1rem;
    border-bottom: 4px solid transparent;
    border-top: 4px solid transparent;
  }
  nav a:hover {
    background: color-mix(in oklab, currentColor 12%, transparent);
  }
  nav a.here {
    border-bottom-color: var(--color-base-300);
    font-weight: 700;
  }
  .house.select {
    width: auto;
    max-width: 12rem;
    background-color: transparent;
    color: inherit;
  }
  .house.select option {
    color: var(--color-base-content);
    background: var(--color-base-100);
  }
  .tool {
    display: grid;
    place-items: center;
    width: 2.5rem;
    height: 2.5rem;
    border-radius: 0.5rem;
    font-weight: 700;
    cursor: pointer;
  }
  .tool:hover {
    background: color-mix(in oklab, currentColor 15%, transparent);
  }
  .bar :focus-visible {
    outline-color: #8fbdf0;
  }
  @media (max-width: 39.99rem) {
    :global(:root) {
      --tabbar: 4rem;
    }
    .house {
      flex: 1;
      text-align: right;
      overflow: hidden;
      white-space: nowrap;
      text-overflow: ellipsis;
    }
    .bar {
      gap: 0.75rem;
    }
    nav {
      position: fixed;
      inset: auto 0 0 0;
      z-index: 20;
      gap: 0;
      height: var(--tabbar);
      background: var(--color-neutral);
    }
    .wide {
      display: none;
    }
    .narrow {
      display: flex;
    }
    nav a {
      flex: 1 1 0;
      flex-direction: column;
      justify-content: center;
      gap: 0.1rem;
      padding: 0;
      font-size: 0.78rem;
    }
  }
</style>
