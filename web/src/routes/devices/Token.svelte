<!-- The token of a device that was just connected: shown once, as text, as a code, and as a line to try it with. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import Code from '../../lib/ui/Code.svelte';

  let { made, ondone }: { made: Schemas['TokenOut']; ondone: () => void } = $props();

  let copied = $state(false);
  const EXAMPLES = {
    machine: '"kind":"run","minutes":40,"area_m2":36',
    gauge: '"kind":"suction","value":12.4,"unit":"kPa","opening":"open"',
    scale: '"kind":"weight","value":82,"unit":"g"',
    climate: '"kind":"air","temp":18.5,"humidity_percent":62',
  };
  const line = $derived(`{"id":"1","at":"'$(date -d '-1 hour' +%FT%T%:z)'",${EXAMPLES[made.device.kind]}}`);
  const curl = $derived(`curl -H 'Authorization: Bearer ${made.token}' -d '[${line}]' ${made.address}`);

  async function copy() {
    await navigator.clipboard?.writeText(made.token).catch(() => {});
    copied = true;
  }
</script>

<section
  class="panel p-4 grid grid-cols-[minmax(0,1fr)_11rem] gap-y-4 gap-x-6 items-start border-l-4 border-l-secondary max-sm:grid-cols-1"
  aria-label="The token"
>
  <div class="min-w-0">
    <h2>The token of {made.device.name}</h2>
    <p class="mt-1">
      Give it to the device, with the address. It is shown only now; if it gets lost, disconnect the device
      and connect it again.
    </p>
    <dl class="mt-3 grid gap-2">
      <div>
        <dt class="soft text-sm">Token</dt>
        <dd><code>{made.token}</code></dd>
      </div>
      <div>
        <dt class="soft text-sm">Address</dt>
        <dd><code>{made.address}</code></dd>
      </div>
    </dl>
    {#if made.only_here}
      <p class="soft mt-1">
        This address is good on this computer only. For a device elsewhere in the house, start Yperon with
        <b>make serve LAN=1</b> and use the address it names.
      </p>
    {/if}
    <details class="mt-3">
      <summary class="link">Try it from a terminal</summary>
      <p class="line mt-2"><code>{curl}</code></p>
    </details>
    <p class="mt-3 flex flex-wrap gap-2">
      <button class="btn btn-primary" onclick={() => void copy()}
        >{copied ? 'Copied' : 'Copy the token'}</button
      >
      <button class="btn" onclick={ondone}>The device has it</button>
    </p>
  </div>
  <Code address={made.address} rows={made.rows} />
</section>

<style>
  dd,
  .line {
    padding: 0.5rem 0.75rem;
    overflow-wrap: anywhere;
    background: var(--color-base-200);
    border-radius: 0.5rem;
  }
</style>
