<!-- Setting a machine up: which it is by picture and plain questions, what is known of it, its usual week. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';

  import KindPicture from '../lib/airpath/KindPicture.svelte';
  import { bounds } from '../lib/api/bounds';
  import { house } from '../lib/state/house.svelte';
  import { session } from '../lib/state/session.svelte';
  import { SetUpState } from '../lib/state/setup.svelte';
  import Choice from '../lib/ui/Choice.svelte';
  import RunsOn from '../lib/ui/RunsOn.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { daysBefore } from '../lib/words/format';
  import { ASKED, UNTOLD } from '../lib/words/wash';
  import PartsTold from './setup/PartsTold.svelte';
  import Replaced from './setup/Replaced.svelte';
  import Upkeep from './setup/Upkeep.svelte';

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
  function told(day: string) {
    [setup.past, setup.lastDone] = ['day', day];
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
      <section aria-label="Which kind" class="grid gap-4">
        {#if setup.answered.length}
          <div class="flex flex-wrap gap-2" role="group" aria-label="What you said">
            {#each setup.answered as question (question.key)}
              {@const said = setup.answers[question.key] ?? ''}
              <button
                class="btn btn-sm btn-primary"
                aria-label={`${question.answers[said]} × (take back: ${question.text})`}
                onclick={() => setup.answer(question.key, said)}>{question.answers[said]} ×</button
              >
            {/each}
          </div>
        {/if}
        {#if setup.next}
          {@const question = setup.next}
          <Choice
            legend={question.text}
            options={setup.offered(question)}
            value={null}
            onchoose={(value) => setup.answer(question.key, value)}
          />
        {/if}
        <div>
          <h2>
            {setup.fitting.length === 1
              ? 'This one fits: tap it'
              : `${setup.fitting.length} kinds: tap yours`}
          </h2>
          <ul class="kinds">
            {#each setup.fitting as one (one.key)}
              <li>
                <button class="kind" onclick={() => setup.choose(one)}>
                  <KindPicture chambers={one.chambers} />
                  <b>{one.name}</b>
                  <span class="soft text-sm">
                    {one.chambers
                      .filter((chamber) => chamber.column !== 'off_path' && !chamber.empty)
                      .map((chamber) => chamber.label)
                      .join(' → ') || 'contacts only'}
                  </span>
                </button>
              </li>
            {/each}
          </ul>
        </div>
      </section>
    {:else}
      <form class="told" onsubmit={add}>
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
            {@const told = setup.seen[trait][part.slot] ?? 'unknown'}
            <div>
              <Choice
                legend={`${part.name}: ${ASKED[trait]}`}
                options={[
                  ['yes', 'Yes'],
                  ['no', 'No'],
                  ['unknown', 'Do not know'],
                ]}
                value={told}
                small
                onchoose={(value) => setup.saw(trait, part.slot, value)}
              />
              {#if told === 'unknown'}<p class="soft text-sm">{UNTOLD[trait]}</p>{/if}
            </div>
          {/each}

          {#if !kind.serves}
            <RunsOn
              legend="It usually runs"
              bind:days={setup.days}
              bind:every={setup.every}
              onchange={() => void setup.foresee()}
            />
            <div class="flex flex-wrap gap-4">
              <label class="grid gap-1">
                <span class="font-bold">Minutes a run</span>
                <input
                  class="input w-28"
                  type="number"
                  inputmode="numeric"
                  step="any"
                  {...bounds('WeekIn', 'minutes')}
                  value={setup.minutes}
                  oninput={(e) => (setup.typedMinutes = e.currentTarget.valueAsNumber)}
                  onchange={() => void setup.foresee()}
                  required
                />
              </label>
              <label class="grid gap-1">
                <span class="font-bold">Starts at, if it has a time</span>
                <input class="input w-40" type="time" bind:value={setup.starts} />
              </label>
            </div>
            <Choice
              legend="If nobody says anything, then"
              options={[
                ['ran', 'it ran as usual'],
                ['rested', 'it did not run'],
              ]}
              value={setup.silence}
              small
              onchoose={(value) => (setup.silent = value)}
            />
          {/if}

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
                    onclick={() => told(daysBefore(today, n))}>{text}</button
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

          <PartsTold {setup} {today} />
        </div>
        <aside class="grid content-start gap-4">
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
  h2 {
    margin-bottom: 0.5rem;
  }
  .kinds {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(min(22rem, 100%), 1fr));
    gap: 0.75rem;
  }
  .kind {
    display: grid;
    justify-items: start;
    gap: 0.15rem;
    width: 100%;
    height: 100%;
    padding: 0.75rem 1rem;
    text-align: left;
    cursor: pointer;
    background: var(--color-base-100);
    border: 1px solid var(--color-base-300);
    border-radius: var(--radius-box);
  }
  .kind:hover {
    border-color: var(--color-base-content);
  }
  .told {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 20rem;
    gap: 1.5rem 2.5rem;
  }
  aside {
    position: sticky;
    top: 1rem;
    align-self: start;
  }
  @media (max-width: 53.99rem) {
    .told {
      grid-template-columns: minmax(0, 1fr);
    }
    aside {
      position: static;
    }
  }
</style>
