<!-- Which tools a household owns, and what it has in place of one it does not: sheets and checks then name just that. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';

  interface Props {
    known: Schemas['ToolKeyOut'][];
    /** Keys of tools and substitutes; null: nobody told, so every tool is taken to be there. */
    owned: string[] | null;
    mayWrite: boolean;
    onchange: (owned: string[]) => void;
  }
  let { known, owned, mayWrite, onchange }: Props = $props();

  const has = (key: string) => owned?.includes(key) ?? true;
  const missing = $derived(known.filter((tool) => !has(tool.key)));
  const helped = $derived(missing.filter((tool) => tool.instead.some((one) => owned?.includes(one.key))));
  const summary = $derived(
    owned === null
      ? 'not answered, so all are taken to be there'
      : `${known.length - missing.length} of ${known.length}` +
          (helped.length ? `, and something in place of ${helped.length}` : ''),
  );

  function toggle(key: string) {
    const all = owned ?? known.map((tool) => tool.key);
    onchange(all.includes(key) ? all.filter((one) => one !== key) : [...all, key]);
  }
</script>

{#snippet choice(key: string, name: string, on: boolean)}
  <button
    type="button"
    class={['btn btn-sm h-auto py-1 max-w-full text-left whitespace-normal', on && 'btn-active']}
    aria-pressed={on}
    disabled={!mayWrite}
    onclick={() => toggle(key)}>{name}</button
  >
{/snippet}

<details>
  <summary class="cursor-pointer"><b>Tools you own</b> <span class="soft">{summary}</span></summary>
  <div class="mt-2 flex flex-wrap gap-2">
    {#each known as tool (tool.key)}{@render choice(tool.key, tool.name, has(tool.key))}{/each}
  </div>
  {#each missing.filter((tool) => tool.instead.length) as tool (tool.key)}
    <fieldset class="mt-3">
      <legend>In place of: <b>{tool.name}</b></legend>
      <ul class="mt-1 grid gap-3">
        {#each tool.instead as one (one.key)}
          <li class="flex flex-wrap items-center gap-x-2">
            {@render choice(one.key, one.name, owned?.includes(one.key) ?? false)}
            {#if one.mind}<span class="soft">{one.mind}</span>{/if}
          </li>
        {/each}
      </ul>
    </fieldset>
  {/each}
  {#if missing.length}
    <p class="soft mt-2 text-sm">
      Sheets and checks name what you have. What you have nothing for is named before you begin.
    </p>
  {/if}
</details>
