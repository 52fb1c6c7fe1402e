<!-- Devices that report by themselves: which there are, what is asked about what they said, and a new one. -->
<script lang="ts">
  import { onDestroy, untrack } from 'svelte';

  import { DevicesState } from '../lib/state/devices.svelte';
  import { house } from '../lib/state/house.svelte';
  import { live } from '../lib/state/live';
  import { session } from '../lib/state/session.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import Panel from '../lib/ui/Panel.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import { FALL_FIRST, fallWords, saidWords, WITHOUT_FIRST, withoutWords } from '../lib/words/devices';
  import { dayAndTime } from '../lib/words/format';
  import Asked from './devices/Asked.svelte';
  import Connect from './devices/Connect.svelte';
  import DeviceRow from './devices/DeviceRow.svelte';
  import Token from './devices/Token.svelte';
  import Tabs from './household/Tabs.svelte';

  const devices = new DevicesState();
  onDestroy(live.on(() => void devices.refresh()));
  $effect(() => {
    void house.round; // each record and each undo brings a new one
    untrack(() => void devices.refresh());
  });

  const owner = $derived(session.member?.role === 'owner');
  const zone = $derived(session.member?.time_zone);
  let open = $state<string | null>(null);
</script>

<svelte:head><title>Devices · Yperon</title></svelte:head>

<div class="page max-w-240">
  <header><Tabs /></header>
  {#if devices.problem}<Trouble problem={devices.problem} />{/if}
  {#if devices.made}<Token made={devices.made} ondone={() => (devices.made = null)} />{/if}
  <Loaded load={devices.load} what="Looking which devices there are" retry={() => void devices.refresh()}>
    {#snippet children(all)}
      {#if all.heard.asked.length}
        <Panel title="Asked of you">
          <p class="soft mb-2">What these told cannot simply be true. It does not count before you say so.</p>
          {#each all.heard.asked as one (one.entry_ids[0])}<Asked {one} {devices} {zone} />{/each}
        </Panel>
      {/if}
      {#if all.heard.ran_without.length}
        <Panel title="Stop it">
          {#each all.heard.ran_without as one (one.machine_id + one.part)}
            <p class="ink-overdue">
              <b
                ><a class="link" href={`#/machines/${one.machine_id}`}>{one.machine}</a>
                {withoutWords(one)}</b
              >, last {dayAndTime(one.last, zone)}. {WITHOUT_FIRST}
            </p>
          {/each}
        </Panel>
      {/if}
      {#if all.heard.falls.length || all.heard.said.length}
        <Panel title="Noticed">
          <ul class="grid gap-2">
            {#each all.heard.falls as one (one.machine_id + one.quantity)}
              <li>
                <b><a class="link" href={`#/faults/${one.machine_id}`}>{one.machine}</a></b>
                {fallWords(one)}. <span class="soft">{FALL_FIRST}</span>
              </li>
            {/each}
            {#each all.heard.said as one (one.entry_id)}
              <li>
                <b><a class="link" href={`#/faults/${one.machine_id}`}>{one.machine}</a></b> says: {saidWords(
                  one,
                )} <span class="soft">{dayAndTime(one.at, zone)}</span>
              </li>
            {/each}
          </ul>
        </Panel>
      {/if}
      <Panel title="Devices">
        {#each all.devices as device (device.id)}
          <DeviceRow
            {device}
            {devices}
            {owner}
            {zone}
            open={open === device.id}
            ontoggle={() => (open = open === device.id ? null : device.id)}
          />
        {:else}
          <p class="soft">
            No device reports yet, and none has to: a tap on Round tells of a run, and a table of runs can be
            brought in on <a class="link" href="#/household/data">Data</a>.
          </p>
        {/each}
      </Panel>
      {#if owner}
        <Connect {devices} {all} first={!devices.made && !all.heard.asked.length} />
      {:else}
        <p class="soft">An owner connects devices.</p>
      {/if}
    {/snippet}
  </Loaded>
</div>
