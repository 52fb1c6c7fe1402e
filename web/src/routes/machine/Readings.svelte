<!-- What was measured or felt of a machine: rows of like readings with the work between, and a new one. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, client, type Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { type Load, loaded, PENDING, Turns } from '../../lib/state/load';
  import { session } from '../../lib/state/session.svelte';
  import Loaded from '../../lib/ui/Loaded.svelte';
  import Panel from '../../lib/ui/Panel.svelte';
  import { day, figure, localDay, percent, plural } from '../../lib/words/format';
  import { KINDS, OPENING, rowName, unitWord } from '../../lib/words/readings';
  import { doWord } from '../../lib/words/tasks';

  let {
    machine_id,
    parts,
    oncame,
  }: {
    machine_id: string;
    parts: Schemas['PartOut'][];
    /** They are there now, or it is known that they cannot be had. */
    oncame: (machine_id: string) => void;
  } = $props();

  type Row = Schemas['ReadingRowOut'];
  type Quantity = Schemas['Quantity'];

  let rows = $state.raw<Load<Row[]>>(PENDING);
  let kind = $state<Quantity>('felt');
  let typed = $state('');
  let unit = $state('');
  let opening = $state<Schemas['At']>('orifice');
  let moment = $state<Schemas['ReadingIn']['moment']>('');
  const chosen = $derived(KINDS.find((one) => one.key === kind)!);
  const zone = $derived(session.member?.time_zone);

  const turns = new Turns();
  async function load(machine_id: string) {
    const params = { path: { machine_id } };
    const answer = await turns.latest(ask(client.GET('/api/machines/{machine_id}/readings', { params })));
    if (!answer) return;
    rows = loaded(answer);
    oncame(machine_id);
  }
  $effect(() => {
    const wanted = machine_id;
    void house.machine;
    untrack(() => void load(wanted));
  });

  async function add(event: SubmitEvent) {
    event.preventDefault();
    const value = Number(typed.replace(',', '.'));
    const body = {
      quantity: kind,
      value,
      unit: chosen.units.includes(unit) ? unit : (chosen.units[0] ?? ''),
      opening: kind === 'suction' ? opening : null,
      moment,
    };
    const request = client.POST('/api/machines/{machine_id}/readings', {
      params: { path: { machine_id } },
      body,
    });
    if (await house.record(request, `${chosen.name}: ${figure(value)} ${unitWord(body.unit)} is noted.`)) {
      typed = '';
      await load(machine_id);
    }
  }

  const task = (one: Schemas['WorkOut']) =>
    `${parts.find((p) => p.slot === one.slot)?.name.toLowerCase() ?? one.slot}: ${doWord(one.action as Schemas['Action'])}`;
  /** The work between two readings; of much of it the first tasks and how many more. */
  function work({ work: done }: Row['between'][number]): string {
    const named = done.slice(0, done.length > 3 ? 2 : 3).map(task);
    const more = done.length - named.length;
    return `${named.join(', ')}${more ? ` and ${plural(more, 'more task')}` : ''}`;
  }
  function line(row: Row): string {
    const values = row.points.map((point) => point.value);
    const high = Math.max(...values, 0.001);
    const step = row.points.length > 1 ? 220 / (row.points.length - 1) : 0;
    return values
      .map((value, i) => `${i ? 'L' : 'M'} ${10 + i * step} ${48 - (value / high) * 38}`)
      .join(' ');
  }
</script>

<Panel title="Readings">
  <Loaded load={rows} what="Looking for readings" retry={() => void load(machine_id)}>
    {#snippet children(rows)}
      {#if !rows.length}
        <p class="soft mt-1">None yet. One before and one after the next service tells whether it helped.</p>
      {/if}
      {#each rows as row (`${row.quantity} ${row.opening}`)}
        {@const last = row.points.at(-1)}
        <div class="row">
          <p><b>{rowName(row)}</b></p>
          <p>
            {#if last}{figure(last.value)}
              {unitWord(row.unit)}
              <span class="soft">on {day(localDay(last.at, zone))}</span>{/if}
          </p>
          {#if row.points.length > 1}
            <svg
              class="max-w-full"
              width="240"
              height="56"
              viewBox="0 0 240 56"
              role="img"
              aria-label={`${rowName(row)}: ${row.points.map((p) => figure(p.value)).join(', ')}`}
            >
              <path class="fill-none stroke-(--drying) stroke-[2.5]" d={line(row)} />
              {#each row.points as point, i (point.entry_id)}
                {@const worked = row.between.find((one) => one.after === point.entry_id)?.work.length}
                {@const x = 10 + i * (220 / (row.points.length - 1))}
                {#if worked}<line class="work" x1={x} x2={x} y1="4" y2="54" />{/if}
                <circle
                  class="fill-(--drying)"
                  r="3.5"
                  cx={x}
                  cy={48 - (point.value / Math.max(...row.points.map((p) => p.value), 0.001)) * 38}
                />
              {/each}
            </svg>
            {#each row.between.filter((one) => one.work.length).slice(-3) as one (one.after)}
              <p class="soft text-sm">
                {work(one)}: {one.helped === null
                  ? 'no clear change'
                  : `${one.change > 0 ? '+' : '−'}${percent(Math.abs(one.change))}, ${one.helped ? 'it helped' : 'it did not help'}`}
              </p>
            {/each}
          {/if}
        </div>
      {/each}
    {/snippet}
  </Loaded>
  {#if session.mayWrite}
    <details class="mt-2">
      <summary class="link">Take a reading</summary>
      <form class="mt-2 grid gap-2" onsubmit={add}>
        <label class="grid gap-1"
          >Of what
          <select class="select w-full" bind:value={kind}>
            {#each KINDS as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
          </select></label
        >
        {#if kind === 'suction'}
          <label class="grid gap-1"
            >What the gauge draws on
            <select class="select w-full" bind:value={opening}>
              {#each Object.entries(OPENING) as [key, words] (key)}<option value={key}>{words}</option>{/each}
            </select></label
          >
        {/if}
        <div class="flex gap-2">
          <label class="grid flex-1 gap-1"
            >Figure <input class="input w-full" inputmode="decimal" required bind:value={typed} /></label
          >
          {#if chosen.units[0]}
            <label class="grid gap-1"
              >Unit
              <select class="select" bind:value={unit}>
                {#each chosen.units as one (one)}<option value={one}>{unitWord(one)}</option>{/each}
              </select></label
            >
          {/if}
        </div>
        <label class="grid gap-1"
          >When
          <select class="select w-full" bind:value={moment}>
            <option value="">any time</option>
            <option value="before">before the work</option>
            <option value="after">after the work</option>
          </select></label
        >
        <button class="btn btn-primary" disabled={house.busy || !typed}>Note it</button>
      </form>
    </details>
  {/if}
</Panel>

<style>
  .row {
    padding-block: 0.5rem;
    border-bottom: 1px solid var(--color-base-300);
  }
  .work {
    stroke: var(--soft);
    stroke-width: 1.5;
    stroke-dasharray: 3 3;
  }
</style>
