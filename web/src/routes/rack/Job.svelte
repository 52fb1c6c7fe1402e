<!-- One part on the rack: its clock, what it keeps from running, why so long, where else, what it weighs. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import type { Schemas } from '../../lib/api/client';
  import { openRefit } from '../../lib/state/bench.svelte';
  import { house } from '../../lib/state/house.svelte';
  import type { Hanging, RackState } from '../../lib/state/rack.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { readyWords, toGo, whySoLong } from '../../lib/words/drying';
  import { day, dayAndHour, dayAndTime, percent, plural } from '../../lib/words/format';
  import FitEarly from './FitEarly.svelte';
  import Hang from './Hang.svelte';
  import Scale from './Scale.svelte';

  let { job, now, today, rack }: { job: Schemas['RackJobOut']; now: string; today: string; rack: RackState } =
    $props();

  let early = $state(false);
  let opened = $state<'why' | 'hang' | 'scale' | null>(null);
  const zone = $derived(session.member?.time_zone);
  const may = $derived(session.mayWrite && !house.busy);
  const elsewhere = $derived(job.better);
  const missed = $derived(job.missed[0] ?? null);
  /** Whether hanging it there would have it back in time. */
  const inTime = $derived(!!elsewhere && !!missed && elsewhere.ready_at <= missed);

  async function hang(hanging: Hanging | null) {
    if (hanging && (await rack.hang(job.item, hanging))) opened = null;
  }
  const move = () => void hang({ place: elsewhere?.name ?? null, pressed: job.pressed, moving: job.moving });
  async function putBack() {
    const id = await openRefit(job.item.id);
    if (id) await push(`/bench/${id}`);
  }
  const fitSpare = () =>
    job.spare && void rack.after(house.fit(job.spare, '', `${job.spare.name} is in ${job.machine_name}.`));
  const check = (dry: boolean) => void rack.after(house.dryCheck(job.item, dry));
  function pause() {
    if (!job.pause_until) return;
    const rest = { machine_id: job.runner_id, why: 'paused' as const, first: today, last: job.pause_until };
    const text = `${job.runner_name} is paused until ${day(job.pause_until)}; then its usual week goes on.`;
    void rack.after(house.rest(rest, text));
  }
  const toggle = (what: 'why' | 'hang' | 'scale') => (opened = opened === what ? null : what);
</script>

