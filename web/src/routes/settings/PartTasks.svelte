<!-- The tasks of a part: what the book says of each, and what the household set in its place. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import type { MachineSetup } from '../../lib/state/machineSetup.svelte';
  import { bookFigures, ownFigure } from '../../lib/words/figures';
  import { doWord } from '../../lib/words/tasks';
  import OwnFigure from './OwnFigure.svelte';

  let { part, setup, mayWrite }: { part: Schemas['SetupPartOut']; setup: MachineSetup; mayWrite: boolean } =
    $props();

  let figuring = $state.raw<Schemas['SetupRuleOut'] | null>(null);
</script>

<table>
  <thead class="max-sm:hidden"
    ><tr
      class="max-sm:grid max-sm:grid-cols-[minmax(0,1fr)_auto] max-sm:py-[0.4rem] max-sm:border-b max-sm:border-b-base-300"
      ><th>Task</th><th>The book says</th><th>You set</th><th><span class="sr-only">Change</span></th></tr
    ></thead
  >
  <tbody>
    {#each part.rules as rule (rule.action)}
      <tr
        class="max-sm:grid max-sm:grid-cols-[minmax(0,1fr)_auto] max-sm:py-[0.4rem] max-sm:border-b max-sm:border-b-base-300"
      >
        <th scope="row">{doWord(rule.action)}</th>
        <td>{bookFigures(rule.book)}</td>
        <td>
          {#if rule.own_off || rule.own_figure !== null}
            <b>{ownFigure(rule)}</b> <span class="soft">{rule.own_why}</span>
          {:else}<span class="soft">nothing, so the book counts</span>{/if}
        </td>
        <td>
          <button
            class="btn btn-sm"
            disabled={!mayWrite}
            aria-label={`Set your own figure: ${doWord(rule.action)} ${part.name}`}
            onclick={() => (figuring = rule)}>Your own…</button
          >
        </td>
      </tr>
    {/each}
  </tbody>
</table>

{#if figuring}
  <OwnFigure rule={figuring} {part} {setup} onclose={() => (figuring = null)} />
{/if}

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }
  th,
  td {
    padding: 0.3rem 0.75rem 0.3rem 0;
    text-align: left;
    vertical-align: middle;
    border-bottom: 1px solid var(--color-base-300);
  }
  thead th {
    color: var(--soft);
    font-weight: 400;
  }
  @media (max-width: 39.99rem) {
    th,
    td {
      padding: 0.1rem 0;
      border: none;
    }
    td:nth-child(2),
    td:nth-child(3) {
      grid-column: 1;
    }
    td:nth-child(4) {
      grid-column: 2;
      grid-row: 1 / span 2;
    }
  }
</style>
