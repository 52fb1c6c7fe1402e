/** Numbers, days and times as the reader's locale writes them. */

/** Made when first used: a formatter takes milliseconds, and none is needed before the first answers are there. */
export function lazily<T>(make: () => T): () => T {
  let made: T | undefined;
  return () => (made ??= make());
}
/** Languages that write figures as somebody may like them. */
const LIKE = { device: undefined, point: 'en-GB', comma: 'de', space: 'fr' };
const numbers = (like: string | undefined, maximumFractionDigits: number) =>
  lazily(() => new Intl.NumberFormat(like, { maximumFractionDigits }));
let round0 = numbers(undefined, 0);
let round1 = numbers(undefined, 1);
/** Write figures from now on as this person likes them; what stands on the screen is drawn anew by its page. */
export function writeNumbers(like: keyof typeof LIKE): void {
  [round0, round1] = [numbers(LIKE[like], 0), numbers(LIKE[like], 1)];
}
const nearDay = lazily(
  () => new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', month: 'short' }),
);
const farDay = lazily(
  () => new Intl.DateTimeFormat(undefined, { year: 'numeric', day: 'numeric', month: 'short' }),
);

/** Languages that write numbers with digits of their own. */
const OTHER_DIGITS = /^(ar|bn|ckb|dz|fa|ks|mr|my|ne|ps|sat|ur)\b/.test(navigator.language);

/**
 * A figure with one decimal below ten, none above. Small whole ones look the same in all other languages, so they are
 * written as they are: the first formatter of a page costs more than anything else before its first picture.
 */
export function figure(value: number): string {
  const tenths = Math.abs(value) < 10;
  const shown = tenths ? Math.round(value * 10) / 10 : Math.round(value);
  if (Number.isInteger(shown) && shown >= 0 && shown < 1000 && !OTHER_DIGITS) return String(shown);
  return (tenths ? round1 : round0)().format(value);
}

export function percent(share: number): string {
  return `${figure(Math.round(share * 100))} %`;
}

const list = lazily(() => new Intl.ListFormat('en-GB', { type: 'conjunction' }));

/** "1 run", "2 runs", by the figure as it is shown. */
export function plural(count: number, one: string, many = `${one}s`): string {
  const shown = Math.abs(count) < 10 ? Math.round(count * 10) / 10 : Math.round(count);
  return `${figure(count)} ${shown === 1 ? one : many}`;
}

/** "Hall upright, Attic robot and Stairs cordless". */
export const listed = (names: string[]): string => list().format(names);

/** A local day `YYYY-MM-DD` as a date without a time. */
export function asDay(iso: string): Date {
  const [year = 1970, month = 1, day = 1] = iso.slice(0, 10).split('-').map(Number);
  return new Date(year, month - 1, day);
}

/** "Thu 12 Nov"; with its year instead of the weekday where it is most of a year away. */
export function day(iso: string): string {
  const at = asDay(iso);
  const far = Math.abs(Date.now() - at.getTime()) > 300 * 86_400_000;
  return (far ? farDay() : nearDay()).format(at);
}

/** "Nov 12, 2026": a day on a record that is kept. */
export function fullDay(iso: string): string {
  return farDay().format(asDay(iso));
}

export function dayAndTime(iso: string, zone: string | undefined): string {
  return new Intl.DateTimeFormat(undefined, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  }).format(new Date(iso));
}

/** "11:05" where the household lives. */
export function clockTime(iso: string, zone: string | undefined): string {
  return new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit', timeZone: zone }).format(
    new Date(iso),
  );
}

/** The household's local day of an instant, as `YYYY-MM-DD`: how Swedish writes dates. */
export function localDay(iso: string, zone: string | undefined): string {
  return new Intl.DateTimeFormat('sv-SE', { timeZone: zone }).format(new Date(iso));
}

/** "Thu 26 Nov, 08:00": to the hour, for what is only estimated. */
export function dayAndHour(iso: string, zone: string | undefined): string {
  const hour = 3_600_000;
  return dayAndTime(new Date(Math.round(Date.parse(iso) / hour) * hour).toISOString(), zone);
}

export function daysBetween(from: string, to: string): number {
  return Math.round((asDay(to).getTime() - asDay(from).getTime()) / 86_400_000);
}

/** An expected day with the days before which 10 and 90 % of the futures have it. */
export interface Expected {
  p10: string;
  p50: string;
  p90: string;
  certain: boolean;
}

/** Up to so many days on, "now or within" them says all that is worth saying. */
const SOON = 14;

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Lengths of time told in days up to four weeks, in weeks up to four months, else in months. */
function unit(days: number): { of: number; name: string } {
  if (days < 28) return { of: 1, name: 'day' };
  return days < 120 ? { of: 7, name: 'week' } : { of: 30.4, name: 'month' };
}

/** "7 days", "3 to 6 months": an interval of so many days, from the least to the most. */
export function daysWords(low: number, high: number): string {
  const { of, name } = high < 60 ? { of: 1, name: 'day' } : { of: 30.4, name: 'month' };
  const [least, most] = [Math.round(low / of), Math.round(high / of)];
  return least === most ? plural(most, name) : `${least} to ${plural(most, name)}`;
}

