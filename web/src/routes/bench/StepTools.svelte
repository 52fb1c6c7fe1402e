<!-- What a step brings along besides its words: numbers of a part, boxes to tick, a clock, how it sat, places, screws. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import type { BenchState } from '../../lib/state/bench.svelte';
  import type { Hanging } from '../../lib/state/rack.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Pull from '../../lib/ui/Pull.svelte';
  import Hang from '../rack/Hang.svelte';
  import Numbers from './Numbers.svelte';
  import Screws from './Screws.svelte';
  import Timer from './Timer.svelte';

  let {
    bench,
    step,
    ongive,
  }: {
    bench: BenchState;
    step: Schemas['StepOut'];
    ongive: (value: string, hanging?: Hanging | null) => void;
  } = $props();

  let zoomed = $state(false);
  let hang = $state<ReturnType<typeof Hang> | null>(null);
  export const takeSoonest = (): void => void hang?.takeSoonest();

  const sat = $derived(step.item_name ?? '');
  const mine = $derived(bench.sheet?.machines.find(({ id }) => id === step.machine_id) ?? null);
  /** Suction is felt before a machine is made safe, and when it runs again. */
  const pullAt = $derived.by((): 'before' | 'after' | null => {
    if (!mine?.pulls) return null;
    if (step.kind === 'power') return 'after';
    const first = bench.sheet?.steps.find((one) => one.machine_id === step.machine_id);
    return bench.sheet?.sitting === 'clean_and_rack' && first?.key === step.key ? 'before' : null;
  });
</script>

{#if step.kind === 'retire' && step.slot}<Numbers machine={step.machine_id} slot={step.slot} />{/if}
{#if step.each.length}
  {#key step.key}
    <ul class="mt-3">
      {#each step.each as one (one)}
        <li>
          <label class="flex min-h-13 cursor-pointer items-center gap-4 text-xl"
            ><input type="checkbox" class="checkbox checkbox-lg" /> {one}</label
          >
        </li>
      {/each}
    </ul>
  {/key}
{/if}
{#if step.wait_min}<Timer key={`${bench.id}/${step.key}`} minutes={step.wait_min} />{/if}
{#if step.picture && ['fit', 'take_out', 'open', 'close'].includes(step.kind)}
  <button class="cursor-zoom-in" onclick={() => (zoomed = true)} title="Larger">
    <img class="panel my-4 max-h-80" src={`/api/notes/${step.picture}/picture`} alt={`How it sat: ${sat}`} />
  </button>
{/if}
{#if step.kind === 'rack' && step.item_id}
  <Hang
    bind:this={hang}
    item_id={step.item_id}
    action={step.action}
    busy={false}
    verb="It hangs in"
    big
    onhang={(hanging) => ongive('done', hanging)}
  />
{/if}
{#if pullAt}
  <Pull
    machine_id={step.machine_id}
    sheet_id={bench.id}
    moment={pullAt}
    chosen={(pullAt === 'before' ? mine?.pull_before : mine?.pull_after) ?? null}
    onkept={() => void bench.refresh()}
  />
{/if}
{#if step.counts}
  {#key step.key}
    <Screws
      {step}
      steps={bench.sheet?.steps ?? []}
      disabled={!session.mayWrite}
      ongive={(value) => ongive(value)}
    />
  {/key}
{/if}
{#if zoomed && step.picture}
  <Modal title={`How it sat: ${sat}`} onclose={() => (zoomed = false)}>
    <img class="w-full" src={`/api/notes/${step.picture}/picture`} alt={`How it sat: ${sat}`} />
  </Modal>
{/if}