{#snippet moveIt(main: boolean)}
  {#if elsewhere?.name}
    <button class={['btn long', main && 'btn-primary']} disabled={!may} onclick={move}
      >Move it to: {elsewhere.name}, ready {dayAndHour(elsewhere.ready_at, zone)}</button
    >
  {/if}
{/snippet}

<li class="panel job" aria-label={job.item.name}>
  <div class="grid grid-cols-[minmax(0,1fr)_16rem] gap-y-4 gap-x-8 items-center max-sm:grid-cols-1">
    <div class="min-w-0">
      <h2 class="text-[1.25rem] font-extrabold">
        {job.item.name}
        <a class="link text-[1rem] font-normal" href={`#/machines/${job.machine_id}`}>{job.machine_name}</a>
      </h2>
      <p class="clock ink-drying">{toGo(job, now)}</p>
      <p>{job.rested ? 'Feel deep inside, press dry paper against it.' : readyWords(job, zone)}</p>
      <p class="soft text-sm">
        {job.place ? `Hangs in: ${job.place}` : 'Hangs in a place nobody named'}{job.pressed
          ? ', pressed in a towel'
          : ''}{job.moving ? ', in moving air' : ''}. Air only, no heat.
      </p>
    </div>
    <div class="pipe" role="img" aria-label={`${percent(job.share)} dry by the air`}>
      <div style:width={`${job.share * 100}%`}></div>
      <span>{percent(job.share)} dry by the air</span>
    </div>
  </div>

  {#if missed && job.pause_until}
    <div class="mind" role="status">
      <p>
        <b>{job.runner_name} runs {dayAndTime(missed, zone)}</b>, before this is ready.
        {#if job.spare}Fit {job.spare.name}, or pause it.
        {:else if inTime && elsewhere}In {elsewhere.name} it would be ready in time.
        {:else if job.runs_itself}Pause it: it must not run without this part.
        {:else}Leave it until then: it must not run without this part.{/if}
      </p>
      <div class="mt-2 flex flex-wrap gap-2">
        {#if job.spare}
          <button class="btn btn-primary" disabled={!may} onclick={fitSpare}>Fit {job.spare.name}</button>
        {/if}
        {#if inTime}{@render moveIt(!job.spare)}{/if}
        <button class={['btn', !job.spare && !inTime && 'btn-primary']} disabled={!may} onclick={pause}
          >Pause {job.runner_name} until {day(job.pause_until)}</button
        >
      </div>
    </div>
  {:else if job.needed}
    <p class="soft">{job.machine_name} stays out of use until this is back in.</p>
  {/if}
  {#if job.empties_robot}
    <p class="mind">
      <b>Switch off emptying at {job.machine_name}</b>, on the robot or in its app, until this is back: it
      must never empty without its bag and filters.
    </p>
  {/if}
  {#if job.mildew}
    <p class="mind"><b>{job.place} is too cold or damp:</b> mildew comes before it is dry.</p>
  {/if}

  <div class="flex flex-wrap gap-2">
    {#if job.rested}
      {#if job.slot_empty}
        <button class="btn btn-primary btn-lg" disabled={!may} onclick={() => void putBack()}
          >Put it back</button
        >
      {:else}
        <button class="btn btn-primary btn-lg" disabled={!may} onclick={() => check(true)}>Bone dry</button>
        <button class="btn btn-lg" disabled={!may} onclick={() => check(false)}>Still damp</button>
      {/if}
    {/if}
    {#if !job.rested && !inTime}{@render moveIt(!missed)}{/if}
    <button class="btn" aria-expanded={opened === 'why'} onclick={() => toggle('why')}>Why so long?</button>
    <button class="btn" aria-expanded={opened === 'hang'} onclick={() => toggle('hang')}
      >Where it hangs</button
    >
    {#if rack.load.status === 'ok' && rack.load.data.has_scale}
      <button class="btn" aria-expanded={opened === 'scale'} onclick={() => toggle('scale')}>Weigh it</button>
    {/if}
    {#if job.slot_empty && !job.rested}
      <button class="btn btn-ghost" disabled={!may} onclick={() => (early = true)}>Fit it early…</button>
    {/if}
  </div>

  {#if opened === 'why'}
    <ul class="why">
      {#each whySoLong(job, now, session.us) as line (line)}<li>{line}</li>{/each}
      {#if job.sets && job.sets.needed > job.sets.have}
        <li>
          There {job.sets.have === 1 ? 'is' : 'are'}
          {job.sets.have} of it. With {job.sets.needed} taking turns {job.machine_name}
          would never wait.
        </li>
      {:else if job.sets}
        <li>{plural(job.sets.have, 'of it', 'of them')}: enough to keep {job.machine_name} running.</li>
      {/if}
    </ul>
  {:else if opened === 'hang'}
    <Hang
      item_id={job.item.id}
      start={{ place: job.place, pressed: job.pressed, moving: job.moving }}
      busy={house.busy}
      verb="Hang it in"
      onhang={(hanging) => void hang(hanging)}
    />
  {:else if opened === 'scale'}
    <Scale {job} {rack} />
  {/if}
</li>

{#if early}
  <FitEarly item={job.item} onclose={() => (early = false)} />
{/if}

<style>
  .job {
    display: grid;
    gap: 0.9rem;
    padding: 1.1rem 1.25rem;
  }
  .clock {
    font-size: 2rem;
    font-weight: 800;
    font-variant-numeric: tabular-nums;
    line-height: 1.2;
  }
  .pipe {
    position: relative;
    height: 2.25rem;
    border: 2.5px dashed var(--drying);
    border-radius: 0.7rem;
    overflow: hidden;
  }
  .pipe div {
    position: absolute;
    inset: 0 auto 0 0;
    background: var(--drying-fill);
  }
  .pipe span {
    position: absolute;
    inset: 0;
    display: grid;
    place-items: center;
    font-size: 0.95rem;
  }
  .mind {
    padding: 0.7rem 0.9rem;
    border-left: 5px solid var(--overdue);
    background: color-mix(in oklab, var(--overdue-fill) 18%, transparent);
  }
  .long {
    flex-shrink: 1;
    height: auto;
    max-width: 100%;
    white-space: normal;
    min-height: 2.5rem;
    padding-block: 0.5rem;
    text-align: left;
  }
  .why {
    display: grid;
    gap: 0.25rem;
    padding-left: 1.1rem;
    list-style: disc;
  }
</style>
