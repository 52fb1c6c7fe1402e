<!-- Any other check, and fixed orders for those who prefer a list. -->
<script lang="ts">
  import type { Case, SearchState } from '../../lib/state/faults.svelte';
  import { minutesWords, percent } from '../../lib/words/format';

  let { search, found }: { search: SearchState; found: Case } = $props();

  const all = $derived(found.next.filter((one) => one.key !== search.check?.key));
  const route = $derived(found.routes.find((one) => one.school === search.route) ?? null);
</script>

<details class="panel others">
  <summary class="py-[0.8rem] px-4 font-bold cursor-pointer">Look at something else</summary>
  <ul>
    {#each all as one (one.key)}
      <li>
        <button class="row" onclick={() => (search.chosen = one.key)}>
          <span>{one.name}{one.again ? ' (again)' : ''}</span>
          <span class="soft"
            >{minutesWords(one.minutes)}{one.proof >= 0.005
              ? `, ${percent(one.proof)} that it proves it`
              : ''}</span
          >
        </button>
      </li>
    {/each}
  </ul>
</details>
<details class="panel others">
  <summary class="py-[0.8rem] px-4 font-bold cursor-pointer">Rather go down a list</summary>
  <div class="grid gap-2 p-3">
    {#each found.routes as one (one.school)}
      <label class="flex gap-3">
        <input
          type="radio"
          class="radio"
          name="route"
          checked={search.route === one.school}
          onchange={() => ([search.route, search.chosen] = [one.school, null])}
        />
        <span><b>{one.name}.</b> <span class="soft">{one.why}</span></span>
      </label>
    {/each}
    <label class="flex gap-3">
      <input
        type="radio"
        class="radio"
        name="route"
        checked={search.route === null}
        onchange={() => (search.route = null)}
      />
      <span><b>By the odds.</b> <span class="soft">What tells and proves most for a minute.</span></span>
    </label>
    {#if route}
      <p class="soft">Left on this list: {search.onRoute.map((one) => one.name).join(' · ') || 'nothing'}</p>
    {/if}
  </div>
</details>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 0.1rem 1rem;
    width: 100%;
    min-height: 2.75rem;
    padding: 0.5rem 1rem;
    border-top: 1px solid var(--color-base-300);
    text-align: left;
    cursor: pointer;
  }
  .row:hover {
    background: color-mix(in oklab, var(--color-base-content) 7%, transparent);
  }
</style>
