<!-- A small count with two big buttons. -->
<script lang="ts">
  let {
    label,
    value,
    most = 20,
    disabled = false,
    onchange,
  }: {
    label: string;
    value: number;
    most?: number;
    disabled?: boolean;
    onchange: (value: number) => void;
  } = $props();
</script>

<div class="inline-flex items-center gap-1" role="group" aria-label={label}>
  <button
    type="button"
    class="btn btn-square"
    aria-label={`Fewer: ${label}`}
    disabled={disabled || value <= 0}
    onclick={() => onchange(value - 1)}>−</button
  >
  <output class="count" aria-live="polite">{value}</output>
  <button
    type="button"
    class="btn btn-square"
    aria-label={`More: ${label}`}
    disabled={disabled || value >= most}
    onclick={() => onchange(value + 1)}>+</button
  >
</div>

<style>
  .count {
    min-width: 2.25rem;
    text-align: center;
    font-size: 1.15rem;
    font-weight: 700;
  }
</style>
