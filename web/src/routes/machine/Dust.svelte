<!-- Bags and bins of a machine: how full, full when, how fast; their size told once, a look inside any time. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, client, type Problem, type Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { type Load, loaded, PENDING } from '../../lib/state/load';
  import { session } from '../../lib/state/session.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import { figure, percent, plural, when } from '../../lib/words/format';

  let { machine }: { machine: Schemas['MachineOut'] } = $props();

  type Holder = Schemas['DustOut'];
  const UNITS = { L: 'litres', qt: 'US quarts', gal: 'US gallons', cup: 'US cups' } as const;
  const id = $derived(machine.strip.id);
  let load = $state.raw<Load<Schemas['DustsOut']>>(PENDING);
  let telling = $state<string | null>(null);
  let problem = $state.raw<Problem | null>(null);
  let busy = $state(false);
  let size = $state({
    volume: '',
    unit: 'L',
    borrowed: false,
    known_volume: '',
    known_unit: 'L',
    known_weeks: '',
    pressed: '1',
  });
  const may = $derived(session.mayWrite && !busy && !house.busy);

  /** After whatever was recorded of the machine its estimates are others. */
  $effect(() => {
    void machine;
    untrack(() => void refresh());
  });

  async function refresh() {
    load = loaded(
      await ask(client.GET('/api/machines/{machine_id}/dust', { params: { path: { machine_id: id } } })),
    );
  }

  function begin(holder: Holder) {
    const old = holder.size;
    size = {
      volume: old ? String(old.volume) : '',
      unit: old?.unit ?? (session.member?.units === 'us' ? 'qt' : 'L'),
      borrowed: Boolean(old?.known_weeks),
      known_volume: old?.known_volume ? String(old.known_volume) : '',
      known_unit: old?.known_unit ?? 'L',
      known_weeks: old?.known_weeks ? String(old.known_weeks) : '',
      pressed: String(old?.pressed ?? 1),
    };
    [telling, problem] = [telling === holder.slot ? null : holder.slot, null];
  }

  async function tell(event: SubmitEvent, slot: string) {
    event.preventDefault();
    busy = true;
    const body = {
      volume: Number(size.volume),
      unit: size.unit,
      usable: 0.9,
      known_volume: size.borrowed ? Number(size.known_volume) : null,
      known_unit: size.known_unit,
      known_weeks: size.borrowed ? Number(size.known_weeks) : null,
      pressed: size.borrowed ? Number(size.pressed) : 1,
    };
    const params = { path: { machine_id: id, slot } };
    took(await ask(client.PUT('/api/machines/{machine_id}/dust/{slot}', { params, body })));
  }

  async function forget(slot: string) {
    busy = true;
    const params = { path: { machine_id: id, slot } };
    took(await ask(client.DELETE('/api/machines/{machine_id}/dust/{slot}', { params })));
  }

  function took(answer: Awaited<ReturnType<typeof ask<Schemas['DustsOut']>>>) {
    busy = false;
    problem = answer.ok ? null : answer.problem;
    if (!answer.ok) return;
    load = { status: 'ok', data: answer.data };
    telling = null;
  }

  /** "about 0.9 L a week (0.7–1.1)"; without a size, in contents. */
  function rate(holder: Holder): string {
    const [middle, low, high] = [holder.per_week ?? 0, holder.per_week_low ?? 0, holder.per_week_high ?? 0];
    if (holder.size) {
      const per = holder.size.unit === 'L' ? 1 : (LITRES[holder.size.unit] ?? 1);
      const [a, b, c] = [middle, low, high].map((value) => (value / per).toFixed(2));
      return `about ${a} ${holder.size.unit} a week (${b}–${c})`;
    }
    return middle >= 1 ? `${figure(middle)} times a week` : `once in about ${figure(1 / middle)} weeks`;
  }
  const LITRES: Record<string, number> = { qt: 0.946353, gal: 3.785412, cup: 0.236588 };

  /** The arithmetic: what goes in, how long that takes at this rate, how long ago it was emptied. */
  function why(holder: Holder): string[] {
    const v = holder.because?.values ?? {};
    const weeks = plural(Number(v.weeks_full), 'week');
    const filled = holder.size
      ? `${holder.size.volume} ${holder.size.unit}, of which nine tenths fill, takes ${weeks} at that rate.`
      : `It takes ${weeks} to fill.`;
    return [
      filled,
      `${plural(Number(v.weeks_since), 'week')} of usual use and dirt have passed since it was emptied.`,
      'Usual weeks: hours run, against a usual week; a time of more dirt counts for more.',
    ];
  }

  async function looked(holder: Holder, found: Schemas['Found']) {
    await house.look(
      id,
      { slot: holder.slot, about: holder.action, found },
      `${holder.name}: looked inside.`,
    );
  }
