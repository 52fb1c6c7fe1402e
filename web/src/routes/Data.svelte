<!-- The household's data: taken out, brought in, and copies of everything. -->
<script lang="ts">
  import { incomingHousehold, incomingRuns } from '../lib/state/data.svelte';
  import { house } from '../lib/state/house.svelte';
  import { session } from '../lib/state/session.svelte';
  import Panel from '../lib/ui/Panel.svelte';
  import { addedWords, lookWords, runsWords } from '../lib/words/data';
  import { plural } from '../lib/words/format';
  import Copies from './household/Copies.svelte';
  import FromFile from './household/FromFile.svelte';
  import Tabs from './household/Tabs.svelte';

  const household = incomingHousehold();
  const runs = incomingRuns();
  const owner = $derived(session.member?.role === 'owner');
  let me = $state('');

  const bringsSomething = ({ added }: { added: Record<string, number> }) =>
    Object.values(added).some((count) => count > 0);
  async function bringHousehold() {
    if (await household.bring(me || null)) await session.startOver();
  }
  async function bringRuns() {
    if (await runs.bring()) house.forget();
  }
  async function takeBack(entry_id: string) {
    await house.undo(entry_id);
    void runs.look(null);
  }
</script>

<svelte:head><title>Data · Yperon</title></svelte:head>

<div class="page max-w-240">
  <header>
    <Tabs />
    <p class="soft">All of it is yours: take it out, bring it back, move it to another computer.</p>
  </header>
  <Panel title="Take it out">
    <div class="flex flex-wrap gap-2">
      <a class="btn" href="/api/document.zip" download>Everything with photos (ZIP)</a>
      <a class="btn" href="/api/document.json" download>Everything without photos (JSON)</a>
      <a class="btn" href="/api/runs.csv" download>Runs (CSV)</a>
      <a class="btn" href="/api/readings.csv" download>Readings and wear (CSV)</a>
      <a class="btn" href="/api/visits.csv" download>Visits (CSV)</a>
      <a class="btn" href="/api/log.csv" download>Log (CSV)</a>
    </div>
    <p class="soft mt-2">
      The file holds no passwords. Visits go into a calendar on <a class="link" href="#/season">Season</a>,
      the shopping list from <a class="link" href="#/shelf">Shelf</a>.
    </p>
  </Panel>
  {#if owner}
    <FromFile
      title="Bring a household in"
      about="A file that was taken out here or on another computer. It is looked at first; nothing is kept before you say so."
      accept=".json,.zip"
      incoming={household}
      act="Bring it in"
      anything={bringsSomething}
      onbring={() => void bringHousehold()}
    >
      {#snippet seen(found)}
        <p class="font-bold">{lookWords(found)}</p>
        {#each found.stays as words (words)}<p>{words}</p>{/each}
        {#if found.without_picture}
          <p>{plural(found.without_picture, 'photo')} not in this file: the ZIP has them.</p>
        {/if}
        {#if found.new && found.people.length}
          <label class="mt-2 grid max-w-80 gap-1"
            >Who are you among its people? <select class="select w-full" bind:value={me}>
              <option value="">somebody new</option>
              {#each found.people as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
            </select></label
          >
        {/if}
      {/snippet}
      {#snippet done(found)}<p>{found.name}: {addedWords(found.added)} brought in.</p>{/snippet}
    </FromFile>
  {/if}
  {#if session.mayWrite}
    <FromFile
      title="Bring runs in"
      about="A CSV with machine, day and minutes; started (09:30), mopped (yes, no) where known. The same file twice counts once."
      accept=".csv,text/csv"
      incoming={runs}
      act="Log these runs"
      anything={bringsSomething}
      onbring={() => void bringRuns()}
    >
      {#snippet seen(found)}
        <p class="font-bold">
          {runsWords(found.added)}{found.known ? `; ${plural(found.known, 'run')} here already` : ''}.
        </p>
      {/snippet}
      {#snippet done(found)}
        <p class="flex flex-wrap items-center gap-3">
          Logged: {runsWords(found.added)}.
          {#if found.entry_id}
            <button class="btn btn-sm" onclick={() => void takeBack(found.entry_id!)}>Take them back</button>
          {/if}
        </p>
      {/snippet}
    </FromFile>
  {/if}
  {#if session.member?.looks_after_all}<Copies />{/if}
</div>
