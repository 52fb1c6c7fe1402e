<!-- What a plan cannot do, what is done between visits, what to order, what was asked, what is handed over. -->
<script lang="ts">
  import { house } from '../../lib/state/house.svelte';
  import type { Season, SeasonState } from '../../lib/state/season.svelte';
  import { session } from '../../lib/state/session.svelte';
  import { grouped, taskKey } from '../../lib/words/groups';
  import { day, figure, plural } from '../../lib/words/format';
  import { asked, chore, often, tooLate, wayOut } from '../../lib/words/season';
  import Panel from '../../lib/ui/Panel.svelte';

  let { season, plan }: { season: Season; plan: SeasonState } = $props();

  /** More than this of a kind are one line. */
  const FEW = 3;
  const late = $derived(
    grouped(season.unmet, (one) => `${one.way} ${one.on ?? ''}`).map((all) => {
      const [first] = all;
      const needs = Math.ceil(all.reduce((sum, one) => sum + one.needs_min, 0));
      const another = first?.way === 'another_day' && first.on;
      return {
        key: `${first?.way ?? ''} ${first?.on ?? ''}`,
        all,
        says: 'come later than they should.',
        help: another
          ? `A visit on ${day(another)}, up to ${figure(needs)} min, would do.`
          : first
            ? wayOut(first)
            : '',
        day: another || null,
      };
    }),
  );
  const weekly = $derived(season.between.reduce((sum, one) => sum + one.week_min, 0));
  const DROPPED: Record<string, string> = {
    outside: 'that day is not within this half year',
    later: 'it was put on another day since',
  };
</script>

<div class="abreast">
  {#if season.unmet.length}
    <Panel title="Too late, and what would help">
      <ul>
        {#each late as group (group.key)}
          <li>
            {#if group.all.length > FEW}
              <p>
                <b>{plural(group.all.length, 'task')}</b>
                {group.says}
                <span class="soft">{group.help}</span>
              </p>
              {#if group.day && session.mayWrite}
                {@const day_ = group.day}
                <p class="no-print pt-1">
                  <button
                    class="btn btn-sm"
                    disabled={house.busy || plan.planning}
                    onclick={() => void plan.putOn(day_, group.all, `On ${day(day_)}.`)}
                    >Put them on {day(day_)}</button
                  >
                </p>
              {/if}
              <details class="pt-1">
                <summary class="soft cursor-pointer">Which</summary>
                {#each group.all as one (taskKey(one))}
                  <p><b>{one.machine_name}</b> {chore(one)}, {tooLate(one)}.</p>
                {/each}
              </details>
            {:else}
              {#each group.all as one (taskKey(one))}
                <p>
                  <b>{one.machine_name}</b>
                  {chore(one)}, {tooLate(one)}. <span class="soft">{wayOut(one)}</span>
                </p>
              {/each}
            {/if}
          </li>
        {/each}
      </ul>
    </Panel>
  {/if}
  {#if season.orders.length}
    <Panel title="To have ready">
      <ul>
        {#each season.orders as one (one.name)}
          <li>
            {one.count > 1 ? `${figure(one.count)} × ` : ''}<b>{one.name}</b>: order by {day(one.by)}
            <span class="soft">{one.count > 1 ? 'first ' : ''}for {day(one.for_day)}</span>
          </li>
        {/each}
      </ul>
      <p class="pt-2"><a class="link" href="#/shelf">To the shelf</a></p>
    </Panel>
  {/if}
  {#if season.between.length}
    <Panel title="Between visits">
      <p class="soft">
        Too often for a visit, or too little to get ready for: done when the machine is at hand, about
        {figure(Math.max(1, Math.round(weekly)))} min a week in all, with or without a plan.
      </p>
      <ul>
        {#each season.between as one (taskKey(one))}
          <li><b>{one.machine_name}</b> {chore(one)} <span class="soft">{often(one.a_week)}</span></li>
        {/each}
      </ul>
    </Panel>
  {/if}
  {#if season.asked.length || season.dropped.length}
    <Panel title="Asked of this season">
      <ul>
        {#each season.asked as one (one.entry_id)}
          <li class="flex flex-wrap items-center gap-2">
            <span class="grow"
              >{asked(one)}{one.note ? `: ${one.note}` : ''}
              <span class="soft">{one.by}</span></span
            >
            <button
              class="btn btn-sm"
              disabled={!session.mayWrite || house.busy || plan.planning}
              onclick={() => void plan.takeBack(one.entry_id)}>Take back</button
            >
          </li>
        {/each}
        {#each season.dropped as one (`${one.day} ${one.why}`)}
          <li>
            <b class="ink-due">Not kept:</b>
            {plural(one.chores, 'task')} on {day(one.day)}
            <span class="soft">{DROPPED[one.why] ?? one.why}</span>
          </li>
        {/each}
      </ul>
    </Panel>
  {/if}
  {#if season.handed_over.length}
    <Panel title="For somebody who does this work">
      <p class="soft">Behind openings that your household, or whoever has time, leaves to others.</p>
      <ul>
        {#each season.handed_over as one (taskKey(one))}
          <li><b>{one.machine_name}</b> {chore(one)}</li>
        {/each}
      </ul>
    </Panel>
  {/if}
</div>

<style>
  li {
    padding-block: 0.3rem;
  }
  li + li {
    border-top: 1px solid var(--color-base-300);
  }
</style>
