<!-- "I looked at it": what was found on a part, nothing done. Two taps: the answer, record. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { house } from '../state/house.svelte';
  import { doWord } from '../words/tasks';
  import Answers from './Answers.svelte';
  import Modal from './Modal.svelte';

  type About = { action: Schemas['Action']; asked: Schemas['AskedOut'] };
  let {
    machine_id,
    slot,
    name,
    abouts,
    onclose,
  }: { machine_id: string; slot: string; name: string; abouts: About[]; onclose: () => void } = $props();

  let chosen = $state<Schemas['Action'] | null>(null);
  const about = $derived(abouts.find((one) => one.action === chosen) ?? abouts[0] ?? null);

  async function record(look: { about: Schemas['Action']; found: Schemas['Found'] }, words: string) {
    if (await house.look(machine_id, { slot, ...look }, `${name}: ${words}.`)) onclose();
  }
</script>

<Modal title={`${name}: what do you see?`} {onclose}>
  {#if abouts.length > 1}
    <div class="mb-3 flex flex-wrap gap-2" role="group" aria-label="With what in mind">
      {#each abouts as one (one.action)}
        <button
          type="button"
          class={['btn btn-sm', about === one && 'btn-active']}
          aria-pressed={about === one}
          onclick={() => (chosen = one.action)}>{doWord(one.action)}?</button
        >
      {/each}
    </div>
  {/if}
  {#if about}
    {#key about.action}
      <Answers
        about={about.action}
        asked={about.asked}
        disabled={house.busy}
        onanswer={(look, words) => void record(look, words)}
      />
    {/key}
  {/if}
</Modal>
