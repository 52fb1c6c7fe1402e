<!-- One action of the Log: its line, and under it its records, its sheet, and how to take it back with a reason. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { type Load, PENDING } from '../../lib/state/load';
  import type { Line, LogState } from '../../lib/state/log.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Loaded from '../../lib/ui/Loaded.svelte';
  import Row from '../../lib/ui/Row.svelte';
  import { fullDay, plural } from '../../lib/words/format';
  import Field from '../../lib/ui/Field.svelte';

  let {
    log,
    line: entry,
    open,
    ontoggle,
  }: { log: LogState; line: Line; open: boolean; ontoggle: () => void } = $props();

  let reason = $state('');
  /** One record alone is the line itself. */
  const many = $derived(entry.count > 1);
  let load = $state.raw<Load<Schemas['LogOpenedOut']>>(PENDING);
  const read = async () => void (load = await log.opened(entry));
  $effect(() => {
    if (open && many) untrack(() => void read());
  });
  const gone = $derived(entry.undone_by !== null);
</script>

<Row {open} {ontoggle} end={entry.by}>
  {#snippet line()}<span class={[gone && 'line-through', entry.correction && 'soft']}>{entry.words}</span
    >{/snippet}
  {#if many}
    <Loaded {load} what="Reading what was recorded" retry={() => void read()}>
      {#snippet children(opened)}
        <ul class="grid gap-1">
          {#each opened.records as one (one.entry_id)}
            <li>
              {one.machine ? `${one.machine}: ` : ''}{one.words}
              {#if one.day !== entry.day}<span class="soft">{fullDay(one.day)}</span>{/if}
            </li>
          {/each}
          {#if opened.count > opened.records.length}
            <li class="soft">and {plural(opened.count - opened.records.length, 'more')}</li>
          {/if}
        </ul>
      {/snippet}
    </Loaded>
  {/if}
  {#if gone}
    <p class="mt-2 soft">Taken back by {entry.undone_by}{entry.reason ? `: ${entry.reason}` : ''}.</p>
  {/if}
  {#if entry.sheet_id}<p class="mt-2">
      <a class="link" href={`#/bench/${entry.sheet_id}`}>The sheet</a>
    </p>{/if}
  {#if session.mayWrite && !gone && !entry.correction}
    <form
      class="no-print mt-3 flex flex-wrap items-end gap-2"
      onsubmit={(event) => (event.preventDefault(), void log.takeBack(entry, reason))}
    >
      <Field
        label="Why it is wrong (may stay empty)"
        class="input"
        of="UndoIn"
        name="reason"
        bind:value={reason}
      />
      <button class="btn" disabled={house.busy}
        >{many ? `Take all ${plural(entry.count, 'record')} back` : 'Take it back'}</button
      >
    </form>
  {/if}
</Row>
