<!-- Which machine it is, how it runs, and what can be done with all of it; what keeps it from running stands first. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import { boardOrder } from '../../lib/airpath/layout';
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import OutOfUse from '../../lib/ui/OutOfUse.svelte';
  import { plural, restWords } from '../../lib/words/format';
  import { usualWeek } from '../../lib/words/round';
  import RanIt from '../round/RanIt.svelte';

  let {
    page,
    onplan,
  }: {
    page: Schemas['MachineOut'];
    onplan: (which: string) => void;
  } = $props();

  const strip = $derived(page.strip);
  const id = $derived(strip.id);
  const others = $derived(house.round.status === 'ok' ? boardOrder(house.round.data.machines) : []);
  const silence = $derived(
    strip.usual.rule
      ? `; ${strip.usual.silence === 'ran' ? 'taken as run unless you say' : 'counted only when told'}`
      : '',
  );
</script>

<header class="flex flex-wrap justify-between gap-x-8 gap-y-2">
  <div>
    <h1>{strip.name}</h1>
    <p class="soft">
      {strip.kind} · {strip.serves
        ? 'counts what its robot runs'
        : `usually ${usualWeek(strip.usual)}${silence}`}
    </p>
    {#if strip.resting && !strip.dangers.length}
      <p class="ink-due font-bold">{restWords(strip.resting)}</p>
    {/if}
  </div>
  <div class="flex flex-wrap content-start items-center gap-2">
    {#if !strip.serves && !strip.dangers.length}
      <RanIt machine={strip} today={page.today} mayWrite={session.mayWrite} />
    {/if}
    {#if others.length > 1}
      <label
        ><span class="sr-only">Machine</span>
        <select class="select" value={id} onchange={(e) => void push(`/machines/${e.currentTarget.value}`)}>
          {#if !others.some((other) => other.id === id)}<option value={id}>{strip.name}</option>{/if}
          {#each others as other (other.id)}<option value={other.id}>{other.name}</option>{/each}
        </select></label
      >
    {/if}
    {#if session.mayWrite && page.service.length}
      <label
        ><span class="sr-only">Plan a sitting</span>
        <select class="select" value="" onchange={(e) => onplan(e.currentTarget.value)}>
          <option value="" disabled>Plan a sitting…</option>
          <option value="full">Full service</option>
          {#each page.in_one_go.filter((one) => !one.is_kit) as one (one.key)}<option value={one.key}
              >{one.name}</option
            >{/each}
        </select></label
      >
    {/if}
    <a class="btn" href={`#/faults/${id}`}>Something is wrong</a>
    <a class="btn" href={`#/wear/${id}`}>Wear</a>
    {#if !strip.serves}<a class="btn" href={`#/floor/${id}`}>Before a run</a>{/if}
    <a class="btn" href={`#/machines/${id}/set-up`}>Change it</a>
  </div>
</header>
{#each strip.dangers as danger (danger.key)}
  <OutOfUse machine={strip} {danger} />
{/each}
{#if strip.unsure}
  <p class="panel border-l-4 border-l-[var(--unknown)] flex flex-wrap items-center justify-between gap-3 p-3">
    <span
      ><b>Nobody knows how far {plural(strip.unsure, 'part')} {strip.unsure === 1 ? 'is' : 'are'}.</b> One look
      at each makes its date firm.</span
    >
    <a class="btn btn-sm" href={`#/look/${id}`}>Look round</a>
  </p>
{/if}
{#if strip.empty_slots.length}
  <p class="panel border-l-4 border-l-error p-3 font-bold" role="status">
    Out of use: {strip.empty_slots.join(', ').toLowerCase()} is out. Do not run it without.
  </p>
{/if}
