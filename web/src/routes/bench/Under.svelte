<!-- What can be done at any step: back, skip, a note, may I wash this, print, rest, give up. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import type { BenchState } from '../../lib/state/bench.svelte';
  import { cardFrom } from '../../lib/state/cards';
  import { notice } from '../../lib/state/notice.svelte';
  import { session } from '../../lib/state/session.svelte';
  import MayIWash from '../../lib/ui/MayIWash.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Found from './Found.svelte';
  import SkipStep from './SkipStep.svelte';

  let {
    bench,
    byPart,
    maySkip,
    onback,
  }: { bench: BenchState; byPart: boolean; maySkip: boolean; onback: () => void } = $props();

  type Dialog = 'skip' | 'drop' | 'note' | 'wash';
  let open = $state<Dialog | null>(null);
  /** The steps at which somebody may wonder whether water will do. */
  const AT_THE_SINK = ['wash', 'clean', 'clean_in_place'];
  const step = $derived(bench.step);
  const card = $derived(step && byPart ? cardFrom(bench.steps, step.key) : step ? [step] : []);
  /** What a note is about: the part at hand, where there is one. */
  const about = $derived(card.find((one) => one.slot) ?? step);
  const washing = $derived(card.find((one) => one.slot && AT_THE_SINK.includes(one.kind)));

  export function skip(): void {
    if (maySkip) open = 'skip';
  }
  export function note(): void {
    if (step && session.mayWrite) open = 'note';
  }
  async function leaveOut(why: string) {
    open = null;
    if (step) await bench.answer(step.key, 'skip', why);
  }
  async function drop() {
    open = null;
    if (await bench.drop()) {
      notice.done('The sheet was given up; nothing was recorded.');
      await push('/');
    }
  }
  const close = () => (open = null);
</script>

<div class="under">
  <button
    class="btn btn-ghost"
    disabled={!bench.sheet?.answered.length || bench.ending_waits}
    onclick={onback}>← Back</button
  >
  {#if maySkip}<button class="btn btn-ghost" onclick={skip}>Skip…</button>{/if}
  {#if step && session.mayWrite}<button class="btn btn-ghost" onclick={note}>Note, photo, found…</button>{/if}
  {#if washing}
    <button class="btn btn-ghost" onclick={() => (open = 'wash')}>May I wash this?</button>
  {/if}
  <span class="grow"></span>
  <a class="btn btn-ghost" href={`#/print/${bench.id}`}>Print</a>
  <a class="btn btn-ghost" href="#/">Rest here</a>
  {#if bench.sheet?.may_drop}
    <button class="btn btn-ghost" onclick={() => (open = 'drop')}>Give up…</button>
  {/if}
</div>

{#if open === 'wash' && washing?.slot}
  <MayIWash
    machine_id={washing.machine_id}
    slot={washing.slot}
    name={washing.slot_name ?? ''}
    onclose={close}
  />
{:else if open === 'note' && about}
  <Found step={about} onclose={close} onkept={() => void bench.refresh()} />
{:else if open === 'skip' && step}
  <SkipStep {step} onclose={close} onskip={(why) => void leaveOut(why)} />
{:else if open === 'drop'}
  <Modal title="Give this sheet up?" onclose={close}>
    <p>No part has been touched yet, so nothing is recorded and the dates stay as they are.</p>
    <div class="mt-4 flex justify-end gap-2">
      <button class="btn btn-primary" onclick={close}>Keep it</button>
      <button class="btn btn-error btn-outline" onclick={() => void drop()}>Give it up</button>
    </div>
  </Modal>
{/if}

<style>
  .under {
    display: flex;
    flex-wrap: wrap;
    gap: 0.25rem;
    margin-top: 1rem;
  }
  .under .btn {
    --size: 3rem;
    --fontsize: 1rem;
  }
</style>
