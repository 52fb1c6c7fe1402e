<!-- The keys that work on this page, by the place that lends them. -->
<script lang="ts">
  import { keys } from '../state/keys.svelte';
  import Modal from './Modal.svelte';
</script>

<Modal title="Keys" onclose={() => (keys.helpOpen = false)}>
  {#each keys.shown as group (group)}
    <h3 class="soft mt-3 mb-1 font-bold">{group.title}</h3>
    <dl class="grid grid-cols-[5rem_1fr] items-center gap-y-1">
      {#each group.keys as key (key.key)}
        <dt><kbd class="kbd">{key.shown ?? key.key}</kbd></dt>
        <dd>{key.does}</dd>
      {/each}
    </dl>
  {/each}
  <p class="soft mt-3">
    Tab walks through everything, Enter or space presses it; on a strip the arrow keys walk along the air.
  </p>
  <label class="mt-4 flex items-center gap-3">
    <input
      type="checkbox"
      class="toggle"
      checked={keys.on}
      onchange={(e) => keys.turn(e.currentTarget.checked)}
    />
    Single keys work
  </label>
</Modal>
