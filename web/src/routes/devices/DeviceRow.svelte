<!-- A device that may post: of what, when it did last, a file of its lines, and its end. -->
<script lang="ts">
  import type { Device, DevicesState } from '../../lib/state/devices.svelte';
  import { session } from '../../lib/state/session.svelte';
  import Modal from '../../lib/ui/Modal.svelte';
  import Row from '../../lib/ui/Row.svelte';
  import { DEVICES, TELLS } from '../../lib/words/devices';
  import { dayAndTime, fullDay, plural } from '../../lib/words/format';

  let {
    device,
    devices,
    owner,
    zone,
    open,
    ontoggle,
  }: {
    device: Device;
    devices: DevicesState;
    owner: boolean;
    zone: string | undefined;
    open: boolean;
    ontoggle: () => void;
  } = $props();

  let leaving = $state(false);
  const of = $derived(device.machine ?? device.place);
  const brought = $derived(open ? devices.brought : null);

  function chosen(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (file) void devices.bring(device, file);
  }
</script>

<Row {open} {ontoggle} end={device.seen_at ? `heard ${dayAndTime(device.seen_at, zone)}` : 'not heard yet'}>
  {#snippet line()}<b>{device.name}</b>
    <span class="soft">{DEVICES[device.kind]}{of && of !== device.name ? `, ${of}` : ''}</span>{/snippet}
  <div class="grid gap-3 py-2">
    <p class="soft">Tells {TELLS[device.kind]}. Connected on {fullDay(device.made_at)}.</p>
    {#if session.mayWrite}
      <label class="grid max-w-120 gap-1"
        >A file of its lines <input
          type="file"
          class="file-input w-full"
          accept=".json,.jsonl,.ndjson,.txt"
          disabled={devices.busy}
          onchange={chosen}
        /></label
      >
    {/if}
    {#if devices.busy}<p role="status">Reading the file…</p>{/if}
    {#if brought}
      <div role="status">
        <p>
          {plural(brought.taken, 'line')} taken, {brought.known} known before, {brought.held} to be asked about,
          {brought.refused} refused.
        </p>
        <ul class="mt-1 max-h-60 overflow-y-auto">
          {#each brought.lines as one (one.line)}
            <li>Line {one.line}: {one.problem} <span class="soft">{one.fix}</span></li>
          {/each}
        </ul>
      </div>
    {/if}
    {#if owner}
      <p><button class="btn" onclick={() => (leaving = true)}>Disconnect…</button></p>
    {/if}
  </div>
</Row>

{#if leaving}
  <Modal title={`Disconnect ${device.name}?`} onclose={() => (leaving = false)}>
    <p>Its token is not good any more, at once. What it told stays in the records.</p>
    <p class="mt-4 flex flex-wrap gap-2">
      <button class="btn btn-primary" onclick={() => (devices.disconnect(device), (leaving = false))}
        >Disconnect it</button
      >
      <button class="btn" onclick={() => (leaving = false)}>Keep it</button>
    </p>
  </Modal>
{/if}
