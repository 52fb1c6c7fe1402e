<!-- "May I wash this?": yes or no first, then how, what never, and what others do. What one sees changes it at once. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, client, type Problem, type Schemas } from '../api/client';
  import { house } from '../state/house.svelte';
  import { session } from '../state/session.svelte';
  import { ASKED, MARK, rulingWords, WHY } from '../words/wash';
  import { SCHOOL } from '../words/tasks';
  import Modal from './Modal.svelte';
  import Trouble from './Trouble.svelte';

  let {
    machine_id,
    slot,
    name,
    onclose,
  }: { machine_id: string; slot: string; name: string; onclose: () => void } = $props();

  type Trait = Schemas['Trait'];
  let card = $state.raw<Schemas['WashCardOut'] | null>(null);
  let problem = $state.raw<Problem | null>(null);
  let seen = $state.raw<Partial<Record<Trait, Schemas['Mark']>>>({});

  async function load(now: typeof seen) {
    const params = { path: { machine_id, slot }, query: now };
    const answer = await ask(client.GET('/api/machines/{machine_id}/parts/{slot}/wash', { params }));
    if (now !== seen) return;
    if (answer.ok) card = answer.data;
    problem = answer.ok ? null : answer.problem;
  }
  $effect(() => {
    const now = seen;
    untrack(() => void load(now));
  });

  const markOf = (trait: Trait) => seen[trait] ?? card?.kept[trait] ?? 'unknown';
  const marks: Schemas['Mark'][] = ['yes', 'no', 'unknown'];
  const changed = $derived(
    card?.may_ask.some((trait) => trait !== 'hazard' && markOf(trait) !== (card?.kept[trait] ?? 'unknown')) ??
      false,
  );
  async function keep(risk = card?.kept.own_risk, said = `${name}: kept what you saw of it.`) {
    if (!card) return;
    const answers = card.may_ask.filter((trait) => trait !== 'hazard').map((trait) => [trait, markOf(trait)]);
    const params = { path: { machine_id, slot } };
    const body = { ...Object.fromEntries(answers), own_risk: risk } as Schemas['MarksIn'];
    const request = client.POST('/api/machines/{machine_id}/parts/{slot}/marks', { params, body });
    if (await house.record(request, said)) onclose();
  }
  const dare = () => keep('yes', `${name}: washed from now on, at your own risk.`);
  const dryAgain = () => keep('no', `${name}: stays dry again.`);
</script>

<Modal title={`May I wash this? ${name}`} {onclose}>
  {#if problem}<Trouble {problem} />{/if}
  {#if card}
    <div class={['ruling', card.ruling]} role="status">
      <b>{rulingWords(card)}</b>
      <span>{WHY[card.because]}</span>
    </div>
    {#each card.may_ask as trait (trait)}
      <div class="flex flex-wrap justify-between items-center gap-y-1 gap-x-4 py-[0.3rem]">
        <span>{ASKED[trait]}</span>
        <span class="join" role="group" aria-label={ASKED[trait]}>
          {#each marks as mark (mark)}
            <button
              type="button"
              class={['btn btn-sm join-item', markOf(trait) === mark && 'btn-active']}
              aria-pressed={markOf(trait) === mark}
              onclick={() => (seen = { ...seen, [trait]: mark })}>{MARK[mark]}</button
            >
          {/each}
        </span>
      </div>
    {/each}
    <ol class="how">
      {#each card.how as line (line)}<li>{line}</li>{/each}
    </ol>
    <dl class="grid grid-cols-[max-content_1fr] gap-y-1 gap-x-4 mt-3">
      {#if card.temperature}<dt>Water</dt>
        <dd>{card.temperature}</dd>{/if}
      {#if card.agent}<dt>Soap</dt>
        <dd>{card.agent}</dd>{/if}
      {#if card.direction}<dt>Way round</dt>
        <dd>{card.direction}</dd>{/if}
      {#if card.touch}<dt>Hands</dt>
        <dd>{card.touch}</dd>{/if}
      {#if card.until}<dt>Until</dt>
        <dd>{card.until}</dd>{/if}
      {#if card.never.length}<dt>Never</dt>
        <dd>{card.never.join('; ')}</dd>{/if}
    </dl>
    {#if card.careful}
      <p class="mt-2">
        Somebody here is allergic: leave the dusty part to another, outdoors, with a fitting mask (FFP2 or
        better).
      </p>
    {/if}
    {#if card.sides.length}
      <h3 class="mt-4 font-extrabold">Others do it otherwise</h3>
      {#each card.sides as side (side.says)}
        <p class="mt-[0.35rem]">
          <b>{SCHOOL[side.school]}{side.mine ? ' (yours)' : ''}:</b>
          {side.says} <span class="soft">Risk: {side.risk}</span>
        </p>
        {#if side.at_own_risk && session.mayWrite}
          {#if card.because === 'own_risk'}
            <button type="button" class="btn btn-sm" disabled={house.busy} onclick={() => void dryAgain()}
              >Keep it dry again</button
            >
          {:else}
            <button type="button" class="btn btn-sm" disabled={house.busy} onclick={() => void dare()}
              >Wash it all the same, at our own risk</button
            >
          {/if}
        {/if}
      {/each}
    {/if}
    <p class="soft mt-3 text-sm">The label and the manual of your part decide.</p>
    <div class="mt-3 flex justify-end gap-2">
      <button type="button" class="btn btn-ghost" onclick={onclose}>Close</button>
      {#if changed && session.mayWrite}
        <button type="button" class="btn btn-primary" disabled={house.busy} onclick={() => void keep()}
          >Keep what I saw</button
        >
      {/if}
    </div>
  {/if}
</Modal>

<style>
  .ruling {
    display: grid;
    gap: 0.15rem;
    margin-bottom: 0.75rem;
    padding: 0.6rem 0.9rem;
    border-left: 5px solid var(--due);
    background: var(--color-base-200);
  }
  .ruling.wash {
    border-left-color: var(--drying);
  }
  .ruling b {
    font-size: 1.25rem;
  }
  .how {
    margin-top: 0.75rem;
    padding-left: 1.3em;
    list-style: decimal;
    font-size: 1.1rem;
  }
  dt {
    font-weight: 700;
  }
</style>
