<!-- One due task as a line: what, on what, how long. It opens on why, and on what else can be said of it. -->
<script lang="ts">
  import Glyph from '../../lib/airpath/Glyph.svelte';
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import Row from '../../lib/ui/Row.svelte';
  import { figure } from '../../lib/words/format';
  import { doWord, LEVEL, shortWord } from '../../lib/words/tasks';
  import { reason, stakes } from '../../lib/words/why';

  let {
    task,
    named,
    open,
    chosen,
    current,
    mayWrite,
    me,
    besides,
    ontoggle,
    onchoose,
    ondone,
    onlook,
    onlater,
  }: {
    task: Schemas['TaskOut'];
    /** Whether the line names its machine: not under a heading that does. */
    named: boolean;
    open: boolean;
    chosen: boolean;
    current: boolean;
    mayWrite: boolean;
    me: string | null;
    /** What comes soon behind the same opening. */
    besides: string;
    ontoggle: () => void;
    onchoose: (chosen: boolean) => void;
    ondone: () => void;
    onlook: () => void;
    onlater: () => void;
  } = $props();

  const mine = $derived(task.taken?.member_id === me);
  const what = $derived(`${doWord(task.action)} ${task.slot_name}`);
  /** Emptied in one tap; what is then glanced at is said, and can be told like any look. */
  async function emptied() {
    const { slot, action } = task;
    const text = `${task.machine_name}, ${task.slot_name.toLowerCase()}: emptied. Inlet clear? Seal clean and whole? Lid shut until it clicks?`;
    await house.alreadyDone(task.machine_id, { slot, action }, text);
  }
  async function take() {
    const { slot, action } = task;
    if (task.taken) await house.undo(task.taken.entry_id);
    else await house.takeOn(task.machine_id, { slot, action }, `You do this: ${task.slot_name}.`);
  }
</script>

<Row {open} {ontoggle} {current} end={`${figure(task.effort_min)} min`}>
  {#snippet mark()}
    <svg width="22" height="22" viewBox="-13 -13 26 26" aria-hidden="true"
      ><Glyph level={task.level} r={8} /></svg
    >
  {/snippet}
  {#snippet line()}
    <span class="sr-only">{LEVEL[task.level]}:</span>
    <b class={`ink-${task.level}`}>{task.slot_name}</b>
    {shortWord(task.action)}
    {#if named}<span
        class="soft ml-[0.2rem] text-[0.875rem] max-sm:block max-sm:ml-0 max-sm:text-[0.9rem] max-sm:leading-[1.2]"
        >{task.machine_name}</span
      >{/if}
    {#if task.taken}<span class="tag">{mine ? 'you do it' : `${task.taken.by} does it`}</span>{/if}
    {#if task.hand_over}<span class="tag">for a shop</span>{/if}
    {#if !chosen}<span class="tag">not this time</span>{/if}
  {/snippet}
  <p class="text-[0.95rem]">{reason(task)} {stakes(task)}</p>
  {#if task.look_first}
    <p class="mt-1 text-[0.95rem] font-bold">
      Look first: it takes a minute{task.effort_min >= 3 ? `, the work ${figure(task.effort_min)}` : ''}, and
      may spare it.
    </p>
  {/if}
  {#if task.hand_over}
    <p class="mt-1 text-[0.95rem] font-bold">
      For somebody able, or a shop: it goes further into the machine than you said you go.
    </p>
  {/if}
  {#if besides}<p class="soft mt-1 text-[0.95rem]">{besides}</p>{/if}
  <p class="does">
    {#if task.action !== 'inspect'}
      <button class="btn btn-sm" disabled={!mayWrite} onclick={onlook}>I looked…</button>
    {/if}
    {#if task.action === 'empty'}
      <button class="btn btn-sm" disabled={!mayWrite || house.busy} onclick={() => void emptied()}
        >Emptied</button
      >
    {/if}
    <button class="btn btn-sm" disabled={!mayWrite} onclick={ondone}
      >{task.action === 'inspect' ? 'I looked…' : 'Already done…'}</button
    >
    <button
      class="btn btn-sm btn-ghost"
      disabled={!mayWrite}
      aria-label={`Not now: ${what}`}
      onclick={onlater}>Not now…</button
    >
    {#if !task.taken || mine}
      <button
        class="btn btn-sm btn-ghost"
        disabled={!mayWrite || house.busy}
        aria-label={`${mine ? 'Leave it to others' : 'I do it'}: ${what}`}
        onclick={() => void take()}>{mine ? 'Leave it' : 'I do it'}</button
      >
    {/if}
    <a class="btn btn-sm btn-ghost" href={`#/machines/${task.machine_id}/${task.slot}`}>Why this date</a>
    <label class="flex items-center gap-2 text-sm"
      ><input
        type="checkbox"
        class="checkbox checkbox-sm"
        checked={chosen}
        disabled={!mayWrite}
        onchange={(e) => onchoose(e.currentTarget.checked)}
        aria-label={`Put on the sheet: ${what}`}
      />On the sheet</label
    >
  </p>
</Row>

<style>
  .tag {
    margin-left: 0.35rem;
    padding: 0 0.5rem;
    border: 1.5px solid currentColor;
    border-radius: 999px;
    font-size: 0.84rem;
    font-weight: 700;
    white-space: nowrap;
  }
  .does {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0.4rem;
    margin-top: 0.5rem;
  }
  @media (max-width: 39.99rem) {
    .does > * {
      min-height: 2.75rem;
    }
  }
</style>
