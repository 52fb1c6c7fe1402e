<!-- One look round a machine: of each part whose start nobody knows, what one sees. Each answer makes a date firm. -->
<script lang="ts">
  import { onDestroy, untrack } from 'svelte';

  import { house } from '../lib/state/house.svelte';
  import { keys } from '../lib/state/keys.svelte';
  import { session } from '../lib/state/session.svelte';
  import type { Schemas } from '../lib/api/client';
  import Answers from '../lib/ui/Answers.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { plural } from '../lib/words/format';
  import { doWord, FOUND } from '../lib/words/tasks';

  let { params }: { params: { id: string } } = $props();

  const page = $derived(
    house.machine.status === 'ok' && house.machine.data.strip.id === params.id ? house.machine.data : null,
  );
  /** The questions that are open: one for each thing of a part that a look can settle. */
  const open = $derived(
    (page?.parts ?? []).flatMap((part) => {
      const unsure = part.states.filter((state) => state.unsure);
      return unsure
        .filter((state, i) => unsure.findIndex((other) => other.about === state.about) === i)
        .map((state) => ({ part, state }));
    }),
  );
  const current = $derived(
    open.filter(({ part, state }) => !left.includes(`${part.slot}/${state.about}`))[0] ?? null,
  );
  let left = $state<string[]>([]);

  $effect(() => {
    const id = params.id;
    untrack(() => void house.loadMachine(id));
  });

  async function tell(look: { about: Schemas['Action']; found: Schemas['Found'] }, words: string) {
    if (!current || !session.mayWrite || house.busy) return;
    const { slot, name } = current.part;
    await house.look(params.id, { slot, ...look }, `${name}: ${words}.`);
  }
  /** One of the four answers, by its key. */
  function byKey(found: Schemas['Found']) {
    if (!current) return;
    const { part, state } = current;
    void tell({ about: state.about, found }, part.asked[state.action]?.words[found] ?? found);
  }
  onDestroy(
    keys.lend('Look round', [
      ...(Object.keys(FOUND) as Schemas['Found'][]).map((found, n) => ({
        key: String(n + 1),
        does: FOUND[found],
        run: () => byKey(found),
      })),
      { key: 's', does: 'Skip: I cannot see it now', run: () => skip() },
    ]),
  );
  function skip() {
    if (current) left = [...left, `${current.part.slot}/${current.state.about}`];
  }
</script>

<svelte:head><title>Look round · Yperon</title></svelte:head>

{#if house.machine.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={house.machine.problem} retry={() => void house.loadMachine(params.id)} />
  </div>
{:else if !page}
  <Waiting what="Opening the machine" />
{:else}
  <div class="mx-auto grid max-w-2xl gap-4 p-5 pb-24">
    <header>
      <h1>Look round {page.strip.name}</h1>
      <p class="soft">
        {#if current}Off and unplugged, or its battery out, before hands go near a brush or an opening. {plural(
            open.length,
            'look',
          )} to go; skip what you cannot see.{/if}
      </p>
    </header>
    {#if current}
      {@const asked = current.part.asked[current.state.action]}
      <section class="panel grid gap-3 p-4" aria-label={current.part.name}>
        <h2 class="text-[1.35rem] font-extrabold">
          {current.part.name}
          <span class="soft font-normal">{doWord(current.state.about)}?</span>
        </h2>
        {#if asked}
          {#key current.part.slot + current.state.about}
            <Answers
              about={current.state.about}
              {asked}
              disabled={house.busy || !session.mayWrite}
              large
              onanswer={(look, words) => void tell(look, words)}
            />
          {/key}
        {/if}
        <div class="flex justify-between">
          <button class="btn btn-ghost" onclick={skip}>Skip: I cannot see it now</button>
          <a class="btn btn-ghost" href={`#/machines/${page.strip.id}`}>Stop here</a>
        </div>
      </section>
    {:else}
      <p>
        {open.length
          ? 'The rest waits for the next time you have the machine open.'
          : 'Every date of it is firm now.'}
      </p>
      <p class="flex flex-wrap gap-2">
        <a class="btn btn-primary" href={`#/machines/${page.strip.id}`}>To {page.strip.name}</a>
        <a class="btn" href="#/">To Round</a>
      </p>
    {/if}
  </div>
{/if}
