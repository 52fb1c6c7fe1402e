<!-- What one may see at a look, in the part's own words and with what follows; everything else that may be wrong on demand. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { capital } from '../words/format';
  import { follows } from '../words/tasks';

  type Answer = { about: Schemas['Action']; found: Schemas['Found'] };
  let {
    about,
    asked,
    disabled,
    large = false,
    onanswer,
  }: {
    about: Schemas['Action'];
    asked: Schemas['AskedOut'];
    disabled: boolean;
    large?: boolean;
    /** What was seen, and in which words. */
    onanswer: (answer: Answer, words: string) => void;
  } = $props();

  let all = $state(false);

  const ORDER: Schemas['Found'][] = ['clean', 'light', 'due', 'overdue'];
</script>

{#snippet answer(to: Schemas['Action'], found: Schemas['Found'], words: string, danger: string)}
  <button
    type="button"
    class={['btn h-auto justify-start text-left', large ? 'btn-lg py-3' : 'py-2']}
    {disabled}
    onclick={() => onanswer({ about: to, found }, words)}
  >
    <span
      ><b>{capital(words)}</b><small class={['block font-normal', large && 'text-base']}
        >{danger && found === 'overdue'
          ? 'Then: it is out of use at once'
          : follows(to, found, asked.repairer)}</small
      ></span
    >
  </button>
{/snippet}

<div class="grid gap-2">
  {#each ORDER as found (found)}
    {@render answer(about, found, asked.words[found] ?? found, asked.danger)}
  {/each}
  {#if asked.finds.length}
    {#if all}
      {#each asked.finds as find (`${find.about}:${find.found}`)}
        {@render answer(find.about, find.found, find.words, find.danger)}
      {/each}
    {:else}
      <button type="button" class="btn btn-ghost justify-start" onclick={() => (all = true)}
        >Something else is wrong with it…</button
      >
    {/if}
  {/if}
</div>
