/** Numbers, days and times as the reader's locale writes them. */

const round0 = new Intl.NumberFormat(undefined, { maximumFractionDigits: 0 });
const round1 = new Intl.NumberFormat(undefined, { maximumFractionDigits: 1 });

/** A figure with one decimal below ten, none above. */
export function figure(value: number): string {
  return Math.abs(value) < 10 ? round1.format(value) : round0.format(value);
}

export function percent(share: number): string {
  return `${round0.format(share * 100)} %`;
}

export function plural(count: number, one: string, many = `${one}s`): string {
  return `${figure(count)} ${count === 1 ? one : many}`;
}

/** A local day `YYYY-MM-DD` as a date without a time. */
export function asDay(iso: string): Date {
  const [year = 1970, month = 1, day = 1] = iso.slice(0, 10).split('-').map(Number);
  return new Date(year, month - 1, day);
}

export function day(iso: string): string {
  return new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', month: 'short' }).format(
    asDay(iso),
  );
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

export function daysBetween(from: string, to: string): number {
  return Math.round((asDay(to).getTime() - asDay(from).getTime()) / 86_400_000);
}

/** "today", "tomorrow", "in about 9 days", "in about 7 weeks"; null when it never comes. */
export function when(due: string | null, today: string): string {
  if (due === null) return 'not while unused';
  const days = daysBetween(today, due);
  if (days <= 0) return 'today';
  if (days === 1) return 'tomorrow';
  if (days < 28) return `in about ${days} days`;
  if (days < 120) return `in about ${Math.round(days / 7)} weeks`;
  return `in about ${Math.round(days / 30.4)} months`;
}

/** "today", "yesterday", "12 days ago". */
export function ago(iso: string, today: string): string {
  const days = daysBetween(iso, today);
  if (days <= 0) return 'today';
  return days === 1 ? 'yesterday' : `${days} days ago`;
}

/** Hours and minutes until an instant: "19 h 40 min". */
export function span(from: string, to: string): string {
  const minutes = Math.max(0, Math.round((Date.parse(to) - Date.parse(from)) / 60_000));
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${minutes % 60 ? `${minutes % 60} min` : ''}`.trim();
}
