<!-- One question with its box. What it may hold comes from the contract: the field `name` of what is sent as `of`. -->
<script lang="ts" generics="S extends keyof typeof BOUNDS">
  import type { HTMLInputAttributes } from 'svelte/elements';

  import { bounds } from '../api/bounds';
  import type { BOUNDS } from '../api/gen/bounds';

  let {
    label,
    of,
    name,
    value = $bindable(),
    ...more
  }: Omit<HTMLInputAttributes, 'name' | 'value'> & {
    label: string;
    of?: S;
    name?: keyof (typeof BOUNDS)[S];
    value: HTMLInputAttributes['value'];
  } = $props();

  const limits = $derived(of && name ? bounds(of, name) : {});
  const input = $derived({ ...(more.type === 'number' ? { step: 'any' } : {}), ...limits, ...more });
</script>

<label class="grid gap-1">{label} <input class="input w-full" {...input} bind:value /></label>
