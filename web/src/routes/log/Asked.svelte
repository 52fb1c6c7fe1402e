<!-- What the Log is asked for: words, machine and part, kind, person, days, and whether what was taken back counts. -->
<script lang="ts">
  import type { LogState } from '../../lib/state/log.svelte';

  let { log }: { log: LogState } = $props();

  /** On a phone only the words are asked for at first. */
  let narrow = $state(false);
  const choices = $derived(log.choices.status === 'ok' ? log.choices.data : null);
  const machine = $derived(choices?.machines.find((one) => one.id === log.asked.machine));
</script>

<form
  class={['asked', narrow && 'all']}
  role="search"
  onsubmit={(event) => (event.preventDefault(), void log.refresh())}
>
  <label class="words"
    >Find <input
      class="input w-full"
      type="search"
      maxlength="200"
      placeholder="a machine, a part, a person, a word of a note"
      bind:value={log.asked.words}
    /></label
  >
  <button type="button" class="btn more" aria-expanded={narrow} onclick={() => (narrow = !narrow)}
    >{narrow ? 'Only words' : 'By machine, kind, person, days…'}</button
  >
  <label
    >Machine <select
      class="select w-full"
      bind:value={() => log.asked.machine, (id) => (log.asked = { ...log.asked, machine: id, slot: '' })}
    >
      <option value="">all</option>
      {#each choices?.machines ?? [] as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
    </select></label
  >
  {#if machine}
    <label
      >Part <select class="select w-full" bind:value={log.asked.slot}>
        <option value="">all</option>
        {#each machine.places as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
      </select></label
    >
  {/if}
  <label
    >Kind <select class="select w-full" bind:value={log.asked.group}>
      <option value="">all</option>
      {#each choices?.groups ?? [] as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
    </select></label
  >
  <label
    >Who <select class="select w-full" bind:value={log.asked.by}>
      <option value="">everybody</option>
      {#each choices?.people ?? [] as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
    </select></label
  >
  <label>From <input class="input w-full" type="date" min="2000-01-01" bind:value={log.asked.first} /></label>
  <label>To <input class="input w-full" type="date" min="2000-01-01" bind:value={log.asked.last} /></label>
  <p class="tail">
    <label class="flex min-h-11 cursor-pointer items-center gap-2"
      ><input type="checkbox" class="checkbox" bind:checked={log.asked.undone} /> also what was taken back</label
    >
    {#if log.narrowed}
      <button type="button" class="btn btn-sm" onclick={() => log.askAll()}>Everything again</button>
    {/if}
  </p>
</form>

<style>
  .asked {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(9.5rem, 1fr));
    gap: 0.5rem 0.75rem;
    align-items: end;
  }
  .asked > label {
    display: grid;
    gap: 0.2rem;
  }
  .words {
    grid-column: span 2;
  }
  .more {
    display: none;
  }
  @media (max-width: 39.99rem) {
    .more {
      display: flex;
      grid-column: span 2;
    }
    .asked:not(.all) > :not(.words, .more) {
      display: none;
    }
  }
  .tail {
    display: flex;
    flex-wrap: wrap;
    gap: 0.25rem 0.75rem;
    align-items: center;
    grid-column: 1 / -1;
  }
</style>
