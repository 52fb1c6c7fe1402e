/** Where weeks and months begin on the line of a season, and what has room there. */
import { asDay, daysAfter } from '../../lib/words/format';

/** The first Monday after a day, or that day. */
export function firstMonday(today: string): string {
  return daysAfter(today, (8 - asDay(today).getDay()) % 7);
}

/** Today, and each first of a month that comes in so many days: how many days from today, and which day. */
export function monthStarts(today: string, days: number): { days: number; date: string }[] {
  const all = Array.from({ length: days }, (_, n) => ({ days: n, date: daysAfter(today, n) }));
  return all.filter(({ days, date }) => days === 0 || date.endsWith('-01'));
}

/** Those that lie further than `gap` from each that was taken before them. */
export function apart<T extends { at: number }>(all: readonly T[], gap: number): T[] {
  const kept: T[] = [];
  for (const one of all) if (kept.every((other) => Math.abs(other.at - one.at) > gap)) kept.push(one);
  return kept;
}
