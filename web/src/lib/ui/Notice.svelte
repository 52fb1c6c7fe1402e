<!-- What just happened, with the way back. It stays; nothing disappears while wet hands are busy. -->
<script lang="ts">
  import X from '~icons/lucide/x';

  import { notice } from '../state/notice.svelte';
</script>

<div class="notice" aria-live="polite">
  {#if notice.current && !(notice.problem && notice.dialogs)}
    {@const now = notice.current}
    <div class={['bar', now.kind === 'problem' && 'bad']} role={now.kind === 'problem' ? 'alert' : undefined}>
      <p class="grow">
        {#if now.kind !== 'problem'}{now.text}{:else}<b>{now.problem.detail}</b> {now.problem.fix}{/if}
      </p>
      {#if now.kind === 'done' && now.undo}
        <button class="btn btn-sm" onclick={() => notice.undo()}>Undo</button>
      {/if}
      <button
        class="btn btn-sm btn-ghost btn-square"
        aria-label="Close this message"
        onclick={() => notice.close()}
      >
        <X width="18" height="18" />
      </button>
    </div>
  {/if}
</div>

<style>
  .notice {
    position: fixed;
    inset: auto 0 0 0;
    z-index: 30;
    display: flex;
    justify-content: center;
    padding: 0 0.75rem calc(0.75rem + var(--tabbar, 0px));
    pointer-events: none;
  }
  .bar {
    pointer-events: auto;
    display: flex;
    align-items: center;
    gap: 0.75rem;
    width: min(44rem, 100%);
    padding: 0.5rem 0.5rem 0.5rem 1rem;
    background: var(--color-base-100);
    border: 1px solid var(--color-base-300);
    border-left: 5px solid var(--fresh);
    border-radius: var(--radius-box);
    box-shadow: 0 6px 24px rgb(0 0 0 / 18%);
  }
  .bad {
    border-left-color: var(--overdue);
  }
</style>
