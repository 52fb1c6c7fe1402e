<!-- A case on paper, for a repairer: what was noticed, looked at, ruled out, and what is likely. -->
<script lang="ts">
  import { untrack } from 'svelte';

  import { session } from '../lib/state/session.svelte';
  import { TraceState } from '../lib/state/trace.svelte';
  import Trouble from '../lib/ui/Trouble.svelte';
  import Waiting from '../lib/ui/Waiting.svelte';
  import { dayAndTime, percent } from '../lib/words/format';
  import { lower, STAND } from '../lib/words/trace';

  let { params }: { params: { id: string } } = $props();
  const trace = new TraceState(untrack(() => params.id));
  void trace.refresh();
  const found = $derived(trace.case);
  const looked = $derived(found?.trail.filter((step) => step.kind === 'answered') ?? []);
  const done = $derived(
    found?.trail.filter((step) => step.kind === 'cured' || step.kind === 'retested') ?? [],
  );
</script>

<svelte:head><title>Case · Yperon</title></svelte:head>

{#if trace.load.status === 'pending'}
  <Waiting what="Opening the case" />
{:else if trace.load.status === 'error'}
  <div class="mx-auto max-w-xl p-6">
    <Trouble problem={trace.load.problem} retry={() => void trace.refresh()} />
  </div>
{:else if found}
  <article>
    <p class="no-print flex gap-2">
      <button class="btn btn-primary" onclick={() => print()}>Print</button>
      <a class="btn btn-ghost" href={`#/trace/case/${found.id}`}>Back to the case</a>
    </p>
    <h1>{found.machine}{found.dock ? ` with ${found.dock}` : ''}</h1>
    <p>{found.kind}. Opened {dayAndTime(found.opened_at, session.member?.time_zone)}.</p>
    <h2>Noticed</h2>
    <ul>
      {#each found.symptoms as one (one.key)}<li>{one.name}. {one.feel}</li>{/each}
    </ul>
    <h2>Looked at</h2>
    {#if looked.length}
      <ol>
        {#each looked as step, i (i)}
          <li>{step.name} <b>{step.says === 'cant_tell' ? 'could not be told' : step.says}</b></li>
        {/each}
      </ol>
    {:else}<p>Nothing yet.</p>{/if}
    {#if done.length}
      <h2>Done</h2>
      <ol>
        {#each done as step, i (i)}
          <li>
            {step.kind === 'cured' ? step.name : step.says === 'gone' ? 'Tried: gone' : 'Tried: still there'}
          </li>
        {/each}
      </ol>
    {/if}
    {#if found.ruled_out.length}
      <h2>Ruled out</h2>
      <p>{found.ruled_out.map((one, i) => (i ? lower(one) : one)).join('; ')}.</p>
    {/if}
    {#if found.danger}
      <h2>Out of use: {found.danger.name}</h2>
      <p><b>{found.danger.now}</b> {found.danger.who}</p>
    {/if}
    <h2>Likely, not certain</h2>
    <ul>
      {#each found.suspects.slice(0, 5) as one (one.key)}<li>{one.name}: {percent(one.p)}</li>{/each}
    </ul>
    <p>Where it stands: {STAND[found.stand] ?? found.stand}.</p>
  </article>
{/if}

<style>
  article {
    display: grid;
    gap: 0.6rem;
    max-width: 48rem;
    margin-inline: auto;
    padding: 1.25rem;
  }
  ul,
  ol {
    padding-left: 1.3em;
    list-style: disc;
  }
  ol {
    list-style: decimal;
  }
</style>
