<!-- How long what is there lasts, over a year from today: sure, perhaps, lacking; a notch where to order. -->
<script lang="ts">
  import type { Kind } from '../../lib/state/shelf.svelte';
  import { day, daysBetween } from '../../lib/words/format';
  import { orderBy } from '../../lib/words/shelf';

  let { kind, today }: { kind: Kind; today: string } = $props();

  const YEAR = 365;
  const at = (iso: string | null | undefined) =>
    iso ? Math.min(100, Math.max(0, (daysBetween(today, iso) / YEAR) * 100)) : 100;
  const sure = $derived(kind.supply === 'waits' ? 0 : at(kind.short?.p10));
  const perhaps = $derived(kind.supply === 'waits' ? 0 : at(kind.short?.p90));
  const notch = $derived(
    kind.order_by && daysBetween(today, kind.order_by) <= YEAR ? at(kind.order_by) : null,
  );
  const says = $derived(
    [
      kind.short ? `lasts until ${day(kind.short.p10)} to ${day(kind.short.p90)}` : 'lasts over a year',
      kind.order_by ? `order ${orderBy(kind.order_by, today)}` : '',
    ]
      .filter(Boolean)
      .join('; '),
  );
</script>

<div class="bar" role="img" aria-label={says} title={says}>
  <span class="perhaps" style:width={`${perhaps}%`}></span>
  <span class="bg-(--fresh-fill)" style:width={`${sure}%`}></span>
  <span class="half"></span>
  {#if notch !== null}<span class="notch" style:left={`${notch}%`}></span>{/if}
</div>

<style>
  .bar {
    position: relative;
    height: 0.85rem;
    border: 1px solid var(--duct);
    border-radius: 0.3rem;
    background: var(--chamber);
    overflow: hidden;
  }
  .bar span {
    position: absolute;
    inset-block: 0;
    left: 0;
  }
  .perhaps {
    background: repeating-linear-gradient(-45deg, var(--fresh-fill) 0 4px, var(--chamber) 4px 8px);
  }
  .bar .half {
    left: 50%;
    width: 1px;
    background: var(--duct);
  }
  .bar .notch {
    width: 4px;
    margin-left: -2px;
    background: var(--tone);
  }
</style>
