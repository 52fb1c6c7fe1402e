<!-- What a drying part weighed, drawn over time with the curve fitted to it, and the next reading. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { DevicesState } from '../../lib/state/devices.svelte';
  import { house } from '../../lib/state/house.svelte';
  import { notice } from '../../lib/state/notice.svelte';
  import type { RackState } from '../../lib/state/rack.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { weightWords } from '../../lib/words/drying';
  import { dayAndHour, dayAndTime } from '../../lib/words/format';

  let { job, rack }: { job: Schemas['RackJobOut']; rack: RackState } = $props();

  const devices = new DevicesState();
  void devices.refresh();
  const scales = $derived(
    devices.load.status === 'ok' ? devices.load.data.devices.filter((one) => one.kind === 'scale') : [],
  );

  let value = $state<number | null>(null);
  let lighter = $state(false);
  const unit = $derived(session.us ? 'oz' : 'g');
  const zone = $derived(session.member?.time_zone);
  const say = (grams: number) => weightWords(grams, session.us);

  const [W, H] = [420, 150];
  const seen = $derived([...job.weighings, ...job.curve]);
  const from = $derived(Date.parse(job.washed_at));
  const to = $derived(Math.max(...seen.map((one) => Date.parse(one.at)), from + 3_600_000));
  const top = $derived(Math.max(...seen.map((one) => one.grams)) * 1.05);
  const floor = $derived(Math.min(job.dry_g ?? Infinity, ...seen.map((one) => one.grams)) * 0.9);
  const x = (at: string) => ((Date.parse(at) - from) / (to - from)) * (W - 20) + 10;
  const y = (grams: number) => H - 8 - ((grams - floor) / (top - floor)) * (H - 20);
  const path = $derived(job.curve.map((one, i) => `${i ? 'L' : 'M'} ${x(one.at)} ${y(one.grams)}`).join(' '));

  async function weigh(dry: boolean) {
    if (!value) return;
    const said = `${value} ${unit}`;
    const text = dry ? `${job.item.name}: ${said} is its dry weight.` : `${job.item.name}: ${said}.`;
    lighter = false;
    if (await rack.weigh(job.item, { value, unit, dry }, text)) value = null;
    else lighter = notice.problem?.field === 'grams';
  }
</script>

<div class="grid gap-2">
  {#if job.weighings.length}
    <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={`Weighed ${job.weighings.length} times`}>
      {#if job.dry_g !== null && job.tolerance_g !== null}
        <rect
          class="fill-(--fresh-fill) opacity-55"
          x="0"
          width={W}
          y={y(job.dry_g + job.tolerance_g)}
          height={Math.max(2, y(job.dry_g - job.tolerance_g) - y(job.dry_g + job.tolerance_g))}
        />
      {/if}
      <text class="scale" x="6" y={y(top / 1.05) + 5}>{say(top / 1.05)}</text>
      <text class="scale end" x={W - 6} y={H - 6}>{dayAndHour(new Date(to).toISOString(), zone)}</text>
      {#if path}<path class="curve" d={path} />{/if}
      {#each job.weighings as one, i (i)}<circle
          class="fill-(--drying)"
          cx={x(one.at)}
          cy={y(one.grams)}
          r="5"
        />{/each}
    </svg>
    <ul class="text-sm">
      {#each job.weighings as one, i (i)}
        <li><b>{say(one.grams)}</b> <span class="soft">{dayAndTime(one.at, zone)}</span></li>
      {/each}
    </ul>
  {/if}
  <p class="soft text-sm">
    {#if job.dry_g !== null}
      Dry it weighs {say(job.dry_g)}, the band in the picture. Two readings in it, two hours apart, end the
      wait once its day is over.
    {:else}
      Its dry weight is not known yet, so the scale cannot end the wait. Weigh it here once its rest is over
      and it is bone dry; from the next wash on, the scale counts.
    {/if}
  </p>
  {#each scales as scale (scale.id)}
    {@const here = scale.weighs === job.item.id}
    <p class="flex flex-wrap items-center gap-2">
      {here ? `It lies on ${scale.name}, which reports by itself.` : ''}
      <button
        class="btn"
        aria-pressed={here}
        disabled={!session.mayWrite || devices.busy}
        onclick={() => void devices.weighs(scale, here ? null : job.item.id)}
        >{here ? 'It does not lie there any more' : `It lies on ${scale.name} now`}</button
      >
    </p>
  {/each}
  <form class="flex flex-wrap items-end gap-2" onsubmit={(e) => (e.preventDefault(), void weigh(false))}>
    <label class="grid gap-1 text-sm"
      >It weighs now ({unit})
      <input
        class="input w-32"
        type="number"
        inputmode="decimal"
        min="0.1"
        step="any"
        required
        bind:value
      /></label
    >
    <button class="btn" disabled={!session.mayWrite || house.busy || !value}>Keep the reading</button>
    {#if lighter || (job.dry_g === null && job.rested)}
      <button
        type="button"
        class="btn btn-ghost"
        disabled={!session.mayWrite || house.busy || !value}
        onclick={() => void weigh(true)}>It is bone dry: this is its dry weight</button
      >
    {/if}
  </form>
</div>

<style>
  svg {
    width: 100%;
    max-width: 26.24rem;
    border-bottom: 1.5px solid var(--soft);
    border-left: 1.5px solid var(--soft);
  }
  .curve {
    fill: none;
    stroke: var(--drying);
    stroke-width: 2.5;
    stroke-dasharray: 5 4;
  }
  .scale {
    font-size: 13px;
    fill: var(--soft);
  }
  .end {
    text-anchor: end;
  }
</style>
