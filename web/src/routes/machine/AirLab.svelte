<!-- The air of this machine, to play with: load a filter, block a station, open a leak, and see and hear what follows. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { MediaQuery } from 'svelte/reactivity';

  import AirPath from '../../lib/airpath/AirPath.svelte';
  import type { Mark } from '../../lib/airpath/marks';
  import { ask, client, type Problem, type Schemas } from '../../lib/api/client';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import Waiting from '../../lib/ui/Waiting.svelte';
  import { figure, percent } from '../../lib/words/format';

  let { strip, now }: { strip: Schemas['StripOut']; now: string } = $props();

  type Lab = Schemas['LabOut'];
  const phone = new MediaQuery('max-width: 39.99rem');
  let lab = $state.raw<Lab | null>(null);
  let problem = $state.raw<Problem | null>(null);
  let fills = $state<Record<string, number>>({});
  let place = $state('');
  let left = $state(1);
  let leak = $state(0);
  let power = $state(1);
  let asked = 0;

  const filters = $derived(lab?.places.filter((one) => one.fills) ?? []);
  const blocks = $derived(lab?.places.filter((one) => one.blocks) ?? []);
  const path = $derived({ params: { path: { machine_id: strip.id } } });
  const clean = $derived(Object.values(fills).every((fill) => !fill) && left === 1 && !leak && power === 1);
  const ordered = $derived(
    strip.chambers.filter(
      (chamber) => lab?.places.some((one) => one.key === chamber.key) || chamber.column === 'motor',
    ),
  );
  const top = $derived(Math.max(...(lab?.places.map((one) => one.suction_kpa ?? 0) ?? [0]), 0.01));
  const marks = $derived<Record<string, Mark>>(
    Object.fromEntries(
      (lab?.places ?? []).map((one) => [
        one.key,
        {
          tag: one.suction_kpa === null ? '' : `${figure(one.suction_kpa)} kPa`,
          fill: one.fills ? Math.min(1, fills[one.key] ?? 0) : (one.suction_kpa ?? 0) / top / 2,
          look: one.key === place && (left < 1 || leak > 0) ? ('suspected' as const) : ('flowing' as const),
        },
      ]),
    ),
  );

  /** As its records have it: what each filter's clock says. */
  async function present() {
    const mine = ++asked;
    const answer = await ask(client.GET('/api/machines/{machine_id}/air', path));
    if (mine !== asked) return;
    if (!answer.ok) return void (problem = answer.problem);
    problem = null;
    lab = answer.data;
    fills = Object.fromEntries(
      answer.data.places.filter((p) => p.fills).map((p) => [p.key, answer.data.present[p.key] ?? 0]),
    );
    place = answer.data.places.find((one) => one.blocks)?.key ?? '';
    [left, leak, power] = [1, 0, 1];
  }
  function asNew() {
    fills = Object.fromEntries(filters.map((one) => [one.key, 0]));
    [left, leak, power] = [1, 0, 1];
    void solve();
  }
  /** Ask for the air as set; of answers that overtake each other the latest counts. */
  async function solve() {
    const mine = ++asked;
    const body = {
      fills: Object.fromEntries(Object.entries(fills).filter(([, fill]) => fill > 0)),
      opens: left < 1 && place ? { [place]: left } : {},
      leaks: leak > 0 && place ? { [place]: leak } : {},
      power,
    };
    const answer = await ask(client.POST('/api/machines/{machine_id}/air', { ...path, body }));
    if (mine !== asked) return;
    if (answer.ok) [lab, problem] = [answer.data, null];
    else problem = answer.problem;
  }

  $effect(() => {
    void strip.id;
    untrack(() => void present());
  });
</script>

