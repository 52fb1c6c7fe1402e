<!-- Before the sitting: what it takes, how deep each part is cleaned, what will dry and until when. -->
<script lang="ts">
  import { onDestroy } from 'svelte';

  import type { Schemas } from '../lib/api/client';
  import { keys } from '../lib/state/keys.svelte';
  import { PlanState } from '../lib/state/plan.svelte';
  import { session } from '../lib/state/session.svelte';
  import ToolLine from '../lib/ui/ToolLine.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { dayAndHour, figure, plural } from '../lib/words/format';
  import { doWord } from '../lib/words/tasks';

  const state = new PlanState();
  const plan = $derived(state.plan);
  const zone = $derived(session.member?.time_zone);
  const stopped = $derived(plan?.machines.filter((one) => one.parts.some((part) => part.dries?.stops)) ?? []);
  const mayWait = $derived(plan?.machines.some((one) => one.parts.some((part) => part.may_wait)) ?? false);
  const lacking = $derived(plan?.tools.filter((tool) => tool.lacking) ?? []);

  const DEPTH: Record<string, string> = { empty: 'Empty it', clean: 'Clean it dry', wash: 'Wash it' };
  const depthWord = (choice: Schemas['ChoiceOut']) =>
    choice.depth === 'clean' && choice.actions.includes('wipe') ? 'Wipe it' : (DEPTH[choice.depth] ?? '');

  /** When everything of a machine that will dry is ready. */
  function back(machine: Schemas['PlannedMachineOut']): string {
    const times = machine.parts.flatMap((part) => (part.dries?.stops ? [part.dries.ready_at] : []));
    return dayAndHour(times.sort().at(-1) ?? '', zone);
  }
  function drying({ place, ready_at, spare, stops, misses }: Schemas['DriesOut']): string {
    const until = `dries until about ${dayAndHour(ready_at, zone)}${place ? ` (${place})` : ''}`;
    if (spare) return `${until}; ${spare} goes in meanwhile`;
    if (!stops) return until;
    const [first] = misses;
    const skips = first
      ? ` and misses ${plural(misses.length, 'run')}; begun after the run of ${dayAndHour(first, zone)}, one less`
      : ' but misses no run';
    return `${until}; no dry spare, so the machine waits${skips}`;
  }

  void state.refresh();
  onDestroy(
    keys.lend('Plan', [
      {
        key: 'Enter',
        does: 'Start',
        run: () => plan && session.mayWrite && !state.busy && void state.start(),
      },
    ]),
  );
</script>

<svelte:head><title>Plan the sitting · Yperon</title></svelte:head>

