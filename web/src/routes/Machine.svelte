<!-- A machine: its air path, the chosen part with its clocks, what comes when; then use, bag, readings, records. -->
<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { MediaQuery } from 'svelte/reactivity';
  import { push } from 'svelte-spa-router';

  import AirPath from '../lib/airpath/AirPath.svelte';
  import type { Chamber } from '../lib/airpath/layout';
  import { house } from '../lib/state/house.svelte';
  import { keys } from '../lib/state/keys.svelte';
  import { live } from '../lib/state/live';
  import { keepPicks } from '../lib/state/picks';
  import { session } from '../lib/state/session.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import Dust from './machine/Dust.svelte';
  import AirLab from './machine/AirLab.svelte';
  import Head from './machine/Head.svelte';
  import History from './machine/History.svelte';
  import Notes from './machine/Notes.svelte';
  import Readings from './machine/Readings.svelte';
  import TimeLine from './machine/TimeLine.svelte';
  import Part from './machine/Part.svelte';
  import Rounds from './machine/Rounds.svelte';
  import Weeks from './machine/Weeks.svelte';

  let { params = {} }: { params?: { id?: string; slot?: string } } = $props();

  let lab = $state(false);
  const phone = new MediaQuery('max-width: 39.99rem');
  const narrow = $derived(phone.current);
  const id = $derived(params.id ?? '');
  const page = $derived(
    house.machine.status === 'ok' && house.machine.data.strip.id === id ? house.machine.data : null,
  );
  const slot = $derived(params.slot ?? page?.first_slot ?? null);
  const part = $derived(page?.parts.find((one) => one.slot === slot) ?? page?.parts[0] ?? null);
  const chamber = $derived(page?.strip.chambers.find((one) => one.slots.includes(part?.slot ?? '')) ?? null);
  const together = $derived(page?.parts.filter((one) => chamber?.slots.includes(one.slot)) ?? []);

  /** The machine whose bags and whose readings are there: what lies below waits, and does not move under a finger. */
  let came = $state({ dust: '', readings: '' });
  const settled = $derived(came.dust === id && came.readings === id);

  /** All regular care, or what is done against a complaint. */
  async function planService(which: string) {
    keepPicks(page?.in_one_go.find((one) => one.key === which)?.tasks ?? page?.service ?? []);
    await push('/plan');
  }

  $effect(() => {
    const wanted = id;
    untrack(() => {
      void house.loadMachine(wanted);
      if (house.round.status !== 'ok') void house.loadRound();
    });
  });

  const go = (to: string) => void push(`/machines/${id}/${to}`);
  function select(one: Chamber) {
    if (!one.slots[0]) return;
    go(one.slots[0]);
    if (narrow) document.getElementById('part')?.scrollIntoView({ behavior: 'smooth' });
  }
  function walk(by: number) {
    const parts = page?.parts ?? [];
    const i = parts.findIndex((one) => one.slot === part?.slot);
    const next = parts[(i + by + parts.length) % parts.length];
    if (next) go(next.slot);
  }
  onDestroy(live.on(() => void house.loadMachine(id)));
  onDestroy(
    keys.lend('Machine', [
      { key: 'j', does: 'Next part', run: () => walk(1) },
      { key: 'k', does: 'Part before', run: () => walk(-1) },
    ]),
  );
</script>

<svelte:head><title>{page?.strip.name ?? 'Machine'} · Yperon</title></svelte:head>

{#if house.machine.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={house.machine.problem} retry={() => void house.loadMachine(id)} />
    <p class="mt-3"><a class="link" href="#/machines">All machines</a></p>
  </div>
{:else if !page || !part}
  <Waiting what="Opening the machine" />
{:else}
  <div class="page">
    <Head {page} onplan={(which) => void planService(which)} />
    <section class="panel px-3 py-4" aria-label="Air path">
      <AirPath
        chambers={page.strip.chambers}
        now={page.now}
        name={page.strip.name}
        upright={narrow}
        selected={chamber?.key ?? null}
        onselect={select}
      />
    </section>
    <section id="part" class="min-w-0" aria-label="Part">
      {#if together.length > 1}
        <div class="mb-2 flex flex-wrap gap-2" role="group" aria-label="Parts here">
          {#each together as one (one.slot)}
            <button
              class={['btn btn-sm', one.slot === part.slot && 'btn-active']}
              aria-pressed={one.slot === part.slot}
              onclick={() => go(one.slot)}>{one.name}</button
            >
          {/each}
        </div>
      {/if}
      {#key part.slot}
        <Part {part} machine={page.strip} now={page.now} today={page.today} mayWrite={session.mayWrite} />
      {/key}
    </section>
    <TimeLine parts={page.parts} today={page.today} selected={part.slot} onselect={go} />
    <div class="abreast">
      <Weeks weeks={page.weeks} />
      <Dust machine={page} oncame={(of) => (came.dust = of)} />
      <Readings machine_id={page.strip.id} parts={page.parts} oncame={(of) => (came.readings = of)} />
    </div>
    {#if settled}
      <History
        lines={page.history}
        parts={page.parts}
        slot={part.slot}
        today={page.today}
        mayWrite={session.mayWrite}
        filters={`#/filters/${id}`}
      />
      <Notes machine_id={page.strip.id} slot={part.slot} slot_name={part.name} mayWrite={session.mayWrite} />
      <Rounds machine_id={page.strip.id} together={page.in_one_go} onplan={(key) => void planService(key)} />
      {#if page.strip.chambers.some((one) => one.column === 'motor')}
        <details class="panel" ontoggle={(event) => (lab = event.currentTarget.open)}>
          <summary class="cursor-pointer p-4 font-bold"
            >Air lab: what a full filter, a clog or a leak would do</summary
          >
          {#if lab}<AirLab strip={page.strip} now={page.now} />{/if}
        </details>
      {/if}
    {/if}
  </div>
{/if}
