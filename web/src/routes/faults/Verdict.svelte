<!-- Where looking ends: a proven cause and its cure, the try after it, a repairer, or nothing found, said plainly. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { push } from 'svelte-spa-router';

  import { openSheet } from '../../lib/state/bench.svelte';
  import { keys } from '../../lib/state/keys.svelte';
  import { session } from '../../lib/state/session.svelte';
  import type { Case, SearchState } from '../../lib/state/faults.svelte';
  import Pull from '../../lib/ui/Pull.svelte';
  import { dayAndTime, listed, minutesWords, percent, plural, together } from '../../lib/words/format';
  import { doWord } from '../../lib/words/tasks';
  import { lower, restingWords, TRY } from '../../lib/words/faults';
  import WithoutSheet from './WithoutSheet.svelte';

  let { search, found, closed = false }: { search: SearchState; found: Case; closed?: boolean } = $props();

  const first = $derived(found.about[0] ?? null);
  /** What was put right is tried only once the machine has cooled. */
  const cooling = $derived(found.rests.find((one) => one.left_min > 0) ?? null);
  let pulled = $state<number | null>(null);
  const may = $derived(session.mayWrite && !search.busy && !closed);
  const symptoms = $derived(found.symptoms.map((one) => lower(one.name)).join(', '));
  /** What is wetted, dries or is fitted new goes over the bench, so that order, rest and records are right. */
  const bench = $derived(first?.at_the_bench ? first.action : null);

  async function toTheBench() {
    if (!first || !bench) return;
    const machine_id = (first.role && found.dock_id) || found.machine_id;
    const id = await openSheet([{ machine_id, slot: first.slot, action: bench }], found.id);
    if (id) await push(`/bench/${id}`);
  }
  let telling = $state(false);
  function done() {
    if (!first || !may) return;
    if (bench) telling = true;
    else void search.tell('cured', first.key);
  }
  const tried = (says: 'gone' | 'still') => may && void search.tell('retested', '', says);

  onDestroy(
    keys.lend('This result', [
      { key: 'd', does: 'It is put right', run: () => ['cure', 'try'].includes(found.stand) && done() },
      { key: '1', does: 'Gone', run: () => found.stand === 'retest' && tried('gone') },
      { key: '2', does: 'Still there', run: () => found.stand === 'retest' && tried('still') },
    ]),
  );
</script>

