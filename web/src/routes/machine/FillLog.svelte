<!-- How long fillings took against what was expected of them, and what a bag comes to in a week. -->
<script lang="ts">
  import type { Holder } from '../../lib/state/dust.svelte';
  import { fit, outcome, took } from '../../lib/words/dust';
  import { day, percent, plural } from '../../lib/words/format';
  import { money } from '../../lib/words/shelf';

  let { holder }: { holder: Holder } = $props();
  const log = $derived([...holder.log].reverse());
</script>

{#if holder.prices.length}
  <ul class="soft" aria-label="What a bag costs">
    {#each holder.prices as one (one.number)}
      <li>
        <b>{money(one.a_week, one.currency)}</b> a week with {one.number} ({money(one.each, one.currency)} each
        at
        {one.supplier}): {fit(one)}
      </li>
    {/each}
  </ul>
{/if}
{#if log.length}
  <details class="soft">
    <summary
      >How long they took{holder.missed === null ? '' : `: lately ${percent(holder.missed)} off`}</summary
    >
    <ul class="grid gap-[0.3rem] py-[0.3rem]">
      <!-- A bin may be emptied twice on one day: nothing but its place in the list names a filling. -->
      {#each log as one, i (i)}
        <li>
          <b>{day(one.last)}: {plural(one.weeks, 'week')}</b>, expected {one.p50} ({one.p10}–{one.p90}), {took(
            one,
          )}{outcome(one)}
        </li>
      {/each}
    </ul>
    <p>
      Weeks are weeks of usual use and dirt; expected is worked out from the fillings before it. Each one
      corrects the next.
    </p>
  </details>
{/if}
