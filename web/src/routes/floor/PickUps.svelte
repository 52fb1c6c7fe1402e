<!-- May I pick this up? Typed first; the list in columns by answer, each line opening on why and what instead. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import Row from '../../lib/ui/Row.svelte';

  let {
    pickups,
    forward,
  }: {
    pickups: Schemas['PickupOut'][];
    /** What a mishap makes due on the chosen machine. */
    forward: (kind: Schemas['Mishap']) => string;
  } = $props();

  let query = $state('');
  let opened = $state<string | null>(null);
  const words = $derived(query.trim().toLowerCase());
  const fitting = $derived(
    pickups.filter((one) => [one.name, ...one.also].some((name) => name.toLowerCase().includes(words))),
  );
  const ANSWERS = [
    { verdict: 'no', text: 'No', ink: 'ink-overdue' },
    { verdict: 'some', text: 'A little, with care', ink: 'ink-due' },
    { verdict: 'yes', text: 'Yes', ink: 'ink-fresh' },
  ] as const;
  const columns = $derived(
    ANSWERS.map((answer) => ({
      ...answer,
      of: fitting.filter((one) => one.verdict === answer.verdict),
    })).filter((column) => column.of.length),
  );
  /** What is searched for opens by itself, where it is one of a few. */
  const FEW = 3;
  const isOpen = (key: string) => opened === key || (words !== '' && fitting.length <= FEW);
</script>

<section aria-label="May I pick this up?" class="noprint">
  <h1>May I pick this up?</h1>
  <label class="input input-lg mt-2 w-full max-w-xl"
    ><span class="sr-only">What is it?</span><input
      type="search"
      placeholder="ash, glass, flour, wet leaves…"
      bind:value={query}
    /></label
  >
  <div class="columns">
    {#each columns as column (column.verdict)}
      <div>
        <h2 class={column.ink}>{column.text}</h2>
        <ul class="panel mt-[0.3rem] px-[0.4rem] overflow-hidden">
          {#each column.of as one (one.key)}
            <li class="break-inside-avoid">
              <Row open={isOpen(one.key)} ontoggle={() => (opened = opened === one.key ? null : one.key)}>
                {#snippet line()}<b>{one.name}</b><span class="sr-only">: {column.text}.</span>{/snippet}
                <p>{one.why}</p>
                {#if one.instead}<p class="mt-1 font-bold">{one.instead}</p>{/if}
                {#if one.mishap && forward(one.mishap)}
                  <p class="soft mt-1 text-sm">If it happened: {forward(one.mishap)}.</p>
                {/if}
              </Row>
            </li>
          {/each}
        </ul>
      </div>
    {:else}
      <p class="panel p-3">
        Not on this list. When in doubt, leave it: the label of the machine says what it is made for.
      </p>
    {/each}
  </div>
  <p class="soft mt-2 text-sm">This advises. The label, local rules and licensed firms decide.</p>
</section>

<style>
  .columns {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(min(19rem, 100%), 1fr));
    align-items: start;
    gap: 1rem 1.5rem;
    margin-top: 1rem;
  }
  @media (min-width: 68rem) {
    .columns:has(> :nth-child(3)) {
      grid-template-columns: 2fr 1fr 1fr;
    }
    .columns:has(> :nth-child(3)) > :first-child ul {
      columns: 2;
      column-gap: 1.5rem;
    }
  }
  li:first-child > :global(.row) {
    border-top-color: transparent;
  }
</style>
