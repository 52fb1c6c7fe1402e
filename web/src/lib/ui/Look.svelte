<!-- "I looked at it": what was found on a part, nothing done. Two taps: the answer, record. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { house } from '../state/house.svelte';
  import { doWord, foundWords } from '../words/tasks';
  import Modal from './Modal.svelte';

  type About = { action: Schemas['Action']; words: Partial<Record<Schemas['Found'], string>> };
  let {
    machine_id,
    slot,
    name,
    abouts,
    onclose,
  }: { machine_id: string; slot: string; name: string; abouts: About[]; onclose: () => void } = $props();

  let chosen = $state<Schemas['Action'] | null>(null);
  const about = $derived(abouts.find((one) => one.action === chosen) ?? abouts[0] ?? null);

  async function record(found: Schemas['Found']) {
    if (!about) return;
    const text = `${name}: found ${foundWords(about.action)[found].toLowerCase()}.`;
    if (await house.look(machine_id, { slot, about: about.action, found }, text)) onclose();
  }
</script>

<Modal title={`${name}: what do you see?`} {onclose}>
  {#if abouts.length > 1}
    <div class="mb-3 flex flex-wrap gap-2" role="group" aria-label="With what in mind">
      {#each abouts as one (one.action)}
        <button
          type="button"
          class={['btn btn-sm', about === one && 'btn-primary']}
          aria-pressed={about === one}
          onclick={() => (chosen = one.action)}>{doWord(one.action)}?</button
        >
      {/each}
    </div>
  {/if}
  <div class="grid gap-2">
    {#each Object.entries(foundWords(about?.action ?? 'clean')) as [value, text] (value)}
      <button
        class="btn h-auto justify-start py-2 text-left"
        disabled={house.busy}
        onclick={() => void record(value as Schemas['Found'])}
      >
        <span
          ><b>{text}</b><small class="block font-normal"
            >{about?.words[value as Schemas['Found']] ?? ''}</small
          ></span
        >
      </button>
    {/each}
  </div>
</Modal>
