<!-- Bags and bins of a machine: how full, full when, how fast; their size told once, a look inside any time. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { DustState, type Holder } from '../../lib/state/dust.svelte';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Field from '../../lib/ui/Field.svelte';
  import Panel from '../../lib/ui/Panel.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import { emptied, FULL, rate, restsOn, UNITS, why } from '../../lib/words/dust';
  import { percent } from '../../lib/words/format';
  import FillLog from './FillLog.svelte';

  let {
    machine,
    oncame,
  }: {
    machine: Schemas['MachineOut'];
    /** They are there now, or it is known that they cannot be had. */
    oncame: (machine_id: string) => void;
  } = $props();

  const dust = new DustState();
  const id = $derived(machine.strip.id);
  let telling = $state<string | null>(null);
  type Unit = Schemas['SizeIn']['unit'];
  let size = $state({
    volume: '',
    unit: 'L' as Unit,
    borrowed: false,
    known_volume: '',
    known_unit: 'L' as Unit,
    known_weeks: '',
    pressed: '1',
  });
  const may = $derived(session.mayWrite && !dust.busy && !house.busy);

  /** After whatever was recorded of the machine its estimates are others. */
  $effect(() => {
    const wanted = machine.strip.id;
    untrack(() => void dust.refresh(wanted).then(() => oncame(wanted)));
  });

  function begin(holder: Holder) {
    const old = holder.size;
    const text = (value: number | null | undefined) => (value ? String(value) : '');
    size = {
      volume: text(old?.volume),
      unit: old?.unit ?? (session.us ? 'qt' : 'L'),
      borrowed: Boolean(old?.known_weeks),
      known_volume: text(old?.known_volume),
      known_unit: old?.known_unit ?? 'L',
      known_weeks: text(old?.known_weeks),
      pressed: String(old?.pressed ?? 1),
    };
    [telling, dust.problem] = [telling === holder.slot ? null : holder.slot, null];
  }

  async function tell(event: SubmitEvent, slot: string) {
    event.preventDefault();
    const kept = await dust.tell(id, slot, {
      volume: Number(size.volume),
      unit: size.unit,
      known_volume: size.borrowed ? Number(size.known_volume) : null,
      known_unit: size.known_unit,
      known_weeks: size.borrowed ? Number(size.known_weeks) : null,
      pressed: size.borrowed ? Number(size.pressed) : 1,
    });
    if (kept) telling = null;
  }

  async function forget(slot: string) {
    if (await dust.forget(id, slot)) telling = null;
  }

  const looked = (holder: Holder, found: Schemas['Found']) =>
    house.look(id, { slot: holder.slot, about: holder.action, found }, `${holder.name}: looked inside.`);
</script>

{#if dust.load.status === 'ok' && dust.load.data.holders.length}
  {@const today = dust.load.data.today}
  <Panel title="Bag and bin">
    {#each dust.load.data.holders as holder (holder.slot)}
      <div class="holder">
        <p class="line">
          <b>{holder.name}</b>
          {#if holder.share !== null}
            <span>about {percent(Math.min(1, holder.share))} full</span>
          {/if}
        </p>
        {#if holder.share !== null}
          <div class="gauge" aria-hidden="true">
            <span style:width={`${Math.min(100, holder.share * 100)}%`}></span>
          </div>
          <p>
            {emptied(holder, today)}
            <span class="soft"
              >It fills {rate(holder)}: {restsOn(holder)}. An estimate: look inside near the day.</span
            >
          </p>
          <details class="soft">
            <summary>Why</summary>
            {#each why(holder) as line (line)}<p>{line}</p>{/each}
          </details>
        {:else}
          <p class="soft">
            Nothing tells yet how fast it fills: tell its size and one you know, or look inside.
          </p>
        {/if}
        <FillLog {holder} />
        {#if session.mayWrite}
          <div class="flex flex-wrap items-center gap-2">
            <span class="soft">I looked inside:</span>
            {#each Object.entries(holder.words) as [found, words] (found)}
              <button
                class="btn btn-sm"
                disabled={!may}
                title={words}
                onclick={() => void looked(holder, found as Schemas['Found'])}
                >{FULL[found as Schemas['Found']] ?? words}</button
              >
            {/each}
            <button
              class="btn btn-sm btn-ghost"
              aria-expanded={telling === holder.slot}
              onclick={() => begin(holder)}
              >{holder.size ? `Holds ${holder.size.volume} ${holder.size.unit}` : 'Its size'}…</button
            >
          </div>
        {/if}
        {#if telling === holder.slot}
          <form class="panel grid gap-3 p-[0.9rem]" onsubmit={(event) => void tell(event, holder.slot)}>
            <div class="grid grid-cols-[1fr_1fr] gap-[0.6rem]">
              <Field
                label="It holds"
                type="number"
                of="SizeIn"
                name="volume"
                required
                bind:value={size.volume}
              />
              <label class="grid gap-1"
                >Unit <select class="select w-full" bind:value={size.unit}>
                  {#each Object.entries(UNITS) as [key, text] (key)}<option value={key}>{text}</option>{/each}
                </select></label
              >
            </div>
            <label class="flex min-h-10 items-center gap-3"
              ><input type="checkbox" class="checkbox" bind:checked={size.borrowed} />I know how fast another
              one filled</label
            >
            {#if size.borrowed}
              <div class="grid grid-cols-[1fr_1fr] gap-[0.6rem]">
                <Field
                  label="That one holds"
                  type="number"
                  of="SizeIn"
                  name="known_volume"
                  required
                  bind:value={size.known_volume}
                />
                <label class="grid gap-1"
                  >Unit of that one <select class="select w-full" bind:value={size.known_unit}>
                    {#each Object.entries(UNITS) as [key, text] (key)}<option value={key}>{text}</option
                      >{/each}
                  </select></label
                >
                <Field
                  label="Weeks to fill it"
                  type="number"
                  of="SizeIn"
                  name="known_weeks"
                  required
                  bind:value={size.known_weeks}
                />
                <label class="grid gap-1"
                  >Dirt lies here <select class="select w-full" bind:value={size.pressed}>
                    <option value="1">as loose</option><option value="1.5">half as dense again</option><option
                      value="2">twice as dense</option
                    >
                  </select></label
                >
              </div>
            {/if}
            {#if dust.problem}<Trouble problem={dust.problem} />{/if}
            <div class="flex flex-wrap gap-2">
              <button class="btn btn-primary" disabled={!may}>Keep</button>
              {#if holder.size}
                <button type="button" class="btn" disabled={!may} onclick={() => void forget(holder.slot)}
                  >Forget its size</button
                >
              {/if}
            </div>
          </form>
        {/if}
      </div>
    {/each}
  </Panel>
{:else if dust.load.status === 'error'}
  <Panel title="Bag and bin">
    <Trouble problem={dust.load.problem} retry={() => void dust.refresh(id)} />
  </Panel>
{/if}

<style>
  .holder {
    display: grid;
    gap: 0.4rem;
    padding-block: 0.6rem;
    border-top: 1px solid var(--color-base-300);
  }
  .holder:first-of-type {
    border-top: none;
  }
  .line {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
  }
  .gauge {
    height: 0.7rem;
    border: 1px solid var(--duct);
    border-radius: 0.3rem;
    background: var(--chamber);
    overflow: hidden;
  }
  .gauge span {
    display: block;
    height: 100%;
    background: var(--wearing-fill);
    transition: width 0.5s;
  }
</style>
