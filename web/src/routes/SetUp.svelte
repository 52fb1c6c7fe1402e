<!-- Setting a machine up: which it is by picture and plain questions, what is known of it, its usual week. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import KindPicture from '../lib/airpath/KindPicture.svelte';
  import { bounds } from '../lib/api/bounds';
  import { house } from '../lib/state/house.svelte';
  import { session } from '../lib/state/session.svelte';
  import { SetUpState } from '../lib/state/setup.svelte';
  import Choice from '../lib/ui/Choice.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { ASKED, UNTOLD } from '../lib/words/wash';
  import LastCleaned from './setup/LastCleaned.svelte';
  import PartsLast from './setup/PartsLast.svelte';
  import Replaced from './setup/Replaced.svelte';
  import Upkeep from './setup/Upkeep.svelte';
  import UsualWeek from './setup/UsualWeek.svelte';
  import WhichKind from './setup/WhichKind.svelte';

  let { params = {} }: { params?: { old?: string } } = $props();

  const setup = new SetUpState();
  let keep = $state<string[]>([]);
  let sameName = $state(true);

  void setup.load();
  if (house.round.status !== 'ok') void house.loadRound();

  const machines = $derived(house.round.status === 'ok' ? house.round.data.machines : []);
  const today = $derived(house.round.status === 'ok' ? house.round.data.today : '');
  const old = $derived(machines.find((one) => one.id === params.old) ?? null);
  const taken = $derived(machines.map((one) => one.name));
  const robots = $derived(machines.filter((one) => one.itself));
  const kind = $derived(setup.kind);

  async function add(event: SubmitEvent) {
    event.preventDefault();
    const replacing = old ? { id: old.id, name: old.name, keep, same_name: sameName } : null;
    const id = await setup.add(taken, replacing);
    if (id) await push(`/machines/${id}`);
  }
</script>

<svelte:head><title>Add a machine · Yperon</title></svelte:head>

{#if setup.catalogue.status === 'pending' || house.round.status === 'pending'}
  <Waiting what="Opening the care book" />
{:else if setup.catalogue.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={setup.catalogue.problem} retry={() => void setup.load()} />
  </div>
{:else}
  <div class="page max-w-304">
    <header>
      <h1>
        {#if old}What stands in for {old.name}?{:else if machines.length}Add a machine{:else}Which machine
          comes first?{/if}
      </h1>
      <p class="soft mt-1 max-w-3xl">
        {#if old}The history of {old.name} stays under its own page.{:else}Pick it by its picture, say how it
          is used. What you do not know is fine: the first look at a part settles its dates.{/if}
      </p>
    </header>

    {#if !kind}
      <WhichKind {setup} />
    {:else}
      <form class="columns" onsubmit={add}>
        <div class="grid content-start gap-5">
          <div class="panel flex flex-wrap items-center justify-between gap-3 p-3">
            <KindPicture chambers={kind.chambers} />
            <b class="grow">{kind.name}</b>
            <button type="button" class="btn btn-sm" onclick={() => setup.choose(null)}>Another kind</button>
          </div>

          {#if old}<Replaced {old} bind:keep bind:sameName />{/if}
          {#if !(old && sameName)}
            <label class="grid gap-1">
              <span class="font-bold">What do you call it?</span>
              <input
                class="input w-full max-w-md"
                value={setup.name(taken)}
                oninput={(e) => (setup.typedName = e.currentTarget.value)}
                {...bounds('MachineIn', 'name')}
                required
              />
            </label>
          {/if}

          {#if kind.has_dock}
            <Choice
              legend="What does it come home to?"
              options={[
                ['', 'nothing, or a dock I do not look after'],
                ...setup.docks.map((dock) => [dock.key, dock.name] as const),
              ]}
              value={setup.dock ?? ''}
              small
              onchoose={(value) => ((setup.dock = value || null), void setup.foresee())}
            />
          {/if}
          {#if kind.serves}
            <label class="grid gap-1">
              <span class="font-bold">Whose dock is it?</span>
              <select class="select w-full max-w-md" bind:value={setup.serves}>
                <option value="">no robot of this house</option>
                {#each robots as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
              </select>
            </label>
          {/if}
          {#each kind.options as option (option.key)}
            <div>
              <Choice
                legend={option.question}
                options={[
                  ['yes', 'Yes'],
                  ['no', 'No'],
                  ['unknown', 'Do not know'],
                ]}
                value={setup.features[option.key] ?? 'unknown'}
                small
                onchoose={(value) => (
                  (setup.features = { ...setup.features, [option.key]: value }),
                  void setup.foresee()
                )}
              />
              {#if option.key.startsWith('washable') && (setup.features[option.key] ?? 'unknown') === 'unknown'}
                <p class="soft text-sm">{UNTOLD.marked}</p>
              {/if}
            </div>
          {/each}
          {#each setup.asked as { part, trait } (`${part.slot} ${trait}`)}
            {@const seen = setup.seen[trait][part.slot] ?? 'unknown'}
            <div>
              <Choice
                legend={`${part.name}: ${ASKED[trait]}`}
                options={[
                  ['yes', 'Yes'],
                  ['no', 'No'],
                  ['unknown', 'Do not know'],
                ]}
                value={seen}
                small
                onchoose={(value) => setup.saw(trait, part.slot, value)}
              />
              {#if seen === 'unknown'}<p class="soft text-sm">{UNTOLD[trait]}</p>{/if}
            </div>
          {/each}

          {#if !kind.serves}<UsualWeek {setup} />{/if}
          <LastCleaned {setup} {today} />
          <PartsLast {setup} {today} />
        </div>
        <aside class="grid content-start gap-4 sticky top-4 self-start max-[54rem]:static">
          <Upkeep upkeep={setup.upkeep} filters={setup.filters} waits={setup.waits} />
          <p class="soft text-sm">
            Sheets name the tools you own, or what serves in their place: <a class="link" href="#/household"
              >tick them once</a
            >, second vacuum, drivers and all.
          </p>
          <button class="btn btn-primary btn-lg" disabled={house.busy || !session.mayWrite}>
            {old ? 'Put it in its place' : 'Add it'}
          </button>
        </aside>
      </form>
    {/if}
  </div>
{/if}

<style>
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 20rem;
    gap: 1.5rem 2.5rem;
  }
  @media (max-width: 53.99rem) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
