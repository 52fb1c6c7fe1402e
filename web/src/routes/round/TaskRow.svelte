<!-- One due task: what, on what, why, how long; chosen for the sheet, looked at, done already, or not now. -->
<script lang="ts">
  import Glyph from '../../lib/airpath/Glyph.svelte';
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { figure } from '../../lib/words/format';
  import { doWord, headline } from '../../lib/words/tasks';
  import { reason } from '../../lib/words/why';

  let {
    task,
    chosen,
    current,
    mayWrite,
    me,
    onchoose,
    ondone,
    onlook,
    onlater,
  }: {
    task: Schemas['TaskOut'];
    chosen: boolean;
    current: boolean;
    mayWrite: boolean;
    me: string | null;
    onchoose: (chosen: boolean) => void;
    ondone: () => void;
    onlook: () => void;
    onlater: () => void;
  } = $props();

  const mine = $derived(task.taken?.member_id === me);
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

<li
  class={['row', current && 'current']}
  data-task={`${task.slot}/${task.action}`}
  aria-current={current ? 'true' : undefined}
>
  <label class="pick">
    <input
      type="checkbox"
      class="checkbox"
      checked={chosen}
      disabled={!mayWrite}
      onchange={(e) => onchoose(e.currentTarget.checked)}
      aria-label={`Put on the sheet: ${headline(task)}`}
    />
  </label>
  <svg width="26" height="26" viewBox="-13 -13 26 26" aria-hidden="true"
    ><Glyph level={task.level} r={8} /></svg
  >
  <div class="what">
    <p>
      <b class={`ink-${task.level}`}>{headline(task)}</b>
      <span class="soft">{task.machine_name}</span>
      {#if task.taken}<span class="taken">{mine ? 'you do it' : `${task.taken.by} does it`}</span>{/if}
    </p>
    <p class="text-[0.95rem]">{reason(task)}</p>
    {#if task.look_first}
      <p class="text-[0.95rem] font-bold">
        Look first: it takes a minute{task.effort_min >= 3 ? `, the work ${figure(task.effort_min)}` : ''},
        and may spare it.
      </p>
    {/if}
    {#if task.hand_over}
      <p class="text-[0.95rem] font-bold">
        For somebody able, or a shop: it goes further into the machine than you said you go.
      </p>
    {/if}
    <p class="does">
      <span class="soft text-sm">{figure(task.effort_min)} min</span>
      <a class="link text-sm" href={`#/machines/${task.machine_id}/${task.slot}`}>Why this date</a>
      {#if task.action !== 'inspect'}
        <button class={['btn btn-sm', task.look_first && 'btn-primary']} disabled={!mayWrite} onclick={onlook}
          >I looked…</button
        >
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
        aria-label={`Not now: ${doWord(task.action)} ${task.slot_name}`}
        onclick={onlater}>Not now…</button
      >
      {#if !task.taken || mine}
        <button
          class="btn btn-sm btn-ghost"
          disabled={!mayWrite || house.busy}
          aria-label={`${mine ? 'Leave it to others' : 'I do it'}: ${doWord(task.action)} ${task.slot_name}`}
          onclick={() => void take()}>{mine ? 'Leave it' : 'I do it'}</button
        >
      {/if}
    </p>
  </div>
</li>

<style>
  .row {
    display: grid;
    grid-template-columns: auto auto minmax(0, 1fr);
    align-items: start;
    gap: 0.75rem;
    padding: 0.75rem 0.9rem;
    border-top: 1px solid var(--color-base-300);
  }
  .pick {
    padding-top: 0.1rem;
  }
  .current {
    box-shadow: inset 4px 0 0 var(--color-base-content);
  }
  .taken {
    margin-left: 0.5rem;
    padding: 0.05rem 0.6rem;
    border: 1.5px solid currentColor;
    border-radius: 999px;
    font-size: 0.875rem;
    font-weight: 700;
  }
  .does {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0.35rem 0.6rem;
    margin-top: 0.35rem;
  }
</style>