/**
 * "in about 9 days (6-14)", "now or within 5 days", "in about 9 weeks (now to 60 weeks)", "in 4 weeks" for a plain
 * calendar date, "not while unused".
 */
export function when(due: Expected | null, today: string): string {
  if (due === null) return 'not while unused';
  const [early, middle, late] = [due.p10, due.p50, due.p90].map((one) =>
    Math.max(0, daysBetween(today, one)),
  );
  if (early === undefined || middle === undefined || late === undefined) return '';
  if (late === 0) return 'today';
  if (early === 0 && late <= SOON) return `now or within ${plural(late, 'day')}`;
  const { of, name } = unit(middle || late);
  const far = plural(Math.round(late / of), name);
  if (middle === 0) return `about now, at the latest in ${far}`;
  if (early === 0) return `in about ${plural(Math.max(1, Math.round(middle / of)), name)} (now to ${far})`;
  const [a, b, c] = [early, middle, late].map((days) => Math.round(days / of));
  if (middle === 1) return late === 1 ? 'tomorrow' : `tomorrow, or within ${plural(late, 'day')}`;
  if (a === c) return `in ${due.certain ? '' : 'about '}${plural(b ?? 0, name)}`;
  return `in about ${plural(b ?? 0, name)} (${a}–${c})`;
}

/** "today", "yesterday", "12 days ago". */
export function ago(iso: string, today: string): string {
  const days = daysBetween(iso, today);
  if (days <= 0) return 'today';
  return days === 1 ? 'yesterday' : `${days} days ago`;
}

/** Hours as people say them of days: "22 h", "4.5 days". */
export function hoursWords(hours: number): string {
  const whole = Math.round(hours);
  return whole < 48 ? `${whole}\u00a0h` : plural(Math.round(whole / 12) / 2, 'day');
}

/**
 * How long until an instant, as it is worth saying: "40 min", "14 h", "1 day", "5 days". Rather too long than too short,
 * for it is said of what must not be used before: never more than two hours less of a day, never less of an hour.
 */
export function span(from: string, to: string): string {
  const minutes = Math.max(0, Math.ceil((Date.parse(to) - Date.parse(from)) / 60_000));
  if (minutes < 90) return `${minutes} min`;
  const hours = Math.ceil(minutes / 60);
  if (hours < 22) return `${hours} h`;
  return plural(Math.ceil((hours - 2) / 24), 'day');
}

/** The local day so many days before another, as `YYYY-MM-DD`. */
export function daysBefore(iso: string, days: number): string {
  const at = asDay(iso);
  at.setDate(at.getDate() - days);
  return [
    at.getFullYear(),
    String(at.getMonth() + 1).padStart(2, '0'),
    String(at.getDate()).padStart(2, '0'),
  ].join('-');
}

/** The local day so many days after another. */
export const daysAfter = (iso: string, days: number): string => daysBefore(iso, -days);

const SQ_FT_M2 = 0.09290304;

/** Floor area in the person's unit, as a number to type. */
export function areaIn(m2: number, us: boolean): number {
  return Math.round(us ? m2 / SQ_FT_M2 : m2);
}

/** The same figure of a floor, had it been meant in the other unit. */
export function areaMeant(typed: number, us: boolean): number {
  return Math.round(us ? typed / SQ_FT_M2 : typed * SQ_FT_M2);
}

/** Air temperature in the person's unit, as a number to type. */
export function degreesIn(celsius: number, us: boolean): number {
  return Math.round((us ? celsius * 1.8 + 32 : celsius) * 10) / 10;
}

export function celsius(typed: number, us: boolean): number {
  return us ? (typed - 32) / 1.8 : typed;
}

/** "59 °F", "15 °C". */
export function degrees(value: number, us: boolean): string {
  return `${figure(degreesIn(value, us))}\u00a0°${us ? 'F' : 'C'}`;
}

/** Minutes as people say them, no finer than they are worth: "6 min", "1 h 20 min", "5 h". */
export function minutesWords(minutes: number): string {
  if (minutes < 90) return `${figure(Math.round(minutes) || minutes)} min`;
  if (minutes >= 300) return `${round0().format(minutes / 60)} h`;
  const fives = Math.round(minutes / 5) * 5;
  const [hours, rest] = [Math.floor(fives / 60), fives % 60];
  return rest ? `${hours} h ${rest} min` : `${hours} h`;
}

const WHY_OFF = { did_not_run: 'did not run', away: 'everybody away', paused: 'paused', back: 'back' };

/** "paused until Mon 5 Jan", "everybody away from Sat 3 Jan". */
export function restWords(rest: { why: keyof typeof WHY_OFF; first: string; last: string | null }): string {
  return `${WHY_OFF[rest.why]} ${rest.last ? `until ${day(rest.last)}` : `since ${day(rest.first)}`}`;
}

/** Names in one line: "Hall upright, Attic robot and Stairs cordless". */
export function together(named: { name: string }[]): string {
  return listed(named.map((one) => one.name));
}

/** The time zone that this device is in. */
export const here = (): string => new Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC';
