<!-- The chosen part: what sits there, both clocks, and what can be done now. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { push } from 'svelte-spa-router';

  import type { Schemas } from '../../lib/api/client';
  import { keepPicks } from '../../lib/state/picks';
  import { keys } from '../../lib/state/keys.svelte';
  import AlreadyDone from '../../lib/ui/AlreadyDone.svelte';
  import Counter from '../../lib/ui/Counter.svelte';
  import Look from '../../lib/ui/Look.svelte';
  import MayIWash from '../../lib/ui/MayIWash.svelte';
  import { plural, span } from '../../lib/words/format';
  import { doWord, SCHOOL } from '../../lib/words/tasks';
  import ClockRow from './ClockRow.svelte';

  let {
    part,
    machine,
    now,
    today,
    mayWrite,
  }: {
    part: Schemas['PartOut'];
    machine: Schemas['StripOut'];
    now: string;
    today: string;
    mayWrite: boolean;
  } = $props();

  let done = $state.raw<Schemas['StateOut'] | null>(null);
  let looking = $state(false);
  let counting = $state(false);
  let washing = $state(false);
  /** What wants hands first here: the service furthest through its interval, else whatever there is. */
  const first = $derived(
    part.states.filter((state) => !state.is_life).sort((a, b) => b.share - a.share)[0] ??
      part.states[0] ??
      null,
  );
  /** What a look can be about: everything that is not itself a look. */
  const abouts = $derived(
    part.states
      .filter((state) => state.action !== 'inspect')
      .flatMap(({ action }) => {
        const asked = part.asked[action];
        return asked ? [{ action, asked }] : [];
      }),
  );
  const washes = $derived(part.states.some((state) => state.action === 'wash'));

  async function doNow(action: Schemas['Action']) {
    keepPicks([{ machine_id: machine.id, slot: part.slot, action }]);
    await push('/plan');
  }
  onDestroy(
    keys.lend('Part', [
      {
        key: 'b',
        does: 'Do it now, on a bench sheet',
        run: () => first && mayWrite && void doNow(first.action),
      },
      { key: 'c', does: 'May I wash this?', run: () => (washing = true) },
      { key: 'd', does: 'It is already done', run: () => mayWrite && (done = first) },
      { key: 'l', does: 'I looked: say what I found', run: () => mayWrite && part.item && (looking = true) },
    ]),
  );
</script>

<div class="panel" data-part={part.slot}>
  <div class="p-4">
    <h2 class="text-[1.35rem] font-extrabold">{part.name}</h2>
    {#if part.item}
      <p class="soft">
        In the machine: {part.item.name}, cleaned {plural(part.item.cleanings, 'time')}{washes
          ? ` (${plural(part.item.wash_count, 'wash', 'washes')})`
          : ''}.
        {#each part.spares as spare (spare.id)}{spare.name} lies ready, {plural(
            spare.wash_count,
            'wash',
            'washes',
          )}.
        {/each}
      </p>
      {#if part.item.refitted_early}
        <p class="ink-due font-bold">Refitted before it was dry: {part.item.refitted_early}</p>
      {/if}
    {:else}
      <p class="ink-overdue font-bold">Nothing is fitted here: the machine is out of use.</p>
    {/if}
    {#if part.material}<p class="soft">Made of {part.material}.</p>{/if}
    {#if part.school}<p class="soft">Kept by its own school: {SCHOOL[part.school]}.</p>{/if}
    {#if part.states.length === 0 && part.item}
      <p class="soft">Nothing is to be done here at your school.</p>
    {/if}
    {#if part.away}
      <p class="ink-drying font-bold">
        {part.away.name} is on the rack{part.away.damp_until &&
        Date.parse(part.away.damp_until) > Date.parse(now)
          ? `, ${span(now, part.away.damp_until)} to go`
          : ': its rest is over, feel whether it is dry'}.
      </p>
    {/if}
  </div>
  <div class="grid grid-cols-[repeat(auto-fit,minmax(min(26rem,100%),1fr))]">
    {#each part.states as state (state.action)}
      <ClockRow machine_id={machine.id} {state} {today} open={state === first && state.share >= 1} />
    {/each}
  </div>
  {#if part.item}
    <div class="flex flex-wrap gap-y-2 gap-x-6 py-[0.9rem] px-4 border-t border-t-base-300">
      {#if part.states.some((state) => state.action !== 'inspect')}
        <button class="btn" disabled={!mayWrite} onclick={() => (looking = true)}>I looked…</button>
      {/if}
      <button class="btn" onclick={() => (washing = true)}>May I wash this?</button>
      {#if part.counted_by_machine}
        <button class="btn" disabled={!mayWrite} onclick={() => (counting = true)}>Its own counter…</button>
      {/if}
      {#each part.states as state (state.action)}
        <div>
          <button
            class={['btn', state === first && 'btn-primary']}
            disabled={!mayWrite}
            onclick={() => void doNow(state.action)}>Now: {doWord(state.action)}</button
          >
          <button class="btn btn-ghost" disabled={!mayWrite} onclick={() => (done = state)}>
            Already {state.action === 'replace'
              ? 'replaced'
              : state.action === 'inspect'
                ? 'looked at'
                : 'done'}…
          </button>
        </div>
      {/each}
    </div>
  {/if}
</div>

{#if done}
  <AlreadyDone
    task={{
      machine_id: machine.id,
      slot: part.slot,
      slot_name: part.name,
      action: done.action,
      asked: part.asked[done.action],
    }}
    {today}
    onclose={() => (done = null)}
  />
{/if}

{#if looking}
  <Look
    machine_id={machine.id}
    slot={part.slot}
    name={part.name}
    {abouts}
    onclose={() => (looking = false)}
  />
{/if}
{#if washing}
  <MayIWash machine_id={machine.id} slot={part.slot} name={part.name} onclose={() => (washing = false)} />
{/if}
{#if counting}
  <Counter machine_id={machine.id} {part} onclose={() => (counting = false)} />
{/if}
