<!-- What may be otherwise: how often machines run, who lives here, how it is kept, sets, days for visits, an hour's worth. -->
<script lang="ts">
  import { bounds } from '../../lib/api/bounds';
  import type { Schemas } from '../../lib/api/client';
  import { DAYS, WEEK } from '../../lib/state/setup.svelte';
  import type { Change, Start } from '../../lib/state/whatif.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import { figure } from '../../lib/words/format';
  import { SCHOOL } from '../../lib/words/tasks';
  import Field from '../../lib/ui/Field.svelte';

  let {
    start,
    change,
    onclose,
    onask,
  }: { start: Start; change: Change; onclose: () => void; onask: (change: Change) => void } = $props();

  const now = (value: number) => Math.round(value * 10) / 10;
  // svelte-ignore state_referenced_locally
  let runs = $state(
    start.runs.map((one) => change.runs?.find((run) => run.machine_id === one.machine_id)?.days ?? null),
  );
  // svelte-ignore state_referenced_locally
  let animals = $state(change.animals ?? start.animals);
  // svelte-ignore state_referenced_locally
  let long_haired = $state(change.long_haired ?? start.long_haired);
  // svelte-ignore state_referenced_locally
  let children = $state(change.children ?? start.children);
  // svelte-ignore state_referenced_locally
  let carpet = $state(Math.round((change.carpet ?? start.carpet) * 100));
  // svelte-ignore state_referenced_locally
  let school = $state(change.school ?? start.school);
  // svelte-ignore state_referenced_locally
  let hour = $state((change.hour_value ?? start.hour_value) / 100);
  // svelte-ignore state_referenced_locally
  let weekdays = $state<string[]>(change.weekdays?.length ? [...change.weekdays] : [...start.weekdays]);
  const key = (one: { machine_id: string; slot: string }) => `${one.machine_id}/${one.slot}`;
  // svelte-ignore state_referenced_locally
  let sets = $state((change.sets ?? []).map(key));

  const same = (a: string[], b: string[]) => [...a].sort().join() === [...b].sort().join();
  const wish = $derived.by((): Change => {
    const made: Change = {
      runs: start.runs.flatMap((one, n) => {
        const days = runs[n];
        return days && days !== now(one.days) ? [{ machine_id: one.machine_id, days }] : [];
      }),
      sets: start.sets
        .filter((one) => sets.includes(key(one)))
        .map(({ machine_id, slot }) => ({ machine_id, slot })),
      weekdays: same(weekdays, start.weekdays) ? [] : (weekdays as Schemas['HandsIn']['weekdays']),
    };
    if (animals !== start.animals) made.animals = animals;
    if (long_haired !== start.long_haired) made.long_haired = long_haired;
    if (children !== start.children) made.children = children;
    if (carpet !== Math.round(start.carpet * 100)) made.carpet = carpet / 100;
    if (school !== start.school) made.school = school;
    if (Math.round(hour * 100) !== start.hour_value) made.hour_value = Math.round(hour * 100);
    return made;
  });
  const asks = $derived(
    Object.keys(wish).length > 3 || Boolean(wish.runs?.length || wish.sets?.length || wish.weekdays?.length),
  );
</script>

<Modal title="What if…" {onclose}>
  <form class="grid gap-4" onsubmit={(event) => (event.preventDefault(), onask(wish))}>
    <fieldset class="grid gap-2">
      <legend class="mb-1 font-bold">How often it runs, days a week</legend>
      {#each start.runs as one, n (one.machine_id)}
        <label class="flex items-center justify-between gap-3"
          >{one.name}
          <select class="select w-44" bind:value={runs[n]}>
            <option value={null}>as now ({figure(one.days)})</option>
            {#each [1, 2, 3, 4, 5, 6, 7] as days (days)}<option value={days}>{days}</option>{/each}
          </select></label
        >
      {/each}
    </fieldset>
    <div class="grid grid-cols-3 gap-2">
      <Field label="Animals" type="number" of="ChangeIn" name="animals" required bind:value={animals} />
      <Field
        label="Long hair"
        type="number"
        of="ChangeIn"
        name="long_haired"
        required
        bind:value={long_haired}
      />
      <Field label="Children" type="number" of="ChangeIn" name="children" required bind:value={children} />
    </div>
    <label class="grid gap-1"
      >Carpet, {carpet} % of the floor
      <input class="range w-full" type="range" min="0" max="100" step="5" bind:value={carpet} /></label
    >
    <label class="grid gap-1"
      >Kept how
      <select class="select w-full" bind:value={school}>
        {#each Object.entries(SCHOOL) as [value, text] (value)}<option {value}>{text}</option>{/each}
      </select></label
    >
    <fieldset>
      <legend class="mb-1 font-bold">Days for visits</legend>
      <div class="flex flex-wrap gap-2">
        {#each WEEK as day (day)}
          <label class={['btn btn-sm', weekdays.includes(day) && 'btn-active']}
            ><input type="checkbox" class="sr-only" value={day} bind:group={weekdays} />{DAYS[day]}</label
          >
        {/each}
      </div>
    </fieldset>
    {#if start.sets.length}
      <fieldset class="grid gap-1">
        <legend class="mb-1 font-bold">A second set that takes turns</legend>
        {#each start.sets as one (key(one))}
          <label class="flex items-center gap-2 py-1"
            ><input type="checkbox" class="checkbox" value={key(one)} bind:group={sets} />{one.slot_name}
            <span class="soft">{one.machine_name}</span></label
          >
        {/each}
      </fieldset>
    {/if}
    <Field
      label={`What an hour of yours is worth (${start.currency || 'money'})`}
      type="number"
      step="0.5"
      min="0"
      max={Number(bounds('ChangeIn', 'hour_value').max) / 100}
      required
      bind:value={hour}
    />
    <button class="btn btn-primary" disabled={!asks || !weekdays.length}>Live through a year</button>
    {#if !asks}<p class="soft">Change something first.</p>{/if}
  </form>
</Modal>
