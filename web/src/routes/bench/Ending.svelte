<!-- What a sitting changed: clocks, dates, and what waits on the rack. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { when } from '../../lib/words/format';
  import { didWord, LEVEL, shortWord, usedOf } from '../../lib/words/tasks';

  let { ending }: { ending: Schemas['EndingOut'] } = $props();

  const out = $derived(ending.changes.filter((change) => change.after.level === 'missing'));
  const told = $derived(
    ending.changes
      .filter((change) => change.after.level !== 'missing' && moved(change))
      .sort((a, b) => a.after.share - b.after.share),
  );

  function moved({ before, after }: Schemas['ChangeOut']): boolean {
    return !before || before.level !== after.level || Math.abs(before.share - after.share) > 0.005;
  }
  function stands(state: Schemas['StateOut']): string {
    const clock = state.clocks[0];
    const count = clock ? usedOf(clock) : '';
    return `${LEVEL[state.level]}, ${count}`;
  }
</script>

<h1 class="text-3xl font-extrabold">Recorded. The clocks have moved.</h1>
{#if out.length}
  <p class="panel mt-4 border-l-4 border-l-error p-4">
    <b
      >{out.map((change) => change.slot_name).join(', ')} is out, so {ending.sheet.machine_name} is out of use.</b
    >
    Pause its schedule; never let it run without its filter.
  </p>
{/if}
{#each ending.on_rack as item (item.id)}
  <p class="panel mt-4 border-l-4 border-l-info p-4">
    <b>{item.name} is on the rack.</b> Round shows the time to go; then it asks you to feel whether it is dry.
  </p>
{/each}
{#if told.length}
  <ul class="panel mt-4">
    {#each told as { slot_name, now_in, before, after } (slot_name + after.action)}
      <li>
        <b>{slot_name}, {shortWord(after.action)}{now_in ? `: ${now_in} is in now` : ''}</b>
        <span class="soft">was {before ? stands(before) : `not ${didWord(after.action)} before`}</span>
        <span class={`ink-${after.level}`}>now {stands(after)}; next {when(after.due, ending.today)}</span>
      </li>
    {/each}
  </ul>
{/if}
<a class="btn btn-primary btn-lg mt-6" href="#/">Back to Round</a>

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
