<!-- When all of a machine was last cleaned, as far as anybody knows. -->
<script lang="ts">
  import { bounds } from '../../lib/api/bounds';
  import type { SetUpState } from '../../lib/state/setup.svelte';
  import Choice from '../../lib/ui/Choice.svelte';
  import { daysBefore } from '../../lib/words/format';

  let { setup, today }: { setup: SetUpState; today: string } = $props();

  function choose(day: string) {
    [setup.past, setup.lastDone] = ['day', day];
  }
</script>

<div>
  <Choice
    legend="Last cleaned through, all of it?"
    options={[
      ['new', 'It is new'],
      ['unknown', 'Do not know'],
      ['day', 'On a day I know'],
    ]}
    value={setup.past}
    small
    onchoose={(value) => (
      (setup.past = value),
      value === 'day' && !setup.lastDone && (setup.lastDone = today)
    )}
  />
  {#if setup.past === 'day'}
    <div class="mt-2 flex flex-wrap items-center gap-2">
      {#each [{ n: 0, text: 'Today' }, { n: 7, text: 'A week ago' }, { n: 30, text: 'A month ago' }, { n: 91, text: 'Three months ago' }] as { n, text } (n)}
        <button
          type="button"
          class={['btn btn-sm', setup.lastDone === daysBefore(today, n) && 'btn-active']}
          onclick={() => choose(daysBefore(today, n))}>{text}</button
        >
      {/each}
      <label class="input input-sm w-40"
        ><span class="sr-only">The day</span><input
          type="date"
          {...bounds('EarlierIn', 'last_done')}
          max={today}
          bind:value={setup.lastDone}
          required
        /></label
      >
    </div>
  {:else if setup.past === 'unknown'}
    <p class="soft mt-1 text-sm">
      Dates then have a wide band, and Round asks you to look once. That look settles them.
    </p>
  {/if}
</div>