</script>

{#if load.status === 'ok' && load.data.holders.length}
  {@const today = load.data.today}
  <section aria-label="Bag and bin">
    <h2>Bag and bin</h2>
    {#each load.data.holders as holder (holder.slot)}
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
            {holder.full ? `Full ${when(holder.full, today)}.` : 'Not full for years.'}
            <span class="soft"
              >It fills {rate(holder)}: {holder.fillings
                ? `from ${plural(holder.fillings, 'filling')} of its own`
                : holder.size?.known_weeks
                  ? 'borrowed from another container, a start to be corrected'
                  : 'from the book, a start to be corrected'}. An estimate: look inside near the day.</span
            >
          </p>
          {#if holder.because}
            <details class="soft">
              <summary>Why</summary>
              {#each why(holder) as line (line)}<p>{line}</p>{/each}
            </details>
          {/if}
        {:else}
          <p class="soft">
            Nothing tells yet how fast it fills: tell its size and one you know, or look inside.
          </p>
        {/if}
        {#if session.mayWrite}
          <div class="flex flex-wrap items-center gap-2">
            <span class="soft">I looked inside:</span>
            {#each Object.entries(holder.words) as [found, words] (found)}
              <button
                class="btn btn-sm"
                disabled={!may}
                title={words}
                onclick={() => void looked(holder, found as Schemas['Found'])}
                >{{ clean: 'nearly empty', light: 'half full', due: 'full', overdue: 'overfull' }[found] ??
                  words}</button
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
          <form class="panel form" onsubmit={(event) => void tell(event, holder.slot)}>
            <div class="pair">
              <label class="grid gap-1"
                >It holds <input
                  class="input w-full"
                  type="number"
                  step="any"
                  min="0"
                  bind:value={size.volume}
                  required
                /></label
              >
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
              <div class="pair">
                <label class="grid gap-1"
                  >That one holds <input
                    class="input w-full"
                    type="number"
                    step="any"
                    min="0"
                    bind:value={size.known_volume}
                    required
                  /></label
                >
                <label class="grid gap-1"
                  >Unit of that one <select class="select w-full" bind:value={size.known_unit}>
                    {#each Object.entries(UNITS) as [key, text] (key)}<option value={key}>{text}</option
                      >{/each}
                  </select></label
                >
                <label class="grid gap-1"
                  >Weeks to fill it <input
                    class="input w-full"
                    type="number"
                    step="any"
                    min="0"
                    bind:value={size.known_weeks}
                    required
                  /></label
                >
                <label class="grid gap-1"
                  >Dirt lies here <select class="select w-full" bind:value={size.pressed}>
                    <option value="1">as loose</option><option value="1.5">half as dense again</option><option
                      value="2">twice as dense</option
                    >
                  </select></label
                >
              </div>
            {/if}
            {#if problem}<Trouble {problem} />{/if}
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
  </section>
{/if}

<style>
  h2 {
    font-size: 1.1rem;
    font-weight: 800;
  }
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
  .form {
    display: grid;
    gap: 0.75rem;
    padding: 0.9rem;
  }
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 0.6rem;
  }
</style>
