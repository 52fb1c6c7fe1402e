<!-- All visits, one under the other, for the wall beside the sink. -->
<script lang="ts">
  import type { Season, Visit } from '../../lib/state/season.svelte';
  import { grouped, taskKey } from '../../lib/words/groups';
  import { minutesWords } from '../../lib/words/format';
  import { wholeDay } from '../../lib/words/season';
  import { doWord } from '../../lib/words/tasks';

  let { season }: { season: Season } = $props();

  const byMachine = (visit: Visit) => grouped(visit.jobs, (job) => job.machine_id);
</script>

<div class="hidden print:block">
  <h2>All visits</h2>
  <ol>
    {#each season.visits as visit (visit.date)}
      <li class="break-inside-avoid border-t py-1">
        <p><b>{wholeDay(visit.date)}</b>, {minutesWords(visit.minutes)}</p>
        {#each byMachine(visit) as jobs (jobs[0]?.machine_id)}
          <p>
            {jobs[0]?.machine_name}:
            {#each jobs as job, n (taskKey(job))}{n ? '; ' : ''}{job.slot_name}, {doWord(job.action)}{/each}
          </p>
        {/each}
      </li>
    {/each}
  </ol>
</div>
