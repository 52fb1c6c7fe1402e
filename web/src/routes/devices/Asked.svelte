<!-- Something a device said that is doubted: why, how often, and the answers there are. -->
<script lang="ts">
  import type { Asked, DevicesState } from '../../lib/state/devices.svelte';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { COUNTS, QUESTION } from '../../lib/words/devices';
  import { dayAndTime } from '../../lib/words/format';

  let { one, devices, zone }: { one: Asked; devices: DevicesState; zone: string | undefined } = $props();

  const of = $derived([one.machine ?? one.place].filter((name) => name && name !== one.device).join(''));
  const may = $derived(session.mayWrite && !house.busy);
</script>

<section class="border-base-300 border-t py-3" aria-label={`${one.device}: ${QUESTION[one.doubt]}`}>
  <h3 class="font-bold">{one.device}{of ? ` (${of})` : ''}: {QUESTION[one.doubt]}</h3>
  <p>{one.why}</p>
  <p class="soft text-sm">
    {one.times === 1
      ? dayAndTime(one.last, zone)
      : `${one.times} times, ${dayAndTime(one.since, zone)} to ${dayAndTime(one.last, zone)}; the last is told here`}
  </p>
  <p class="mt-2 flex flex-wrap gap-2">
    {#each one.parts as part (part.id)}
      <button class="btn" disabled={!may} onclick={() => void devices.count(one, { item_id: part.id })}
        >{one.doubt === 'too_light' ? `It is bone dry: ${part.name}` : part.name}</button
      >
    {/each}
    {#if one.may_count && COUNTS[one.doubt]}
      <button
        class="btn"
        disabled={!may}
        onclick={() => void devices.count(one, one.doubt === 'which_counts' ? { trusted: true } : {})}
        >{COUNTS[one.doubt]}</button
      >
    {/if}
    {#if one.doubt === 'which_counts'}
      <button class="btn" disabled={!may} onclick={() => void devices.count(one, { trusted: false })}
        >Ours</button
      >
    {/if}
    <button class="btn" disabled={!may} onclick={() => void devices.drop(one)}
      >{one.parts.length ? 'None of them: drop it' : 'Drop it'}</button
    >
  </p>
</section>
