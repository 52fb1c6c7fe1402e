<!-- One tap says that a machine ran its usual minutes; anything else is behind the small button beside it. -->
<script lang="ts">
  import Ellipsis from '~icons/lucide/ellipsis';

  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { figure } from '../../lib/words/format';
  import { isResting } from '../../lib/words/round';

  let { machine, today, mayWrite }: { machine: Schemas['StripOut']; today: string; mayWrite: boolean } =
    $props();

  let more = $state(false);
  const minutes = $derived(Math.round(machine.usual.minutes));
  const out = $derived(machine.empty_slots.length > 0);
  const off = $derived(isResting(machine, today) && machine.resting.first <= today ? machine.resting : null);

  /** Ends a pause, or everybody's being away, today: what was planned from here on counts again. */
  async function back() {
    const away = off?.why === 'away';
    const rest = { machine_id: away ? null : machine.id, why: 'back' as const, first: today, last: today };
    await house.rest(rest, away ? 'Everybody is back.' : `${machine.name} is back in use.`);
  }
</script>

<div class="ran" data-ran={machine.name}>
  {#if off}
    <button class="btn btn-sm" disabled={house.busy || !mayWrite} onclick={() => void back()}
      >Back in use</button
    >
  {:else if !out}
    <button
      class="btn btn-sm"
      disabled={house.busy || !mayWrite}
      aria-label={`Ran ${figure(minutes)} min: ${machine.name}`}
      onclick={() => void house.ranAsUsual(machine)}>Ran {figure(minutes)} min</button
    >
  {/if}
  <button
    class="btn btn-sm btn-ghost btn-square"
    disabled={!mayWrite}
    aria-label={`more… about ${machine.name}`}
    title="Other minutes, another day, paused…"
    onclick={() => (more = true)}><Ellipsis width="18" height="18" aria-hidden="true" /></button
  >
</div>
{#if more}
  {#await import('./RunDialog.svelte') then { default: RunDialog }}
    <RunDialog {machine} {today} onclose={() => (more = false)} />
  {/await}
{/if}

<style>
  .ran {
    display: flex;
    justify-content: flex-end;
    gap: 0.15rem;
  }
  @media (max-width: 39.99rem) {
    .ran :global(.btn) {
      --size: 2.75rem;
    }
  }
</style>
