<!-- A few answers to one question as big buttons, one of them chosen. -->
<script lang="ts" generics="T extends string">
  let {
    legend,
    options,
    value,
    onchoose,
    small = false,
    disabled = false,
  }: {
    legend: string;
    options: readonly (readonly [T, string])[];
    value: T | null | undefined;
    onchoose: (value: T) => void;
    small?: boolean;
    disabled?: boolean;
  } = $props();
</script>

<fieldset>
  <legend class="mb-1 font-bold">{legend}</legend>
  <div class="flex flex-wrap gap-2">
    {#each options as [key, text] (key)}
      <button
        type="button"
        class={['btn', small && 'btn-sm', value === key && 'btn-active']}
        aria-pressed={value === key}
        {disabled}
        onclick={() => onchoose(key)}>{text}</button
      >
    {/each}
  </div>
</fieldset>
