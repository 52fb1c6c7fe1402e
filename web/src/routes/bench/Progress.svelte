<!-- Which machine the sheet is at, how far it is, in which way it is gone through; and what was not sent yet. -->
<script lang="ts">
  import type { BenchState } from '../../lib/state/bench.svelte';
  import { outbox } from '../../lib/state/outbox.svelte';
  import { figure, plural, together } from '../../lib/words/format';
  import Late from './Late.svelte';
  import OutOfUse from './OutOfUse.svelte';

  let { bench, byPart, onbypart }: { bench: BenchState; byPart: boolean; onbypart: (by: boolean) => void } =
    $props();

  const sheet = $derived(bench.sheet!);
  const answered = $derived(sheet.answered.length);
  const others = $derived(bench.step ? sheet.machines.length - 1 : 0);
  const unsent = $derived(bench.waiting.length);
</script>

<div class="progress-line">
  <div class="flex flex-wrap items-center justify-between gap-x-6 gap-y-1">
    <p>
      <b>{bench.step?.machine_name ?? together(sheet.machines)}</b>
      <span class="soft">
        {others ? `and ${plural(others, 'more machine', 'more machines')}, ` : ''}
        {sheet.sitting === 'refit_and_test' ? 'put back and test' : 'clean'}, about {figure(sheet.minutes)} min
        ·
        {Math.min(answered + 1, bench.steps.length)} of {bench.steps.length}
      </span>
    </p>
    <div class="join" role="group" aria-label="How it is gone through">
      {#each [false, true] as by (by)}
        <button
          class={['btn btn-sm join-item', byPart === by && 'btn-active']}
          aria-pressed={byPart === by}
          onclick={() => onbypart(by)}>{by ? 'Part by part' : 'Step by step'}</button
        >
      {/each}
    </div>
  </div>
  <progress class="progress" value={answered} max={bench.steps.length} aria-label="Steps done"></progress>
  {#if sheet.practised && !byPart && answered === 0}
    <p class="soft mt-1">
      All of this was done at this bench twice or more.
      <button class="link" onclick={() => onbypart(true)}>Go part by part, with fewer taps</button>
    </p>
  {/if}
  {#if !outbox.reached && unsent}
    <p class="mt-2 py-2 px-3 border-l-4 border-l-(--due)" role="status">
      Not sent yet: {plural(unsent, 'answer')}
      {unsent === 1 ? 'waits' : 'wait'} on this device and {unsent === 1 ? 'is' : 'are'} sent by itself; go on.
    </p>
  {/if}
  {#if !isSecureContext}
    <p class="soft text-sm">
      Open without a lock in the address, so the screen may go dark and a reload needs the connection;
      <b>make serve LAN=1</b> lets this device in with both.
    </p>
  {/if}
  <Late count={sheet.late} />
  <OutOfUse {sheet} />
</div>

<style>
  .progress-line {
    grid-area: progress;
  }
</style>
