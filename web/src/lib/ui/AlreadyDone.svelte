<!-- "Already done, last Tuesday": the day, and what was found if anybody remembers. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { BY_CHANCE } from '../api/gen/bounds';
  import { house } from '../state/house.svelte';
  import { day as dayWords } from '../words/format';
  import { didWord, foundWords, GONE } from '../words/tasks';
  import Modal from './Modal.svelte';
  import WhichDay from './WhichDay.svelte';

  let {
    task,
    today,
    onclose,
  }: {
    task: {
      machine_id: string;
      slot: string;
      slot_name: string;
      action: Schemas['Action'];
      asked: Schemas['AskedOut'] | undefined;
    };
    today: string;
    onclose: () => void;
  } = $props();

  // svelte-ignore state_referenced_locally
  let day = $state(today);
  let found = $state<Schemas['Found'] | ''>('');
  let gone = $state<Schemas['Gone'] | ''>('');
  /** By chance: nothing that was found says how long such a part lasts. */
  const chance = $derived(BY_CHANCE.includes(gone));
  const looking = $derived(task.action === 'inspect');

  async function record(event: SubmitEvent) {
    event.preventDefault();
    const text = `${task.slot_name}: ${didWord(task.action)} on ${dayWords(day)}.`;
    const done = await house.alreadyDone(
      task.machine_id,
      {
        slot: task.slot,
        action: task.action,
        day,
        ...(found && !chance ? { found } : {}),
        ...(gone ? { gone } : {}),
      },
      text,
    );
    if (done) onclose();
  }
</script>

<Modal title={`${task.slot_name}: already ${didWord(task.action)}`} {onclose}>
  <form onsubmit={record} class="grid gap-4">
    <WhichDay bind:day {today} />
    {#if task.action === 'replace'}
      <fieldset>
        <legend class="mb-1 font-bold"
          >Why did it go? <span class="soft font-normal">Leave it if you do not know.</span></legend
        >
        <div class="flex flex-wrap gap-2">
          {#each Object.entries(GONE) as [value, text] (value)}
            <button
              type="button"
              class={['btn', gone === value && 'btn-active']}
              aria-pressed={gone === value}
              onclick={() => (gone = gone === value ? '' : (value as Schemas['Gone']))}>{text}</button
            >
          {/each}
        </div>
      </fieldset>
    {/if}
    {#if !chance}
      <fieldset>
        <legend class="mb-1 font-bold"
          >{#if looking}What do you see?{:else}How was it before?
            <span class="soft font-normal">Leave it if you do not know.</span>{/if}</legend
        >
        <div class="flex flex-wrap gap-2">
          {#each Object.entries(foundWords(task.action)) as [value, text] (value)}
            <button
              type="button"
              class={['btn', found === value && 'btn-active']}
              aria-pressed={found === value}
              onclick={() => (found = found === value && !looking ? '' : (value as Schemas['Found']))}
              >{looking ? (task.asked?.words[value as Schemas['Found']] ?? text) : text}</button
            >
          {/each}
        </div>
        <p class="soft mt-1 min-h-6">{found && !looking ? (task.asked?.words[found] ?? '') : ''}</p>
      </fieldset>
    {/if}
    {#if task.action === 'wash'}
      <p class="soft">
        If its rest after the wash is not over by now, the part goes on the rack until it is.
      </p>
    {/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={house.busy || (looking && !found)}>Record it</button>
    </div>
  </form>
</Modal>
