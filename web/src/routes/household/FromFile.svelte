<!-- A file to be brought in: chosen, looked at, done; with what is wrong in it at which line. -->
<script lang="ts" generics="T">
  import type { Snippet } from 'svelte';

  import type { Incoming } from '../../lib/state/data.svelte';
  import Panel from '../../lib/ui/Panel.svelte';
  import Trouble from '../../lib/ui/Trouble.svelte';

  let {
    title,
    about,
    accept,
    incoming,
    act,
    onbring,
    anything,
    seen,
    done,
  }: {
    title: string;
    about: string;
    accept: string;
    incoming: Incoming<T>;
    act: string;
    onbring: () => void;
    /** Whether the file brings anything that is not here. */
    anything: (found: T) => boolean;
    seen: Snippet<[T]>;
    done: Snippet<[T]>;
  } = $props();
</script>

<Panel {title}>
  <p class="soft mb-2">{about}</p>
  <label class="grid max-w-120 gap-1"
    >File <input
      type="file"
      class="file-input w-full"
      {accept}
      disabled={incoming.busy}
      onchange={(event) => void incoming.look(event.currentTarget.files?.[0] ?? null)}
    /></label
  >
  {#if incoming.busy}<p class="mt-3" role="status">Reading the file…</p>{/if}
  {#if incoming.problem}
    <div class="mt-3"><Trouble problem={incoming.problem} /></div>
    {#if incoming.problem.lines.length > 1}
      <ul class="mt-2 max-h-60 overflow-y-auto">
        {#each incoming.problem.lines as one, n (n)}
          <li>Line {one.line}: {one.problem}</li>
        {/each}
      </ul>
    {/if}
  {/if}
  {#if incoming.seen}
    <div class="mt-3 grid gap-1">
      {@render seen(incoming.seen)}
      <p class="mt-2 flex flex-wrap gap-2">
        {#if anything(incoming.seen)}
          <button class="btn btn-primary" disabled={incoming.busy} onclick={onbring}>{act}</button>
        {/if}
        <button class="btn" onclick={() => void incoming.look(null)}>Leave it</button>
      </p>
    </div>
  {/if}
  {#if incoming.done}<div class="mt-3" role="status">{@render done(incoming.done)}</div>{/if}
</Panel>
