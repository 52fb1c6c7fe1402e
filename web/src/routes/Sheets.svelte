<!-- The bench before a sheet: sheets that are open, what could be done now, and the last ones. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import { ask, client, type Schemas } from '../lib/api/client';
  import { boardOrder } from '../lib/airpath/layout';
  import { house } from '../lib/state/house.svelte';
  import { type Load, loaded, PENDING } from '../lib/state/load';
  import { keepPicks } from '../lib/state/picks';
  import { session } from '../lib/state/session.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import Panel from '../lib/ui/Panel.svelte';
  import { ago, daysWords, listed, localDay, minutesWords, together } from '../lib/words/format';

  type Task = Pick<Schemas['TaskOut'], 'machine_id' | 'slot' | 'action'>;

  let ended = $state.raw<Load<Schemas['EndedSheetOut'][]>>(PENDING);
  let chosen = $state('');
  const machine = $derived(
    house.machine.status === 'ok' && house.machine.data.strip.id === chosen ? house.machine.data : null,
  );

  void house.loadRound();
  async function loadEnded() {
    ended = loaded(await ask(client.GET('/api/sheets/ended')));
  }
  void loadEnded();

  const NAMED = 4;
  /** "Filter, rubber roller and 2 more": the parts that are due at a machine. */
  function parts(due: Schemas['TaskOut'][]): string {
    const names = [...new Set(due.map((task) => task.slot_name))];
    const more = names.length - NAMED;
    return more > 1 ? `${names.slice(0, NAMED).join(', ')} and ${more} more` : listed(names);
  }
  async function plan(tasks: Task[]) {
    keepPicks(tasks.map(({ machine_id, slot, action }) => ({ machine_id, slot, action })));
    await push('/plan');
  }
  function choose(id: string) {
    chosen = id;
    void house.loadMachine(id);
  }
</script>

<svelte:head><title>Bench · Yperon</title></svelte:head>

<Loaded load={house.round} what="Looking for open sheets" retry={() => void house.loadRound()}>
  {#snippet children(round)}
    {@const due = boardOrder(round.machines).filter((one) => one.due_count)}
    <div class="page">
      <h1>Bench</h1>
      {#each round.sheets as sheet (sheet.id)}
        <a class="panel flex flex-wrap items-center justify-between gap-4 p-4" href={`#/bench/${sheet.id}`}>
          <span>
            <b class="text-lg">{together(sheet.machines)}</b><br />
            {sheet.sitting === 'refit_and_test' ? 'Put back and test' : 'Clean'}: {sheet.answered} of {sheet.steps}
            steps done
          </span>
          <span class="btn btn-primary">Go on</span>
        </a>
      {/each}
      <div class="abreast">
        <Panel title="Due now">
          {#snippet beside()}
            {#if due.length > 1}
              <button
                class={['btn', !round.sheets.length && 'btn-primary']}
                disabled={!session.mayWrite}
                onclick={() => void plan(round.due)}>All of it, {minutesWords(round.minutes)}</button
              >
            {/if}
          {/snippet}
          {#if due.length}
            <ul>
              {#each due as one (one.id)}
                {@const mine = round.due.filter((task) => task.machine_id === one.id)}
                <li>
                  <span class="min-w-0 grow"><b>{one.name}</b> <span class="soft">{parts(mine)}</span></span>
                  <button
                    class="btn btn-sm"
                    aria-label={`Plan ${one.name}, ${minutesWords(one.due_min)}`}
                    disabled={!session.mayWrite || !mine.length}
                    onclick={() => void plan(mine)}>{minutesWords(one.due_min)}</button
                  >
                </li>
              {/each}
            </ul>
          {:else}
            <p class="soft">Nothing is due. What comes next stands on <a class="link" href="#/">Round</a>.</p>
          {/if}
        </Panel>
        <Panel title="Something else">
          <p class="soft">A smell, weak suction, a round, or a whole service of one machine.</p>
          <label class="mt-2 block"
            ><span class="sr-only">Machine</span>
            <select class="select w-full" value={chosen} onchange={(e) => choose(e.currentTarget.value)}>
              <option value="" disabled>Which machine?</option>
              {#each boardOrder(round.machines) as one (one.id)}<option value={one.id}>{one.name}</option
                >{/each}
            </select></label
          >
          {#if machine}
            <ul class="mt-2">
              {#if machine.service.length}
                <li>
                  <span class="min-w-0 grow"
                    ><b>Full service</b> <span class="soft">all regular care in one go</span></span
                  >
                  <button
                    class="btn btn-sm"
                    aria-label="Plan: Full service"
                    disabled={!session.mayWrite}
                    onclick={() => void plan(machine.service)}>Plan</button
                  >
                </li>
              {/if}
              {#each machine.in_one_go.filter((one) => !one.is_kit) as one (one.key)}
                <li>
                  <span class="min-w-0 grow"
                    ><b>{one.name}</b>
                    <span class="soft"
                      >{one.is_round ? `usually every ${daysWords(one.low, one.high)}` : one.why}</span
                    ></span
                  >
                  <button
                    class="btn btn-sm"
                    aria-label={`Plan: ${one.name}`}
                    disabled={!session.mayWrite}
                    onclick={() => void plan(one.tasks)}>Plan</button
                  >
                </li>
              {/each}
            </ul>
          {/if}
        </Panel>
      </div>
      <Panel title="Last sheets">
        <Loaded load={ended} what="Looking for sheets" retry={() => void loadEnded()}>
          {#snippet children(ended)}
            {#if ended.length}
              <ul>
                {#each ended as one (one.id)}
                  {@const on = localDay(one.ended_at, session.member?.time_zone)}
                  <li>
                    <span class="min-w-0 grow"
                      ><b>{listed(one.machines)}</b>
                      <span class="soft">{one.parts.join(', ').toLowerCase()}</span></span
                    >
                    <span class="soft text-sm"
                      >{ago(on, round.today)}{one.by ? `, ${one.by}` : ''}{one.took_min >= 1 &&
                      one.took_min < 600
                        ? `, took ${minutesWords(one.took_min)}`
                        : ''}</span
                    >
                    <a class="btn btn-sm btn-ghost" href={`#/print/${one.id}`}>Print</a>
                  </li>
                {/each}
              </ul>
            {:else}
              <p class="soft">
                None yet. A sheet takes you through a sitting and writes the records when it ends.
              </p>
            {/if}
          {/snippet}
        </Loaded>
      </Panel>
    </div>
  {/snippet}
</Loaded>

<style>
  li {
    display: flex;
    align-items: center;
    gap: 0.75rem;
    min-height: 2.75rem;
    padding-block: 0.3rem;
    border-top: 1px solid var(--color-base-300);
  }
</style>
