<!-- The floor: whether something may be picked up, what to see to before a run, and what if it happened. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, client, type Schemas } from '../lib/api/client';
  import { house } from '../lib/state/house.svelte';
  import { type Load, loaded, PENDING, Turns } from '../lib/state/load';
  import { session } from '../lib/state/session.svelte';
  import Loaded from '../lib/ui/Loaded.svelte';
  import Panel from '../lib/ui/Panel.svelte';
  import { capital } from '../lib/words/format';
  import { didWord, MISHAP } from '../lib/words/tasks';
  import BeforeARun from './floor/BeforeARun.svelte';
  import PickUps from './floor/PickUps.svelte';

  let { params = {} }: { params?: { id?: string } } = $props();

  let floor = $state.raw<Load<Schemas['FloorOut']>>(PENDING);
  let chosen = $state('');

  if (house.round.status !== 'ok') void house.loadRound();
  const machines = $derived(house.round.status === 'ok' ? house.round.data.machines : []);
  const runners = $derived(machines.filter((one) => one.serves === null));
  const machine = $derived(
    runners.find((one) => one.id === (chosen || params.id)) ??
      runners.find((one) => one.itself) ??
      runners[0] ??
      null,
  );
  const MISHAPS: Schemas['Mishap'][] = ['sticky', 'wet', 'fine_dust', 'sharp'];

  const turns = new Turns();
  async function load(id: string | null) {
    const query = id ? { machine_id: id } : {};
    const answer = await turns.latest(ask(client.GET('/api/floor', { params: { query } })));
    if (answer) floor = loaded(answer);
  }
  /** By themselves, so that a household that is only told anew does not ask again. */
  const id = $derived(machine?.id ?? null);
  const known = $derived(house.round.status !== 'pending');
  $effect(() => {
    const [wanted, ready] = [id, known];
    untrack(() => ready && void load(wanted));
  });

  /** "Drive wheels wiped, filter washed" for a mishap. */
  function forward(kind: Schemas['Mishap']): string {
    if (floor.status !== 'ok') return '';
    const done = (floor.data.brings_forward[kind] ?? []).map(
      ({ part, action }) => `${part} ${didWord(action)}`,
    );
    return done.join('; ').toLowerCase();
  }
  async function happened(kind: Schemas['Mishap']) {
    if (!machine) return;
    const due = forward(kind);
    const text = `${machine.name}, ${MISHAP[kind]}: ${due ? `due now: ${due}` : 'nothing is brought forward'}.`;
    await house.mishap(machine.id, { kind }, text);
  }
</script>

<svelte:head><title>Before a run · Yperon</title></svelte:head>

<Loaded load={floor} what="Opening the list" retry={() => void load(id)}>
  {#snippet children(list)}
    <div class="page">
      <PickUps pickups={list.pickups} {forward} />
      <div class="abreast">
        <BeforeARun
          {machine}
          {runners}
          checks={list.checks.filter(
            (one) => one.only === null || (one.only === 'itself' && machine?.itself),
          )}
          onchoose={(id) => (chosen = id)}
        />
        <div class="noprint grid">
          <Panel title="Did it run over or take in something?" label="It happened">
            <p class="soft">Stop it first. What that harms is due at once, and Round says so.</p>
            <div class="mt-2 grid gap-2">
              {#each MISHAPS as kind (kind)}
                <button
                  class="btn h-auto justify-start py-2 text-left"
                  disabled={!machine || !session.mayWrite || house.busy}
                  onclick={() => void happened(kind)}
                >
                  <span
                    ><b>{capital(MISHAP[kind].replace('after ', ''))}</b><small
                      class="block text-sm font-normal"
                      >{forward(kind) ? `then: ${forward(kind)}` : 'brings nothing forward here'}</small
                    ></span
                  >
                </button>
              {/each}
            </div>
          </Panel>
        </div>
      </div>
    </div>
  {/snippet}
</Loaded>

<style>
  @media print {
    :global(.noprint) {
      display: none;
    }
  }
</style>
