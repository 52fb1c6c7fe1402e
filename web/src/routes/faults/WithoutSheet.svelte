<!-- What a case asks for was done without a bench sheet: on which day, so that its part's clocks are true. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import type { SearchState } from '../../lib/state/faults.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';
  import WhichDay from '../../lib/ui/WhichDay.svelte';
  import { didWord } from '../../lib/words/tasks';

  let {
    search,
    suspect,
    today,
    onclose,
  }: {
    search: SearchState;
    suspect: Schemas['SuspectOut'] & { action: Schemas['Action'] };
    today: string;
    onclose: () => void;
  } = $props();

  let day = $state(untrack(() => today));

  async function record(event: SubmitEvent) {
    event.preventDefault();
    if (await search.tell('cured', suspect.key, '', { day })) onclose();
  }
</script>

<Modal title={`Already ${didWord(suspect.action)}`} {onclose}>
  <form onsubmit={record} class="grid gap-4">
    <WhichDay bind:day {today} />
    {#if suspect.wait_h}
      <p class="soft">
        What is still within its rest goes on the rack until that is over; the case waits for it.
      </p>
    {/if}
    {#if search.problem}<Trouble problem={search.problem} />{/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Cancel</button>
      <button class="btn btn-primary" disabled={search.busy}>Record it</button>
    </div>
  </form>
</Modal>
