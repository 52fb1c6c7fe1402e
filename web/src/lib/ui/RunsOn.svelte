<!-- When a machine usually runs: on days of the week, or once in so many days. -->
<script lang="ts">
  import { bounds } from '../api/bounds';
  import { DAYS, WEEK, type Weekday } from '../state/setup.svelte';

  let {
    legend,
    days = $bindable(),
    every = $bindable(),
    onchange = () => undefined,
  }: {
    legend: string;
    days: Weekday[];
    /** Once in how many days; null for days of the week. */
    every: number | null;
    onchange?: () => void;
  } = $props();

  function apart(yes: boolean) {
    every = yes ? 2 : null;
    onchange();
  }
</script>

<fieldset>
  <legend class="mb-1 font-bold">{legend}</legend>
  <label class="flex items-center gap-2 py-1"
    ><input type="radio" class="radio" checked={every === null} onchange={() => apart(false)} />on days of the
    week</label
  >
  {#if every === null}
    <div class="flex flex-wrap gap-2 pb-1">
      {#each WEEK as key (key)}
        <label class={['btn btn-sm', days.includes(key) && 'btn-active']}
          ><input type="checkbox" class="sr-only" value={key} bind:group={days} {onchange} />{DAYS[
            key
          ]}</label
        >
      {/each}
    </div>
  {/if}
  <label class="flex items-center gap-2 py-1"
    ><input type="radio" class="radio" checked={every !== null} onchange={() => apart(true)} />once in so many
    days, from today on</label
  >
  {#if every !== null}
    <label class="flex items-center gap-2"
      >every <input
        class="input w-24"
        type="number"
        inputmode="numeric"
        {...bounds('WeekIn', 'every')}
        bind:value={every}
        {onchange}
        required
      /> days</label
    >
  {/if}
</fieldset>
