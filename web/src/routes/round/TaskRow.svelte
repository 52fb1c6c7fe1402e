<!-- One due task: what, on what, why, how long; chosen for the sheet or done already. -->
<script lang="ts">
  import Glyph from '../../lib/airpath/Glyph.svelte';
  import type { Schemas } from '../../lib/api/client';
  import { figure } from '../../lib/words/format';
  import { headline, reason } from '../../lib/words/tasks';

  let {
    task,
    chosen,
    current,
    mayWrite,
    onchoose,
    ondone,
  }: {
    task: Schemas['TaskOut'];
    chosen: boolean;
    current: boolean;
    mayWrite: boolean;
    onchoose: (chosen: boolean) => void;
    ondone: () => void;
  } = $props();
</script>

<li class={['row', current && 'current']} aria-current={current ? 'true' : undefined}>
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
    </p>
    <p class="text-[0.95rem]">{reason(task)}</p>
    <p class="soft text-sm">
      {figure(task.effort_min)} min{task.opening ? `, behind the ${task.opening}` : ''} ·
      <a class="link" href={`#/machines/${task.machine_id}/${task.slot}`}>Why this date</a>
    </p>
  </div>
  <button class="btn btn-sm" disabled={!mayWrite} onclick={ondone}>Already done…</button>
</li>

<style>
  .row {
    display: grid;
    grid-template-columns: auto auto minmax(0, 1fr) auto;
    align-items: start;
    gap: 0.75rem;
    padding: 0.75rem 0.9rem;
    border-top: 1px solid var(--color-base-300);
  }
  .row:first-child {
    border-top: none;
  }
  .pick {
    padding-top: 0.1rem;
  }
  .current {
    box-shadow: inset 4px 0 0 var(--color-base-content);
  }
  @media (max-width: 639px) {
    .row {
      grid-template-columns: auto auto minmax(0, 1fr);
    }
    .row > button {
      grid-column: 3;
      justify-self: start;
    }
  }
</style>
