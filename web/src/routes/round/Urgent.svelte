<!-- What comes before all work: dangers, what somebody wanted to be reminded of, machines that cannot be worked out. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import OutOfUse from '../../lib/ui/OutOfUse.svelte';
  import { WITHOUT_FIRST, withoutWords } from '../../lib/words/devices';
  import { day } from '../../lib/words/format';
  import AtFault from './AtFault.svelte';

  let {
    round,
    without,
    mayWrite,
  }: {
    round: Schemas['RoundOut'];
    /** What ran by its own word while a part that it needs is out. */
    without: Schemas['RanWithoutOut'][];
    mayWrite: boolean;
  } = $props();

  const endangered = $derived(round.machines.filter((machine) => machine.dangers.length));
</script>

<div class="urgent">
  {#each endangered as machine (machine.id)}
    {#each machine.dangers as danger (danger.key)}<OutOfUse {machine} {danger} />{/each}
  {/each}
  {#each without as one (one.machine_id + one.part)}
    <section class="panel px-4 py-2" aria-label={`${one.machine}: stop it`}>
      <b class="ink-overdue"
        ><a class="link" href={`#/machines/${one.machine_id}`}>{one.machine}</a> {withoutWords(one)}.</b
      >
      {WITHOUT_FIRST}
    </section>
  {/each}
  {#each round.faults as fault (fault.machine_id)}<AtFault {fault} {mayWrite} />{/each}
  {#if round.reminders.length}
    <ul class="panel" aria-label="Reminders">
      {#each round.reminders as one (one.entry_id)}
        <li>
          <span class="min-w-0 grow"
            ><b>{one.text}</b>
            <span class="soft">asked for {one.on === round.today ? 'today' : day(one.on)}</span></span
          >
          <button
            class="btn btn-sm"
            disabled={!mayWrite || house.busy}
            onclick={() => void house.reminded(one)}>Done</button
          >
        </li>
      {/each}
    </ul>
  {/if}
</div>

<style>
  .urgent {
    grid-area: urgent;
    display: grid;
    gap: 0.5rem;
  }
  li {
    display: flex;
    align-items: center;
    gap: 0.75rem;
    padding: 0.3rem 0.75rem;
    border-top: 1px solid var(--color-base-300);
  }
  li:first-child {
    border-top: none;
  }
  @media (max-width: 67.99rem) {
    .urgent {
      grid-area: auto;
    }
  }
</style>
