<!-- Half a year as one calm line of weeks: each machine a line, each visit a joint across those that it serves. -->
<script lang="ts">
  import { cut, scale } from '../../lib/airpath/layout';
  import type { Schemas } from '../../lib/api/client';
  import { asDay, day, daysAfter, daysBetween, figure, lazily, plural } from '../../lib/words/format';
  import { wholeDay } from '../../lib/words/season';
  import { apart, firstMonday, monthStarts } from './weeks';

  let {
    season,
    chosen,
    busy,
    onchoose,
    onmove,
  }: {
    season: Schemas['SeasonOut'];
    /** The day of the visit that is looked at. */
    chosen: string;
    busy: boolean;
    onchoose: (date: string) => void;
    /** The chosen visit goes to another day. */
    onmove: (to: string) => void;
  } = $props();

  let width = $state(1200);
  /** How large the reader's letters are: what stands beside them takes as much room. */
  const large = scale();
  const NAMES = 148 * large;
  const TOP = 34 * large;
  const month = lazily(() => new Intl.DateTimeFormat('en-GB', { month: 'short' }));

  const shown = $derived(
    season.machines.filter((one) =>
      season.visits.some((visit) => visit.jobs.some((job) => job.machine_id === one.id)),
    ),
  );
  const rowHeight = $derived(
    (shown.length > 14 ? 15 : shown.length > 8 ? 22 : shown.length > 5 ? 32 : 40) * large,
  );
  const row = $derived(new Map(shown.map((one, n) => [one.id, TOP + n * rowHeight + rowHeight / 2])));
  const bottom = $derived(TOP + shown.length * rowHeight);
  const step = $derived((width - NAMES - 36) / season.days);
  const x = (days: number) => NAMES + 14 + days * step;
  const xOf = (date: string) => x(daysBetween(season.today, date));
  const weeks = $derived(
    Array.from({ length: Math.ceil(season.days / 7) }, (_, n) => daysAfter(firstMonday(season.today), 7 * n)),
  );
  const months = $derived(
    monthStarts(season.today, season.days)
      .map(({ days, date }) => ({ at: x(days), text: month().format(asDay(date)) }))
      .filter((one, n, all) => n === all.length - 1 || (all[n + 1]?.at ?? 0) - one.at > 34 * large),
  );

  interface Drawn {
    visit: Schemas['VisitOut'];
    at: number;
    ys: number[];
    text: string;
  }
  const drawn = $derived(
    season.visits.map((visit): Drawn => {
      const ids = new Set(visit.jobs.map((job) => job.machine_id));
      const ys = [...ids].map((id) => row.get(id) ?? 0).sort((a, b) => a - b);
      return { visit, at: xOf(visit.date), ys, text: figure(Math.round(visit.minutes)) };
    }),
  );
  /** Minutes under visits that stand too close to others are left out: the visit itself tells them. */
  const dated = $derived.by(() => {
    const first = drawn.filter((one) => one.visit.date === chosen);
    return new Set(apart([...first, ...drawn], 17 * large).map((one) => one.visit.date));
  });
  /** Where a machine stands still while a part dries. */
  const drying = $derived(
    season.visits.flatMap((visit) =>
      visit.jobs
        .filter((job) => job.skips && job.dry_at)
        .map((job) => ({
          key: `${visit.date} ${job.machine_id} ${job.slot}`,
          from: xOf(visit.date),
          to: x(daysBetween(season.today, visit.date) + daysOf(visit.date, job.dry_at ?? visit.date)),
          y: row.get(job.machine_id) ?? 0,
        })),
    ),
  );
  const daysOf = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 86_400_000;
  const orders = $derived(season.orders.map((one) => ({ ...one, at: xOf(one.by) })));

  /** Where the chosen visit would go: while it is dragged, or moved by keys until Enter. */
  let ghost = $state<string | null>(null);
  let dragging = false;
  function dayAt(clientX: number, svg: Element): string {
    const n = Math.round((clientX - svg.getBoundingClientRect().left - x(0)) / step);
    return daysAfter(season.today, Math.max(0, Math.min(season.days - 1, n)));
  }
  function grab(event: PointerEvent, date: string) {
    onchoose(date);
    if (busy || event.button !== 0) return;
    dragging = true;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }
  function drag(event: PointerEvent) {
    const svg = (event.currentTarget as SVGElement).ownerSVGElement;
    if (!dragging || !svg) return;
    const to = dayAt(event.clientX, svg);
    ghost = to === chosen ? null : to;
  }
  function drop() {
    dragging = false;
    if (ghost && !busy) onmove(ghost);
    ghost = null;
  }
  function byKey(event: KeyboardEvent) {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by && event.shiftKey && !busy) {
      const to = daysAfter(ghost ?? chosen, by);
      if (to >= season.today && daysBetween(season.today, to) < season.days)
        ghost = to === chosen ? null : to;
    } else if (by) {
      ghost = null;
      const n = season.visits.findIndex((one) => one.date === chosen);
      const next = season.visits[n + by];
      if (next) {
        onchoose(next.date);
        (event.currentTarget as Element).parentElement
          ?.querySelector<SVGElement>(`[data-date="${next.date}"]`)
          ?.focus();
      }
    } else if (event.key === 'Enter' && ghost) drop();
    else if (event.key === 'Escape' && ghost) ghost = null;
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  const ghostWords = $derived.by(() => {
    if (!ghost) return '';
    const there = season.visits.find((one) => one.date === ghost);
    return there ? `together with ${day(ghost)}` : day(ghost);
  });