<section aria-label="Air lab" class="grid gap-4 p-4">
  <div class="head">
    <div>
      <p class="soft">
        Load it, block it, open a leak: what the air does, and what you would hear. Nothing is recorded.
      </p>
    </div>
    <div class="flex flex-wrap gap-2">
      <button class="btn btn-sm" onclick={() => void present()}>As it stands now</button>
      <button class="btn btn-sm" disabled={!lab} onclick={asNew}>All clean</button>
    </div>
  </div>
  {#if problem}<Trouble {problem} retry={() => void present()} />{/if}
  {#if !lab}
    {#if !problem}<Waiting what="Opening the air lab" />{/if}
  {:else}
    <AirPath
      chambers={ordered}
      {now}
      name={strip.name}
      size="low"
      upright={phone.current}
      {marks}
      onselect={(chamber) => {
        if (blocks.some((one) => one.key === chamber.key)) {
          place = chamber.key;
          void solve();
        }
      }}
    />
    <div class="work">
      <div class="knobs">
        {#each filters as one (one.key)}
          <label
            ><span>{one.label} <b>{percent(fills[one.key] ?? 0)} full</b></span>
            <input
              class="range w-full"
              type="range"
              min="0"
              max="1.5"
              step="0.05"
              bind:value={fills[one.key]}
              oninput={() => void solve()}
            /></label
          >
        {/each}
        <label
          ><span>Where something sits</span>
          <select class="select" bind:value={place} onchange={() => void solve()}>
            {#each blocks as one (one.key)}<option value={one.key}>{one.label}</option>{/each}
          </select></label
        >
        <label
          ><span>Of its bore is left <b>{percent(left)}</b></span>
          <input
            class="range w-full"
            type="range"
            min="0.05"
            max="1"
            step="0.05"
            bind:value={left}
            oninput={() => void solve()}
          /></label
        >
        <label
          ><span>A leak there of <b>{figure(leak)} mm²</b></span>
          <input
            class="range w-full"
            type="range"
            min="0"
            max="300"
            step="10"
            bind:value={leak}
            oninput={() => void solve()}
          /></label
        >
        <div>
          <span>Power</span>
          <span class="join ml-2">
            {#each lab.powers as one (one)}
              <button
                class={['btn btn-sm join-item', power === one && 'btn-active']}
                aria-pressed={power === one}
                onclick={() => {
                  power = one;
                  void solve();
                }}>{percent(one)}</button
              >
            {/each}
          </span>
        </div>
      </div>
      <div class="readout" role="status">
        <dl class="grid gap-[0.3rem]">
          <div>
            <dt>At the nozzle</dt>
            <dd>{figure(lab.nozzle_l_s)} L/s <span class="soft">{percent(lab.pull)} of clean</span></dd>
          </div>
          <div>
            <dt>Ahead of the fan</dt>
            <dd>{figure(lab.suction_kpa)} kPa</dd>
          </div>
          <div>
            <dt>Pitch</dt>
            <dd>
              {lab.pitch > 1.02 ? 'higher' : lab.pitch < 0.98 ? 'lower' : 'as ever'}
              <span class="soft">{percent(lab.pitch)}</span>
            </dd>
          </div>
          <div>
            <dt>Motor heat</dt>
            <dd>{figure(lab.heat)} times</dd>
          </div>
        </dl>
        <h3 class="mt-[0.9rem] font-extrabold">What you would hear and feel</h3>
        {#if lab.heard.length}
          <ul>
            {#each lab.heard as one (one.key)}<li><b>{one.name}.</b> {one.feel}</li>{/each}
          </ul>
        {:else}
          <p>{clean ? 'It runs as new.' : 'Hardly anything: somebody would not notice yet.'}</p>
        {/if}
      </div>
    </div>
  {/if}
</section>

<style>
  .head {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0.5rem 1.5rem;
  }
  .work {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(min(19rem, 100%), 1fr));
    gap: 1rem 2.5rem;
  }
  .knobs {
    display: grid;
    gap: 0.75rem;
    align-content: start;
  }
  .knobs label {
    display: grid;
    gap: 0.2rem;
  }
  dl div {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    border-bottom: 1px solid var(--color-base-300);
  }
  dd {
    font-weight: 700;
  }
  dd .soft {
    font-weight: 400;
  }
</style>
