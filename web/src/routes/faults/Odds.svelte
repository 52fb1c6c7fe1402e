<!-- What may be the cause, with its chance and what the records say of it. -->
<script lang="ts">
  import type { Case } from '../../lib/state/faults.svelte';
  import { percent } from '../../lib/words/format';
  import { lower, recordWords, times } from '../../lib/words/faults';

  let { found }: { found: Case } = $props();

  let all = $state(false);
  const shown = $derived(all ? found.suspects : found.suspects.slice(0, 6));
  /** After something was put right the odds are of what may be there besides. */
  const title = $derived(
    ['retest', 'cured'].includes(found.stand) ? 'What may be there besides' : 'What may be the cause',
  );
  const said = (key: string) => found.influences.filter((one) => one.suspect === key);
</script>

<section aria-label={title}>
  <h2>{title}</h2>
  <ul class="mt-2 grid gap-2">
    {#each shown as one (one.key)}
      <li>
        <p class="line"><span>{one.name}</span><b class="whitespace-nowrap">{percent(one.p)}</b></p>
        <div class="bar" aria-hidden="true"><span style:width={`${one.p * 100}%`}></span></div>
        {#each said(one.key) as record (record.record)}
          <p class="soft text-sm">{recordWords(record)}: {times(record.bits)}</p>
        {/each}
      </li>
    {/each}
  </ul>
  {#if found.suspects.length > 6}
    <button class="link mt-2" aria-expanded={all} onclick={() => (all = !all)}
      >{all ? 'Only the likeliest' : `${found.suspects.length - 6} more`}</button
    >
  {/if}
  {#each found.doubts as doubt (doubt.probe)}
    <p class="mt-3 py-2 px-3 border-l-4 border-l-(--due) bg-base-100">
      “{doubt.name}
      {lower(doubt.says)}” does not go with the rest: least sure. Look once more if you can.
    </p>
  {/each}
</section>

<style>
  .line {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
  }
  .bar {
    height: 0.5rem;
    border-radius: 0.25rem;
    background: var(--duct);
    overflow: hidden;
  }
  .bar span {
    display: block;
    height: 100%;
    background: var(--suspected);
    transition: width 0.5s;
  }
</style>