<section class="panel p-[clamp(1rem,3vw,1.75rem)]" data-stand={found.stand}>
  {#if closed}<p class="soft">This case is closed.</p>{/if}
  {#if ['cure', 'try'].includes(found.stand) && first}
    <p class="soft">
      {found.stand === 'cure'
        ? `${found.behind ? 'What brought it on' : 'Found'}, ${percent(first.p)} sure`
        : `Nothing is left to look at. Nobody saw it, but it is likeliest, ${percent(first.p)}: put it right and try`}
    </p>
    <h1>{first.name}</h1>
    {#if first.reasons.length}<p class="how">{first.reasons.join(' ')}</p>{/if}
    {#if first.stop}<p class="mind"><b>{first.stop}</b></p>{/if}
    {#each first.cautions as caution (caution)}<p class="mind"><b>Mind:</b> {caution}</p>{/each}
    {#if first.action}<p class="how"><b>What to do: {doWord(first.action)}.</b></p>{/if}
    <ol class="steps">
      {#each first.cure as line (line)}<li>{line}</li>{/each}
    </ol>
    <p class="soft">
      About {minutesWords(first.minutes)}{first.wait_h
        ? `, then ${plural(first.wait_h, 'hour')} hands off`
        : ''}.
    </p>
    <div class="do">
      {#if found.sheet_id}
        <a class="btn btn-primary btn-lg" href={`#/bench/${found.sheet_id}`}>Go on at the bench</a>
      {:else if bench}
        <button class="btn btn-primary btn-lg" disabled={!may} onclick={() => void toTheBench()}
          >Open it at the bench</button
        >
        <button class="btn btn-lg" disabled={!may} onclick={done}>Done without a sheet</button>
      {:else}
        <button class="btn btn-primary btn-lg" disabled={!may} onclick={done}>It is put right</button>
      {/if}
    </div>
    {#if bench}
      <p class="soft mt-2">
        The bench leads through it and keeps what must dry; at its end it brings you back here for the try.
      </p>
    {/if}
  {:else if found.stand === 'retest'}
    <p class="soft">{first ? `Put right: ${lower(first.name)}` : ''}</p>
    {#if found.waits.length}
      <h1>{together(found.waits)} {found.waits.length === 1 ? 'dries' : 'dry'} first.</h1>
    {:else if cooling}
      <h1>It rests first.</h1>
      <p class="how">{restingWords(cooling, session.member?.time_zone)} Then run it.</p>
    {:else}
      <h1>{TRY[found.counts].head}</h1>
      {#if TRY[found.counts].then}<p class="how">{TRY[found.counts].then}</p>{/if}
    {/if}
    {#each found.waits as one (one.item_id)}
      <p class="how">
        {one.name} is <a class="link" href="#/rack">on the rack</a>{one.until
          ? `, not before ${dayAndTime(one.until, session.member?.time_zone)}`
          : ''}. This case waits here until it is dry and back in; then run the machine.
      </p>
    {/each}
    <p class="how">You noticed: {symptoms}. Only a try tells whether that was it.</p>
    {#if first?.wait_h && !found.waits.length}
      <p class="how">
        Not before {plural(first.wait_h, 'hour')} have passed. The case can rest; it waits here.
      </p>
    {/if}
    <div class="do">
      <button
        class={['btn btn-lg', !found.waits.length && !cooling && 'btn-primary']}
        disabled={!may}
        onclick={() => tried('gone')}>Gone</button
      >
      <button class="btn btn-lg" disabled={!may} onclick={() => tried('still')}>Still there</button>
    </div>
  {:else if found.stand === 'cured'}
    <h1>Solved: {listed(found.about.map((one) => lower(one.name)))}.</h1>
    <p class="how">It was tried, and what was noticed is gone. This machine’s next case counts it.</p>
    {#if !closed}
      <Pull machine_id={found.machine_id} moment="after" chosen={pulled} onkept={(felt) => (pulled = felt)} />
    {/if}
  {:else if found.stand === 'meant' && first}
    <h1>Nothing is broken.</h1>
    <p class="how"><b>{first.name}.</b> {first.meant}</p>
  {:else if found.stand === 'hand_over' && found.danger}
    <h1>Stop: {found.danger.name}.</h1>
    <p class="mind"><b>{found.danger.now}</b></p>
    <p class="how">{found.danger.who}</p>
    <p class="how">
      The machine is out of use until somebody records on Round what ends that. Told by mistake? Step back.
    </p>
  {:else if found.stand === 'hand_over'}
    <h1>
      {found.about.length && found.about.every((one) => one.beyond)
        ? 'This one lies further in than you go.'
        : 'Stop using it: this one is for a repairer.'}
    </h1>
    {#each found.about as one (one.key)}
      <p class="how">
        <b>{one.name}, likely {percent(one.p)}.</b>
        {one.beyond
          ? 'It is behind screws or inside the body, and Household says that nobody here opens that: a repair shop, or somebody who does.'
          : one.hand_over}
      </p>
      {#each one.cautions as caution (caution)}<p class="mind"><b>Mind:</b> {caution}</p>{/each}
    {/each}
    <p class="how">Likely, not certain. The guarantee’s terms come first, if it has one.</p>
  {:else if found.stand === 'not_found'}
    <h1>Not found.</h1>
    <p class="how">Nothing that can be looked at here explains it.</p>
    {#if found.about.length}
      <p class="how">
        Likeliest still: {found.about.map((one) => `${lower(one.name)} (${percent(one.p)})`).join(', ')}.
      </p>
    {/if}
    <p class="how">Next: its maker, or a local repair shop with the machine in hand.</p>
  {:else}
    <h1>{closed ? 'It was closed on the way.' : 'Nothing more to ask.'}</h1>
  {/if}
  {#if ['hand_over', 'not_found'].includes(found.stand)}
    {#if found.ruled_out.length}
      <p class="soft mt-3">Looked for and ruled out: {found.ruled_out.map(lower).join('; ')}.</p>
    {/if}
    <a class="btn mt-3" href={`#/faults/report/${found.id}`}>A page for the repairer</a>
  {/if}
  {#if !closed && found.settled}
    <div class="do">
      <button class="btn btn-primary btn-lg" disabled={!may} onclick={() => void search.close()}
        >Close the case</button
      >
    </div>
  {/if}
  {#if closed}<p class="mt-4"><a class="btn btn-primary" href="#/">Back to Round</a></p>{/if}
</section>
{#if telling && first?.action}
  <WithoutSheet
    {search}
    suspect={{ ...first, action: first.action }}
    today={found.today}
    onclose={() => (telling = false)}
  />
{/if}

<style>
  h1 {
    margin-top: 0.25rem;
  }
  .how,
  .steps {
    margin-top: 0.75rem;
    font-size: 1.15rem;
    max-width: 46rem;
  }
  .steps {
    padding-left: 1.3em;
    list-style: decimal;
  }
  .mind {
    margin-top: 0.75rem;
    padding-left: 0.75rem;
    border-left: 4px solid var(--due);
    max-width: 46rem;
  }
  .do {
    display: flex;
    flex-wrap: wrap;
    gap: 0.75rem;
    margin-top: 1.25rem;
  }
</style>
