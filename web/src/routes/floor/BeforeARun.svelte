<!-- What to see to on the floor before a machine runs; a card to print and hang up. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';

  let {
    machine,
    runners,
    checks,
    onchoose,
  }: {
    machine: Schemas['StripOut'] | null;
    runners: Schemas['StripOut'][];
    checks: Schemas['BeforeRunOut'][];
    onchoose: (id: string) => void;
  } = $props();

  let ticked = $state<string[]>([]);
  const ready = $derived(checks.length > 0 && checks.every((check) => ticked.includes(check.key)));
  const tick = (key: string) => (ticked = [...new Set([...ticked, key])]);

  /** Left out of the run and wiped by hand later: Round reminds of it from today on. */
  async function later(check: Schemas['BeforeRunOut']) {
    if (!machine) return;
    const text = check.by_hand.replace('{machine}', machine.name);
    const today = house.round.status === 'ok' ? house.round.data.today : '';
    if (await house.remind(machine.id, text, today, 'Round reminds of it until it is done.')) tick(check.key);
  }
</script>

<section aria-label="Before a run" class="panel p-5 print:border-0">
  <div class="flex flex-wrap items-baseline justify-between gap-3">
    <h2>Before {machine ? machine.name : 'a machine'} runs</h2>
    {#if runners.length > 1}
      <label class="noprint"
        ><span class="sr-only">Machine</span>
        <select class="select" value={machine?.id} onchange={(e) => onchoose(e.currentTarget.value)}>
          {#each runners as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
        </select></label
      >
    {/if}
  </div>
  {#each machine?.dangers ?? [] as danger (danger.key)}
    <p class="ink-overdue font-bold">Do not run it: {danger.name}. {danger.now}</p>
  {/each}
  {#if machine?.empty_slots.length}
    <p class="ink-overdue mt-2 font-bold" role="status">
      Do not run it: {machine.empty_slots.join(', ').toLowerCase()} is out.
    </p>
  {/if}
  <ul class="mt-3 grid gap-2">
    {#each checks as check (check.key)}
      <li>
        <label class="check">
          <input type="checkbox" class="checkbox checkbox-lg" value={check.key} bind:group={ticked} />
          <span
            ><b>{check.text}</b>
            <span class="soft block text-sm">Such as {check.such_as.join(', ')}.</span></span
          >
        </label>
        {#if check.by_hand}
          <p class="noprint flex flex-wrap items-center gap-2 pl-12">
            <button class="btn btn-sm" onclick={() => tick(check.key)}>Wiped up</button>
            <button class="btn btn-sm" onclick={() => tick(check.key)}>Fenced off</button>
            <button
              class="btn btn-sm"
              disabled={!machine || !session.mayWrite || house.busy}
              onclick={() => void later(check)}>Left out: by hand later, remind me</button
            >
          </p>
        {/if}
      </li>
    {/each}
  </ul>
  <div class="noprint mt-3 flex flex-wrap items-center gap-3">
    <button class="btn" onclick={() => window.print()}>Print this card</button>
    <p aria-live="polite" class="font-bold">{ready ? 'The floor is ready.' : ''}</p>
  </div>
</section>

<style>
  .check {
    display: flex;
    gap: 0.9rem;
    padding: 0.5rem;
    cursor: pointer;
    border-radius: 0.5rem;
  }
  .check:hover {
    background: var(--color-base-200);
  }
</style>
