<!-- What happened, newest first: this part's records, and the machine's runs. -->
<script lang="ts">
  import { tick } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { weightWords } from '../../lib/words/drying';
  import Modal from '../../lib/ui/Modal.svelte';
  import Panel from '../../lib/ui/Panel.svelte';
  import { ago, capital, day, figure } from '../../lib/words/format';
  import { grouped } from '../../lib/words/groups';
  import { STAND } from '../../lib/words/faults';
  import { didWord, SAW } from '../../lib/words/tasks';

  type Line = Schemas['MachineOut']['history'][number];
  type Reading = Extract<Line, { kind: 'reading' }>;
  type Case = Extract<Line, { kind: 'case' }>;
  let {
    lines,
    parts,
    slot,
    today,
    mayWrite,
    filters,
  }: {
    lines: Line[];
    parts: Schemas['PartOut'][];
    slot: string;
    today: string;
    mayWrite: boolean;
    filters: string;
  } = $props();

  const FIRST = 8;
  let all = $state(false);
  let most = $state(FIRST);
  /** A line that a sheet recorded: the whole sitting goes back with it, which is asked first. */
  let asking = $state.raw<{ deed: Line[]; at: number } | null>(null);
  let list = $state<HTMLElement | null>(null);
  // A look stands there with what was found; that it was looked at needs no line of its own.
  const shown = $derived(lines.filter((line) => line.kind !== 'service' || line.action !== 'inspect'));
  const wanted = $derived(all ? shown : shown.filter((line) => 'slot' in line && line.slot === slot));
  /** What one person did to one part on one day is one line, in the order in which it was done. */
  const deeds = $derived(grouped(wanted, (line) => line.deed).map((of) => [...of].reverse()));
  const name = (key: string) => parts.find((part) => part.slot === key)?.name ?? key;

  const READ: Record<Exclude<Reading['quantity'], 'felt'>, string> = {
    suction: 'Suction',
    charge: 'A charge lasted',
    area: 'A run covered',
    picked_up: 'Picked up',
  };
  function readingWords({ quantity, value, unit, moment }: Reading): string {
    const when = moment ? ` ${moment} the work` : '';
    return quantity === 'felt' ? `Pulled ${value} of 5${when}` : `${READ[quantity]} ${value} ${unit}${when}`;
  }
  function caseWords({ symptoms, causes, stand }: Case): string {
    const ended =
      stand === 'cured' ? `It was: ${causes.join(', ').toLowerCase()}` : `Ended: ${STAND[stand] ?? stand}`;
    return `Looked for: ${symptoms.join(', ').toLowerCase()}. ${ended}`;
  }

  /** What was done, without of what. */
  function did(line: Line): string {
    switch (line.kind) {
      case 'run':
        return `ran ${figure(line.minutes)} min (${line.provenance})`;
      case 'service':
        return didWord(line.action);
      case 'inspection':
        return `found ${SAW[line.found]}`;
      case 'reading':
        return readingWords(line);
      case 'case':
        return caseWords(line);
      case 'hung':
        return `hung ${line.place ? `in the ${line.place.toLowerCase()}` : 'up to dry'}`;
      case 'weight':
        return `weighed ${weightWords(line.grams, session.us)}`;
      case 'danger':
        return `Danger: ${line.words}`;
      case 'check':
        return `felt ${line.damp ? 'still damp' : 'dry'}`;
      case 'changed':
        return `${line.changed ? 'something' : 'nothing'} changed at home`;
    }
  }
  function words([first, ...rest]: Line[]): string {
    if (!first) return '';
    const who = 'slot' in first ? `${first.item || name(first.slot)}: ` : '';
    return capital(`${who}${[first, ...rest].map(did).join(', ')}`);
  }
  /** Takes a whole line back at once, the latest deed first. */
  async function takeBack(deed: Line[], at: number) {
    asking = null;
    const [first, ...rest] = deed.map((line) => line.entry_id);
    if (!first) return;
    await house.undo(first, rest);
    await tick();
    // The line is gone: the keys go on at the one that took its place.
    if (document.activeElement === document.body) list?.querySelectorAll('button')[at]?.focus();
  }
</script>

<Panel title="Records">
  {#snippet beside()}
    <div class="join" role="group" aria-label="Which records">
      {#each [false, true] as every (every)}
        <button
          class={['btn btn-sm join-item', all === every && 'btn-active']}
          aria-pressed={all === every}
          onclick={() => ((all = every), (most = FIRST))}>{every ? 'Machine' : 'This part'}</button
        >
      {/each}
    </div>
    <a class="link text-sm" href={filters}>Filter log: all of it, on paper or as CSV</a>
  {/snippet}
  {#if deeds.length === 0}
    <p class="soft">Nothing yet. What you do and find will stand here.</p>
  {:else}
    <ol bind:this={list}>
      {#each deeds.slice(0, most) as deed, i (deed[0]?.entry_id)}
        {@const line = deed[0]!}
        <li>
          <span class="min-w-0 grow"
            >{words(deed)}
            <span class="soft text-sm whitespace-nowrap"
              >{day(line.day)}, {ago(line.day, today)}{line.by ? `, ${line.by}` : ''}</span
            ></span
          >
          {#if mayWrite}
            <button
              class="btn btn-ghost btn-xs"
              aria-label={`Undo: ${words(deed)}, ${day(line.day)}`}
              disabled={house.busy}
              onclick={() =>
                deed.some((one) => one.sheet) ? (asking = { deed, at: i }) : void takeBack(deed, i)}
              >Undo</button
            >
          {/if}
        </li>
      {/each}
    </ol>
    {#if deeds.length > most}
      <button class="btn btn-ghost btn-sm mt-2" onclick={() => (most += FIRST)}
        >{Math.min(FIRST, deeds.length - most)} more</button
      >
    {/if}
  {/if}
</Panel>
{#if asking}
  {@const { deed, at } = asking}
  <Modal title="Take the whole sitting back?" onclose={() => (asking = null)}>
    <p>
      {words(deed)}: a sheet recorded this. All that it recorded goes back with it, also of other parts and
      other machines.
    </p>
    <div class="mt-4 flex flex-wrap justify-end gap-2">
      <button class="btn btn-ghost" onclick={() => (asking = null)}>Keep it</button>
      <button class="btn btn-error" disabled={house.busy} onclick={() => void takeBack(deed, at)}
        >Take it back</button
      >
    </div>
  </Modal>
{/if}

<style>
  ol {
    columns: 2 26rem;
    column-gap: 2.5rem;
  }
  li {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
    min-height: 2.25rem;
    padding: 0.25rem 0;
    break-inside: avoid;
    border-bottom: 1px solid var(--color-base-300);
  }
</style>
