<!-- The visits as a list that opens in place: for a narrow screen. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  import type { Season, Visit } from '../../lib/state/season.svelte';
  import Row from '../../lib/ui/Row.svelte';
  import { day, listed, minutesWords } from '../../lib/words/format';

  let {
    season,
    open,
    onchoose,
    one,
  }: {
    season: Season;
    /** The day of the visit that is open. */
    open: string;
    /** Another visit was opened; none where it was the open one. */
    onchoose: (date: string | null) => void;
    one: Snippet<[Visit]>;
  } = $props();

  const names = (visit: Visit) => listed([...new Set(visit.jobs.map((job) => job.machine_name))]);
</script>

<section aria-label="Visits">
  {#each season.visits as visit (visit.date)}
    <Row
      open={open === visit.date}
      ontoggle={() => onchoose(open === visit.date ? 'none' : visit.date)}
      end={minutesWords(visit.minutes)}
    >
      {#snippet line()}<b>{visit.date === season.today ? 'Today' : day(visit.date)}</b>
        <span class="soft">{names(visit)}</span>{/snippet}
      {@render one(visit)}
    </Row>
  {/each}
</section>