<div class="page max-w-240">
  {#if !state.picks.length}
    <h1>Nothing is chosen.</h1>
    <p class="mt-2">
      {#if state.out.length}
        <button class="btn" onclick={() => void state.takeBack()}>Put back what was left out</button>
      {:else}
        Choose tasks on <a class="link" href="#/">Round</a>, or a part on its machine's page.
      {/if}
    </p>
  {:else if state.load.status === 'pending'}
    <Waiting what="Putting the sitting together" />
  {:else if state.load.status === 'error'}
    <Trouble problem={state.load.problem} retry={() => void state.refresh()} />
    <p class="mt-3"><a class="link" href="#/">Back to Round</a></p>
  {:else if plan}
    <section class="lead">
      <div class="min-w-0">
        <h1>
          About {figure(plan.minutes)} min at {plan.machines.length === 1
            ? plan.machines[0]?.name
            : plural(plan.machines.length, 'machine')}.
        </h1>
        {#if plan.longest}
          <p>
            The longest to dry: {plan.longest.name}, until about {dayAndHour(plan.longest.ready_at, zone)}.
            {#each stopped as machine (machine.machine_id)}
              <b class="block">{machine.name} rests until about {back(machine)}.</b>
            {/each}
          </p>
        {:else}
          <p class="soft">Nothing gets wet: all is back in place when you are done.</p>
        {/if}
      </div>
      <button
        class="btn btn-primary btn-lg"
        disabled={state.busy || !session.mayWrite}
        onclick={() => void state.start()}>Start</button
      >
    </section>

    {#if lacking.length}
      <p class="panel py-3 px-4 border-l-4 border-l-(--due)">
        <b>You said you have no:</b>
        {#each lacking as tool, i (tool.name)}{i ? '; ' : ' '}{tool.name}{tool.instead.length
            ? `, or ${tool.instead.join(', ')}`
            : ''}{/each}.
      </p>
    {/if}

    {#each plan.machines as machine (machine.machine_id)}
      <section class="panel machine" data-machine={machine.name}>
        <header>
          <h2>{machine.name}</h2>
          <span class="soft">about {figure(machine.minutes)} min</span>
          {#if plan.machines.length > 1}
            <button
              class="btn btn-sm btn-ghost"
              disabled={state.busy}
              onclick={() => void state.leaveOut((pick) => pick.machine_id === machine.machine_id)}
              >Another day</button
            >
          {/if}
        </header>
        <ul>
          {#each machine.parts as part (part.slot)}
            <li data-part={part.slot}>
              <div class="min-w-0">
                <b>{part.slot_name}</b>
                <span class="soft">{part.actions.map(doWord).join(', ')}, {figure(part.minutes)} min</span>
                {#if part.dries}<p class="text-(--drying)">{drying(part.dries)}.</p>{/if}
              </div>
              <div class="how">
                {#if part.depth && part.choices.length > 1}
                  <div class="join" role="group" aria-label={`How far: ${part.slot_name}`}>
                    {#each part.choices as choice (choice.depth)}
                      <button
                        class={['btn btn-sm join-item', choice.depth === part.depth && 'btn-active']}
                        aria-pressed={choice.depth === part.depth}
                        disabled={state.busy}
                        onclick={() => void state.setDepth(machine.machine_id, part, choice.actions)}
                        >{depthWord(choice)}</button
                      >
                    {/each}
                  </div>
                {/if}
                <button
                  class="btn btn-sm btn-ghost"
                  disabled={state.busy}
                  aria-label={`Leave out: ${part.slot_name}`}
                  onclick={() =>
                    void state.leaveOut(
                      (pick) => pick.machine_id === machine.machine_id && pick.slot === part.slot,
                    )}>Leave out</button
                >
              </div>
            </li>
          {/each}
        </ul>
      </section>
    {/each}

    <div class="flex flex-wrap gap-2">
      {#if mayWait}
        <button class="btn" disabled={state.busy} onclick={() => void state.hurry()}
          >In a hurry: leave what only smells or looks</button
        >
      {/if}
      {#if state.out.length}
        <button class="btn" disabled={state.busy} onclick={() => void state.takeBack()}
          >Put back what was left out ({state.out.length})</button
        >
      {/if}
      <a class="btn btn-ghost" href="#/">Back to Round</a>
    </div>
    {#if plan.tools.length}
      <section>
        <h2>Have ready</h2>
        <ul class="mt-2 pl-[1.2em] list-disc">
          {#each plan.tools as tool (tool.name)}
            <li>
              <ToolLine {tool} />
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  {/if}
</div>

<style>
  .lead,
  .machine header,
  .machine li {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem 1.5rem;
  }
  .lead > div {
    flex: 1 1 24rem;
  }
  .lead .btn {
    min-width: 9rem;
  }
  .machine header {
    justify-content: flex-start;
    padding: 0.75rem 1rem;
  }
  .machine header .btn {
    margin-left: auto;
  }
  .machine li {
    padding: 0.75rem 1rem;
    border-top: 1px solid var(--color-base-300);
  }
  .machine li > div:first-child {
    flex: 1 1 16rem;
  }
  .how {
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
  }
</style>
