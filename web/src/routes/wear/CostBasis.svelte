<!-- What a household tells of a machine's worth: its price, how long such a one serves, its hour, the guarantee. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import type { Schemas } from '../../lib/api/client';
  import type { WorthState } from '../../lib/state/worth.svelte';
  import Field from '../../lib/ui/Field.svelte';

  let { costs, worth, onkept }: { costs: WorthState; worth: Schemas['WorthOut']; onkept: () => void } =
    $props();

  const units = (cents: number | null | undefined) => (cents ? (cents / 100).toFixed(2) : '');
  const cents = (text: string) => Math.round(Number(text) * 100);
  let form = $state(
    untrack(() => ({
      price_new: units(worth.told.price_new),
      life_years: worth.told.life_years,
      hour_value: units(worth.told.hour_value) || '0',
      guarantee_until: worth.told.guarantee_until ?? '',
    })),
  );

  async function tell(event: SubmitEvent) {
    event.preventDefault();
    const done = await costs.tell({
      price_new: form.price_new ? cents(form.price_new) : null,
      life_years: form.life_years,
      hour_value: cents(form.hour_value),
      guarantee_until: form.guarantee_until || null,
    });
    if (done) onkept();
  }
</script>

<form class="grid grid-cols-[repeat(auto-fit,minmax(11rem,1fr))] items-end gap-3" onsubmit={tell}>
  <Field
    label={`A new one costs (${worth.currency})`}
    type="number"
    step="0.01"
    min="0"
    bind:value={form.price_new}
  />
  <Field
    label="Such a one serves (years)"
    type="number"
    of="WorthToldIn"
    name="life_years"
    required
    bind:value={form.life_years}
  />
  <Field
    label={`An hour of yours is worth (${worth.currency})`}
    type="number"
    step="0.01"
    required
    bind:value={form.hour_value}
  />
  <Field
    label="Under guarantee until"
    type="date"
    of="WorthToldIn"
    name="guarantee_until"
    bind:value={form.guarantee_until}
  />
  <button class="btn btn-primary" disabled={costs.busy}>Keep</button>
</form>
