<!-- "I looked at it": what was found on a part, nothing done. Two taps: the answer, record. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { house } from '../state/house.svelte';
  import { doWord, FOUND } from '../words/tasks';
  import Modal from './Modal.svelte';

  let { machine_id, part, onclose }: { machine_id: string; part: Schemas['PartOut']; onclose: () => void } =
    $props();

  /** What a look can be about: everything that is not itself a look. */
  const abouts = $derived(part.states.map((state) => state.action).filter((action) => action !== 'inspect'));
  let chosen = $state<Schemas['Action'] | null>(null);
  const about = $derived(chosen ?? abouts[0] ?? null);
  const words = $derived(about ? part.as_found[about] : undefined);

  async function record(found: Schemas['Found']) {
    if (!about) return;
    const text = `${part.name}: found ${FOUND[found].toLowerCase()}. The date has moved with it.`;
    if (await house.look(machine_id, { slot: part.slot, about, found }, text)) onclose();
  }
</script>

<Modal title={`${part.name}: what do you see?`} {onclose}>
  {#if abouts.length > 1}
    <div class="mb-3 flex flex-wrap gap-2" role="group" aria-label="With what in mind">
      {#each abouts as action (action)}
        <button
          type="button"
          class={['btn btn-sm', about === action && 'btn-primary']}
          aria-pressed={about === action}
          onclick={() => (chosen = action)}>{doWord(action)}?</button
        >
      {/each}
    </div>
  {/if}
  <div class="grid gap-2">
    {#each Object.entries(FOUND) as [value, text] (value)}
      <button
        class="btn h-auto justify-start py-2 text-left"
        disabled={house.busy}
        onclick={() => void record(value as Schemas['Found'])}
      >
        <span
          ><b>{text}</b><small class="block font-normal">{words?.[value as Schemas['Found']] ?? ''}</small
          ></span
        >
      </button>
    {/each}
  </div>
</Modal>
