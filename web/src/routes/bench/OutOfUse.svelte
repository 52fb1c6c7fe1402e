<!-- Dangers that were told on a sheet, elsewhere, or of what belongs to its machines: what to do at once. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';

  let { sheet }: { sheet: Schemas['SheetOut'] } = $props();

  const dangers = $derived(
    sheet.steps.flatMap((one) =>
      one.dangers
        .filter(({ value }) => value === one.answer)
        .map((danger) => ({ ...danger, machine: one.machine_name })),
    ),
  );
  /** Told elsewhere while this sheet was open: parts that are out may go back, nothing else is done. */
  const elsewhere = $derived(
    sheet.machines.flatMap(({ name, dangers: known }) =>
      known
        .filter(
          (one) => !dangers.some((danger) => danger.value === `danger:${one.key}` && danger.machine === name),
        )
        .map((one) => ({ ...one, machine: name })),
    ),
  );
</script>

{#each elsewhere as danger (danger.machine + danger.key)}
  <section class="panel mt-3 p-4" role="alert">
    <h2 class="text-xl font-extrabold">{danger.machine} is out of use: {danger.name}.</h2>
    <p class="caution gate">{danger.now}</p>
    <p>Told elsewhere. Put back only what is out already; skip the rest, or end the sitting.</p>
  </section>
{/each}
{#each sheet.beside as { machine, danger } (machine + danger.key)}
  <section class="panel mt-3 p-4" role="alert">
    <h2 class="text-xl font-extrabold">{machine} is out of use: {danger.name}.</h2>
    <p class="caution gate">{danger.now}</p>
    <p>It belongs to this one: keep the two apart, and skip what is done at it.</p>
  </section>
{/each}
{#each dangers as danger (danger.machine + danger.value)}
  <section class="panel mt-3 p-4" role="alert">
    <h2 class="text-xl font-extrabold">{danger.machine} is out of use: {danger.name}.</h2>
    <p class="caution gate">{danger.now}</p>
    <p>{danger.who} Round says what ends this, and takes it back if it was told by mistake.</p>
  </section>
{/each}

<style>
  .caution.gate {
    font-size: clamp(1.2rem, 2.4vw, 1.45rem);
  }
</style>
