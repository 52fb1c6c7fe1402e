<!-- What a sitting changed: clocks, dates, and what waits on the rack. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import type { Schemas } from '../../lib/api/client';
  import { keepPicks } from '../../lib/state/picks';
  import { session } from '../../lib/state/session.svelte';
  import { together, when } from '../../lib/words/format';
  import { didWord, LEVEL, shortWord, usedOf } from '../../lib/words/tasks';

  import DidItFit from './DidItFit.svelte';

  let { ending }: { ending: Schemas['EndingOut'] } = $props();

  /** Places into which something new went. */
  const renewed = $derived(
    ending.sheet.steps.filter((one) => one.kind === 'retire' && one.answer && one.answer !== 'skip'),
  );

  const several = $derived(ending.sheet.machines.length > 1);
  /** Machines that stand without a part they need, with the names of those parts. */
  const out = $derived(
    ending.sheet.machines.flatMap(({ id, name, empties_robot }) => {
      const parts = ending.changes.filter(
        (change) => change.machine_id === id && change.after.level === 'missing',
      );
      return parts.length
        ? [{ id, name, empties_robot, parts: [...new Set(parts.map((part) => part.slot_name))] }]
        : [];
    }),
  );
  const shown = $derived(
    ending.changes
      .filter((change) => change.after.level !== 'missing' && moved(change))
      .sort((a, b) => a.after.share - b.after.share),
  );

  /** What a look of this sitting found in need of work: it may be gone on with at once. */
  const found = $derived(
    ending.changes.filter(
      ({ after, machine_id }) =>
        ['due', 'overdue'].includes(after.level) &&
        after.action !== 'inspect' &&
        ending.sheet.steps.some(
          (one) =>
            one.kind === 'look' &&
            one.answer &&
            one.machine_id === machine_id &&
            one.slot === after.slot &&
            one.answer.endsWith('due'),
        ),
    ),
  );
  async function goOn() {
    keepPicks(found.map(({ machine_id, after: { slot, action } }) => ({ machine_id, slot, action })));
    await push('/plan');
  }

  function moved({ before, after }: Schemas['ChangeOut']): boolean {
    return !before || before.level !== after.level || Math.abs(before.share - after.share) > 0.005;
  }
  function helped(before: number, after: number): string {
    if (after > before) return 'the work helped.';
    return after < before
      ? 'less than before. Look at what was refitted first: seated, dry, the right way round?'
      : 'no change. Something else may hold it back.';
  }
  function stands(state: Schemas['StateOut']): string {
    const clock = state.clocks[0];
    const count = clock ? usedOf(clock) : '';
    return `${LEVEL[state.level]}, ${count}`;
  }
</script>

<h1 class="text-3xl font-extrabold">
  Recorded.{ending.changes.length ? ' The clocks have moved.' : ''}
</h1>
{#each out as machine (machine.id)}
  <p class="panel mt-4 border-l-4 border-l-error p-4">
    <b
      >{together(machine.parts.map((name) => ({ name })))}
      {machine.parts.length === 1 ? 'is' : 'are'} out, so {machine.name} is out of use.</b
    >
    {machine.empties_robot
      ? 'Switch off emptying at this dock, on the robot or in its app, until it is back: it must never empty without its bag and filters.'
      : `Pause its schedule: it must not run without ${machine.parts.length === 1 ? 'it' : 'them'}.`}
  </p>
{/each}
{#if ending.on_rack.length}
  <p class="panel mt-4 border-l-4 border-l-info p-4">
    <b>{together(ending.on_rack)} {ending.on_rack.length === 1 ? 'is' : 'are'} on the rack.</b> Round shows
    the time to go; then it asks you to feel whether {ending.on_rack.length === 1 ? 'it is' : 'they are'} dry.
  </p>
{/if}
{#each ending.sheet.machines as machine (machine.id)}
  {#if machine.pull_after !== null}
    <p class="panel mt-4 p-4">
      <b>{machine.name} pulls {machine.pull_after} of 5</b>{machine.pull_before === null
        ? '.'
        : `, ${machine.pull_before} before: ${helped(machine.pull_before, machine.pull_after)}`}
    </p>
  {/if}
{/each}
{#each renewed as one (one.key)}
  <DidItFit machine_id={one.machine_id} slot={one.slot ?? ''} name={one.slot_name ?? ''} />
{/each}
{#if shown.length}
  <ul class="panel mt-4">
    {#each shown as { machine_id, machine_name, slot_name, now_in, before, after } (machine_id + slot_name + after.action)}
      <li>
        <b
          >{several ? `${machine_name}: ` : ''}{slot_name}, {shortWord(after.action)}{now_in
            ? `: ${now_in} is in now`
            : ''}</b
        >
        <span class="soft">was {before ? stands(before) : `not ${didWord(after.action)} before`}</span>
        <span class={`ink-${after.level}`}>now {stands(after)}; next {when(after.due, ending.today)}</span>
      </li>
    {/each}
  </ul>
{/if}
{#if found.length && session.mayWrite}
  <p class="panel mt-4 flex flex-wrap items-center justify-between gap-3 p-4">
    <span
      ><b>Found in need of it:</b>
      {found
        .map((one) => `${one.slot_name}, ${shortWord(one.after.action)}`)
        .join('; ')
        .toLowerCase()}.</span
    >
    <button class="btn" onclick={() => void goOn()}>Go on with it now…</button>
  </p>
{/if}
<div class="mt-6 flex flex-wrap gap-3">
  {#if ending.sheet.case_id}
    <a class="btn btn-primary btn-lg" href={`#/faults/case/${ending.sheet.case_id}`}>Back to what was wrong</a
    >
  {/if}
  <a class={['btn btn-lg', !ending.sheet.case_id && 'btn-primary']} href="#/">Back to Round</a>
</div>

<style>
  li {
    display: grid;
    gap: 0.1rem;
    padding: 0.75rem 1rem;
    border-top: 1px solid var(--color-base-300);
  }
  li:first-child {
    border-top: none;
  }
</style>
