<!-- What happened, newest first: this part's records, and the machine's runs. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { house } from '../../lib/state/house.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { weightWords } from '../../lib/words/drying';
  import { ago, day, figure } from '../../lib/words/format';
  import { STAND } from '../../lib/words/faults';
  import { didWord, FOUND } from '../../lib/words/tasks';

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

  let all = $state(false);
  // A look stands there with what was found; that it was looked at needs no line of its own.
  const told = $derived(lines.filter((line) => line.kind !== 'service' || line.action !== 'inspect'));
  const shown = $derived(all ? told : told.filter((line) => 'slot' in line && line.slot === slot));
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

  function words(line: Line): string {
    const who = 'slot' in line ? line.item || name(line.slot) : '';
    switch (line.kind) {
      case 'run':
        return `Ran ${figure(line.minutes)} min (${line.provenance})`;
      case 'service':
        return `${who} ${didWord(line.action)}`;
      case 'inspection':
        return `${who} found: ${FOUND[line.found].toLowerCase()}`;
      case 'reading':
        return readingWords(line);
      case 'case':
        return caseWords(line);
      case 'hung':
        return `${who} hung${line.place ? ` in: ${line.place}` : ' up to dry'}`;
      case 'weight':
        return `${who} weighed ${weightWords(line.grams, session.us)}`;
      case 'danger':
        return `Danger: ${line.words}`;
      case 'check':
        return `${who} felt: ${line.damp ? 'still damp' : 'dry'}`;
      case 'changed':
        return `${who}: ${line.changed ? 'something' : 'nothing'} changed at home`;
    }
  }
</script>

<section aria-label="Records">
  <div class="mb-2 flex items-baseline justify-between">
    <h2>Records</h2>
    <div class="join" role="group" aria-label="Which records">
      <button
        class={['btn btn-sm join-item', !all && 'btn-primary']}
        aria-pressed={!all}
        onclick={() => (all = false)}
      >
        This part
      </button>
      <button
        class={['btn btn-sm join-item', all && 'btn-primary']}
        aria-pressed={all}
        onclick={() => (all = true)}
      >
        Machine
      </button>
    </div>
  </div>
  <p class="mb-2"><a class="link" href={filters}>Filter log: all of it, on paper or as CSV</a></p>
  {#if shown.length === 0}
    <p class="soft">Nothing yet. What you do and find will stand here.</p>
  {:else}
    <ol class="panel">
      {#each shown.slice(0, 14) as line (line.entry_id)}
        <li>
          <span
            >{words(line)}<br /><span class="soft text-sm"
              >{day(line.day)}, {ago(line.day, today)}{line.by ? `, ${line.by}` : ''}</span
            ></span
          >
          {#if mayWrite}
            <button
              class="btn btn-ghost btn-xs"
              aria-label={`Undo: ${words(line)}, ${day(line.day)}`}
              disabled={house.busy}
              onclick={() => void house.undo(line.entry_id)}>Undo</button
            >
          {/if}
        </li>
      {/each}
    </ol>
  {/if}
</section>

<style>
  li {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
    padding: 0.5rem 0.75rem;
    border-top: 1px solid var(--color-base-300);
  }
  li:first-child {
    border-top: none;
  }
</style>
