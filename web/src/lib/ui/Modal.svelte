<!-- A dialog over the page: Escape or the cross closes it, focus goes back where it was. -->
<script lang="ts">
  import X from '~icons/lucide/x';
  import { type Snippet, untrack } from 'svelte';

  import { notice } from '../state/notice.svelte';
  import Trouble from './Trouble.svelte';

  let { title, onclose, children }: { title: string; onclose: () => void; children: Snippet } = $props();

  function open(dialog: HTMLDialogElement) {
    dialog.showModal();
    untrack(() => {
      if (notice.problem) notice.close();
      notice.dialogs++;
    });
    return () => {
      untrack(() => notice.dialogs--);
      dialog.close();
    };
  }
  const uid = $props.id();
</script>

<dialog class="modal modal-bottom sm:modal-middle" {@attach open} {onclose} aria-labelledby={`${uid}-title`}>
  <div class="modal-box max-w-lg">
    <div class="mb-3 flex items-start justify-between gap-4">
      <h2 id={`${uid}-title`} class="text-xl font-bold">{title}</h2>
      <button class="btn btn-ghost btn-sm btn-square" aria-label="Close" onclick={onclose}
        ><X width="20" height="20" /></button
      >
    </div>
    {#if notice.problem}
      <div class="mb-3"><Trouble problem={notice.problem} /></div>
    {:else if notice.current?.kind === 'looking'}
      <p class="mb-3" role="status">{notice.current.text}</p>
    {/if}
    {@render children()}
  </div>
  <button class="modal-backdrop" tabindex="-1" aria-label="Close" onclick={onclose}></button>
</dialog>
