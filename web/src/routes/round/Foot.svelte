<!-- What goes on by itself, in quiet lines: what dries, what to buy, what is open. -->
<script lang="ts">
  import { fade } from 'svelte/transition';

  import type { Schemas } from '../../lib/api/client';
  import { moving } from '../../lib/words/motion';
  import { QUESTION, saidWords } from '../../lib/words/devices';
  import { percent, span, together } from '../../lib/words/format';
  import { orderBy } from '../../lib/words/shelf';

  let {
    round,
    cases,
    wanted,
    heard,
  }: {
    round: Schemas['RoundOut'];
    /** What is still being looked for. */
    cases: Schemas['OpenCaseOut'][];
    /** Parts that want ordering soon. */
    wanted: Schemas['ToOrderOut'][];
    /** What devices told that somebody should see; null before it is known. */
    heard: Schemas['FromDevicesOut'] | null;
  } = $props();

  /** So many are named in a line; the place it leads to has them all. */
  const NAMED = 2;
  const drying = $derived(
    round.rack.filter(
      ({ item }) => item.locked_until && Date.parse(item.locked_until) > Date.parse(round.now),
    ),
  );
  const order = (one: Schemas['ToOrderOut']) =>
    one.supply === 'waits'
      ? `${one.name}: none left`
      : `${one.name}: ${one.order_by ? orderBy(one.order_by, round.today).split(', in')[0] : 'soon'}`;
  const more = (count: number) => (count > NAMED ? ` and ${count - NAMED} more` : '');
</script>

<section aria-label="Besides">
  {#if heard && (heard.asked.length || heard.falls.length || heard.said.length)}
    <p>
      <b>Heard</b>
      {#each heard.asked.slice(0, NAMED) as one (one.entry_ids[0])}
        <a class="link" href="#/household/devices">{one.device}: {QUESTION[one.doubt].toLowerCase()}</a>
      {/each}{more(heard.asked.length)}
      {#each heard.falls.slice(0, NAMED) as one (one.machine_id + one.quantity)}
        <a class="link" href="#/household/devices"
          >{one.machine} {one.quantity === 'area' ? 'covers' : 'runs'} {percent(one.share)} less</a
        >
      {/each}
      {#each heard.said.slice(0, NAMED) as one (one.entry_id)}
        <a class="link" href="#/household/devices">{one.machine} says: {saidWords(one)}</a>
      {/each}
    </p>
  {/if}
  <p>
    <b>Drying</b>
    {#each drying.slice(0, NAMED) as { item, machine_name } (item.id)}
      <a class="link ink-drying" href="#/rack" in:fade={{ duration: moving(600) }}
        >{item.name.toLowerCase()} of {machine_name}, {span(round.now, item.locked_until ?? round.now)}</a
      >
    {:else}
      <a class="link soft" href="#/rack">nothing</a>
    {/each}{more(drying.length)}
  </p>
  {#if wanted.length}
    <p>
      <b>To order</b>
      {#each wanted.slice(0, NAMED) as one (one.id)}
        <a class="link" href="#/shelf">{order(one)}</a>
      {/each}{more(wanted.length)}
    </p>
  {/if}
  {#if cases.length || round.sheets.length}
    <p>
      <b>Open</b>
      {#each round.sheets as sheet (sheet.id)}
        <a class="link" href={`#/bench/${sheet.id}`}
          >sheet for {together(sheet.machines)}, {sheet.answered} of {sheet.steps} steps</a
        >
      {/each}
      {#each cases as one (one.id)}
        <a class="link" href={`#/faults/case/${one.id}`}
          >{one.machine}, {one.symptoms.join(', ').toLowerCase()}</a
        >
      {/each}
    </p>
  {/if}
</section>

<style>
  section {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem 2rem;
    padding: 0.7rem clamp(1rem, 2.5vw, 1.75rem);
    border-top: 1px solid var(--color-base-300);
    background: color-mix(in oklab, var(--color-base-300) 45%, transparent);
  }
  p {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 0.15rem 0.7rem;
  }
  .link {
    text-underline-offset: 0.2em;
  }
  @media (max-width: 39.99rem) {
    section {
      flex-direction: column;
    }
    section :global(.link) {
      min-height: 2.2rem;
      display: inline-flex;
      align-items: center;
    }
  }
</style>
