<!-- The answers as they were: each version with its day, and what differed from the one before. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client';
  import { day, percent } from '../../lib/words/format';
  import { SCHOOL } from '../../lib/words/tasks';

  let { versions }: { versions: Schemas['VersionOut'][] } = $props();

  const loads = (one: Schemas['VersionOut']) =>
    `hair ${percent(one.load.hair)}, fine dust ${percent(one.load.dust)}, volume ${percent(one.load.volume)}`;
</script>

<section aria-label="Versions">
  <h2 class="mb-1 font-bold">As it was answered</h2>
  {#if versions.length === 0}
    <p class="soft">
      Nobody has answered yet: every range is taken at its middle, by the label. Keep your answers, and your
      own home counts.
    </p>
  {:else}
    <ol class="panel">
      {#each versions as one, i (i)}
        <li>
          <b>{i === 0 ? 'Now' : 'Before'}, since {day(one.day)}</b>
          <span class="soft">{SCHOOL[one.school]}; load: {loads(one)}{one.by ? `; ${one.by}` : ''}</span>
        </li>
      {/each}
    </ol>
  {/if}
</section>

<style>
  li {
    display: grid;
    padding: 0.5rem 1rem;
    border-top: 1px solid var(--color-base-300);
  }
  li:first-child {
    border-top: none;
  }
</style>