</script>

<div bind:clientWidth={width}>
  <svg
    class="block overflow-visible select-none"
    {width}
    height={bottom + 30 * large}
    role="group"
    aria-label="Visits of the coming half year"
  >
    {#each weeks as week (week)}
      <line class="week" x1={xOf(week)} x2={xOf(week)} y1={TOP - 6} y2={bottom} />
    {/each}
    {#each months as one (one.at)}
      <text class="soft small" x={one.at} y={14 * large}>{one.text}</text>
    {/each}
    {#each shown as machine (machine.id)}
      {@const y = row.get(machine.id) ?? 0}
      <text class="name" x="0" y={y + 5}>{cut(machine.name, 14 * large, NAMES)}</text>
      <path
        class="stroke-(--duct) fill-none"
        d={`M ${NAMES + 6} ${y} H ${width - 16}`}
        style:stroke-width={rowHeight < 20 * large ? 6 : 10}
      />
      <path class="fill-(--duct)" d={`M ${width - 17} ${y - 8} l 12 8 l -12 8 z`} />
    {/each}
    {#each drying as one (one.key)}
      <line class="dries" x1={one.from} x2={Math.max(one.to, one.from + 8)} y1={one.y} y2={one.y} />
    {/each}
    {#each orders as one (one.name)}
      <path class="fill-(--due)" d={`M ${one.at} ${bottom + 1} l 5 -8 h -10 z`}
        ><title>Order {one.name} by {day(one.by)}</title></path
      >
    {/each}
    {#each drawn as one (one.visit.date)}
      {@const here = one.visit.date === chosen}
      <g
        class={['visit', here && 'here']}
        role="button"
        tabindex={here ? 0 : -1}
        data-date={one.visit.date}
        aria-pressed={here}
        aria-label={`${wholeDay(one.visit.date)}, ${plural(Math.round(one.visit.minutes), 'minute')}, ${plural(one.ys.length, 'machine')}`}
        onpointerdown={(event) => grab(event, one.visit.date)}
        onpointermove={drag}
        onpointerup={drop}
        onpointercancel={() => {
          dragging = false;
          ghost = null;
        }}
        onkeydown={byKey}
        onblur={() => dragging || (ghost = null)}
      >
        <rect class="target" x={one.at - 9} y={TOP - 8} width="18" height={bottom - TOP + 32 * large} />
        <line class="joint" x1={one.at} x2={one.at} y1={one.ys[0]} y2={one.ys.at(-1)} />
        {#each one.ys as y (y)}<circle
            cx={one.at}
            cy={y}
            r={rowHeight < 20 * large ? 4.5 : here ? 7 : 6}
          />{/each}
        {#if dated.has(one.visit.date)}
          <text class={['minutes', one.visit.over_min > 0.5 && 'over']} x={one.at} y={bottom + 18 * large}
            >{one.text}</text
          >
        {/if}
      </g>
    {/each}
    {#if ghost}
      <g class="ghost" aria-hidden="true">
        <line x1={xOf(ghost)} x2={xOf(ghost)} y1={TOP - 8} y2={bottom} />
        <text
          x={Math.min(Math.max(xOf(ghost), NAMES + 60), width - 70)}
          y={TOP - 12 * large}
          text-anchor="middle">{ghostWords}</text
        >
      </g>
    {/if}
    <text class="soft small" x="0" y={bottom + 18 * large}>minutes a visit</text>
  </svg>
  <p class="sr-only" role="status">{ghost ? `To ${wholeDay(ghost)}: Enter puts it there.` : ''}</p>
</div>

<style>
  text {
    fill: var(--color-base-content);
    font-size: 0.875rem;
  }
  .small {
    fill: var(--soft);
    font-size: 0.8rem;
  }
  .name {
    font-weight: 700;
  }
  .week {
    stroke: var(--color-base-300);
    stroke-width: 1;
  }
  .visit {
    cursor: grab;
    outline: none;
    touch-action: none;
  }
  .target {
    fill: transparent;
  }
  .joint {
    stroke: var(--fresh);
    stroke-width: 2.5;
  }
  circle {
    fill: var(--chamber);
    stroke: var(--fresh);
    stroke-width: 2.5;
  }
  .visit:hover .target {
    fill: color-mix(in oklab, var(--color-base-content) 7%, transparent);
  }
  .here .joint {
    stroke: var(--color-base-content);
    stroke-width: 4;
  }
  .here circle {
    fill: var(--color-base-content);
    stroke: var(--color-base-content);
  }
  .here .minutes {
    font-weight: 800;
    fill: var(--color-base-content);
  }
  .visit:focus-visible .target {
    stroke: var(--color-secondary);
    stroke-width: 2;
    rx: 6px;
  }
  .minutes {
    text-anchor: middle;
    font-size: 0.8rem;
    fill: var(--soft);
  }
  .over {
    fill: var(--due);
    font-weight: 700;
  }
  .dries {
    stroke: var(--drying);
    stroke-width: 4;
    stroke-dasharray: 3 2.5;
  }
  .ghost line {
    stroke: var(--color-secondary);
    stroke-width: 2;
    stroke-dasharray: 5 4;
  }
  .ghost text {
    fill: var(--color-secondary);
    font-weight: 700;
  }
</style>
