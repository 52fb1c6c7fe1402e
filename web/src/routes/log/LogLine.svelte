<!-- One action of the Log: its line, and under it its records, its sheet, and how to take it back with a reason. -->
<script lang="ts">
  import { house } from '../../lib/state/house.svelte';
  import type { Line, LogState } from '../../lib/state/log.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Row from '../../lib/ui/Row.svelte';
  import { fullDay, plural } from '../../lib/words/format';

  let {
    log,
    line: told,
    open,
    ontoggle,
  }: { log: LogState; line: Line; open: boolean; ontoggle: () => void } = $props();

  let reason = $state('');
  const more = $derived(told.count - told.records.length);
  const gone = $derived(told.undone_by !== null);
</script>

<Row {open} {ontoggle} end={told.by}>
  {#snippet line()}<span class={[gone && 'line-through', told.correction && 'soft']}>{told.words}</span
    >{/snippet}
  <ul class="grid gap-1">
    {#each told.records as one (one.entry_id)}
      <li>
        {one.machine ? `${one.machine}: ` : ''}{one.words}
        {#if one.day !== told.day}<span class="soft">{fullDay(one.day)}</span>{/if}
      </li>
    {/each}
    {#if more > 0}<li class="soft">and {plural(more, 'more')}</li>{/if}
  </ul>
  {#if gone}
    <p class="mt-2 soft">Taken back by {told.undone_by}{told.reason ? `: ${told.reason}` : ''}.</p>
  {/if}
  {#if told.sheet_id}<p class="mt-2"><a class="link" href={`#/bench/${told.sheet_id}`}>The sheet</a></p>{/if}
  {#if session.mayWrite && !gone && !told.correction}
    <form
      class="no-print mt-3 flex flex-wrap items-end gap-2"
      onsubmit={(event) => (event.preventDefault(), void log.takeBack(told, reason))}
    >
      <label class="grid gap-1"
        >Why it is wrong (may stay empty) <input class="input" maxlength="200" bind:value={reason} /></label
      >
      <button class="btn" disabled={house.busy}
        >{told.count > 1 ? `Take all ${plural(told.count, 'record')} back` : 'Take it back'}</button
      >
    </form>
  {/if}
</Row>
