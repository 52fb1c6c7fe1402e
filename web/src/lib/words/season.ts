/** A season in words: its sentence, why a chore is early, what cannot be met and what would help. */
import type { Schemas } from '../api/client';
import { asDay, day, dayAndHour, daysBetween, figure, lazily, listed, minutesWords, plural } from './format';
import { doWord } from './tasks';

type Season = Schemas['SeasonOut'];
type Job = Schemas['JobOut'];
type Unmet = Schemas['UnmetOut'];

const WEEKDAY: Record<string, string> = {
  MO: 'Mondays',
  TU: 'Tuesdays',
  WE: 'Wednesdays',
  TH: 'Thursdays',
  FR: 'Fridays',
  SA: 'Saturdays',
  SU: 'Sundays',
};
const month = lazily(() => new Intl.DateTimeFormat('en-GB', { month: 'long' }));
const longDay = lazily(
  () => new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long' }),
);

/** "Saturday 5 December". */
export const wholeDay = (iso: string): string => longDay().format(asDay(iso)).replace(',', '');

/** "29 visits until May, about 18 h." */
export function head(season: Season): string {
  const last = season.visits.at(-1);
  if (!last) return 'No visits.';
  const takes = minutesWords(season.score.minutes);
  return `${plural(season.visits.length, 'visit')} until ${month().format(asDay(last.date))}, about ${takes}.`;
}

/** "Thursdays and Saturdays, up to 35 min." */
export function liked(habits: Season['habits']): string {
  const said = habits.hands.map((one) => {
    const days =
      one.weekdays.length === 7 ? 'Any day' : listed(one.weekdays.map((key) => WEEKDAY[key] ?? key));
    const who = habits.hands.length > 1 ? ` (${one.who})` : '';
    return `${days}${who}, up to ${figure(one.minutes)} min`;
  });
  return `${said.join('; ')}.`;
}

/** What keeps machines waiting, in a sentence; nothing where nothing does. */
export function waits(season: Season): string {
  const runs = season.score.missed_runs;
  if (!runs) return 'No machine waits for a filter.';
  return `Machines miss ${plural(runs, 'run')} while parts dry.`;
}

/** Why a chore is on this day, where that says something: how early or late, what goes on besides. */
export function aside(job: Job, zone: string | undefined): string {
  const said: string[] = [];
  if (job.pinned) said.push('put here by you');
  if (job.early_days >= 2 && job.share < 0.97) {
    said.push(
      `${plural(job.early_days, 'day')} early${job.with_opening ? `: the ${job.with_opening} is off` : ''}`,
    );
  } else if (job.early_days <= -2) said.push(`${plural(-job.early_days, 'day')} after its date`);
  if (job.dry_at && (job.skips || job.turns)) {
    said.push(job.turns ? 'its other set goes in' : `dries until ${dayAndHour(job.dry_at, zone)}`);
  }
  if (job.skips) said.push(`misses ${plural(job.skips, 'run')}`);
  return said.join(', ');
}

/** "Filter: wash". */
export const chore = (one: Schemas['ChoreOut']): string => `${one.slot_name}: ${doWord(one.action)}`;

const WAITS: Record<Schemas['Waits'], string> = {
  order: 'No part for it is there: one ordered today comes',
  rack: 'Its part dries until',
  put_off: 'It was put off until',
};

/** What cannot be met, and the least bad way out. */
export function wayOut(one: Unmet): string {
  const on = one.on ? day(one.on) : '';
  switch (one.way) {
    case 'wait':
      return `${WAITS[one.waits ?? 'order']} ${on}.`;
    case 'more_minutes':
      return `${figure(Math.ceil(one.needs_min))} min more on ${on} would do.`;
    case 'more_skill':
      return `Somebody who goes that far into a machine would have to be there by ${on}.`;
    case 'another_day':
      return one.on
        ? `A visit on ${on}, ${figure(Math.ceil(one.needs_min))} min, would do.`
        : 'There is no day before that: allow a visit in those weeks.';
  }
}

/** "from Sat 28 Nov, done Tue 1 Dec": since when it waits too long, and until when. */
export function tooLate(one: Unmet): string {
  const days = one.done_on ? daysBetween(one.since, one.done_on) : null;
  if (days === null) return `waits too long from ${day(one.since)} on, and no visit has it`;
  return `${plural(days, 'day')} too late: done ${day(one.done_on ?? one.since)}`;
}

/** "about 4 times a week", "about once in 2 weeks". */
export function often(a_week: number): string {
  if (a_week >= 0.75) return a_week < 1.5 ? 'about once a week' : `about ${Math.round(a_week)} times a week`;
  return `about once in ${figure(Math.round(1 / a_week))} weeks`;
}

/** A wish as a line: "no visit Mon 7 Dec to Sun 13 Dec". */
export function asked(one: Schemas['WishOut']): string {
  const days = one.first === one.last ? `on ${day(one.first)}` : `${day(one.first)} to ${day(one.last)}`;
  const count = plural(one.chores.length, 'task');
  if (one.what === 'no_visit') return `No visit ${days}`;
  return one.what === 'on' ? `${count} ${days}` : `${count} not ${days}`;
}
