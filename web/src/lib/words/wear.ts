/** Wear in words. */
import type { Schemas } from '../api/client';
import { figure, plural, when } from './format';

type Gauge = Schemas['GaugeOut'];

export const WHERE: Record<Schemas['State'], string> = {
  unknown: 'nobody knows where',
  fitted: 'in the machine',
  off: 'taken out',
  dry_cleaned: 'cleaned, not back in',
  washed: 'washed, wet',
  drying: 'drying',
  ready: 'ready, takes turns',
  retired: 'thrown away',
};

const INCH_MM = 25.4;

/** A figure in its scale: "4 mm", "0.16 in" in US units, "3", "yes", "24 min". */
export function measured(value: number, scale: Schemas['Scale'], us: boolean): string {
  if (scale === 'yes_no') return value ? 'yes' : 'no';
  if (scale === 'mm' && us) return `${(value / INCH_MM).toFixed(2)}\u00a0in`;
  return scale === 'count' ? figure(value) : `${figure(value)}\u00a0${scale}`;
}

/** What the line says: "4 mm of 10 mm: there in about 5 months (4–8)". */
export function outlook(gauge: Gauge, today: string, us: boolean): string {
  const last = gauge.points.at(-1);
  if (!last) return 'Not measured yet.';
  const now = measured(last.value, gauge.scale, us);
  const end = gauge.limit === null ? '' : measured(gauge.limit, gauge.scale, us);
  switch (gauge.course) {
    case 'worn':
      return gauge.scale === 'yes_no'
        ? `${now}: replace it.`
        : `${now}: the end, ${end}, is reached. Replace it.`;
    case 'wears':
      return `${now} of ${end}: ${gauge.reaches ? `there ${when(gauge.reaches, today)}` : 'not while it rests'}.`;
    case 'too_few':
      return `${now}. One more reading, after more use, tells how fast.`;
    default:
      return gauge.scale === 'yes_no' ? `${now}.` : `${now}: no change that tells.`;
  }
}

/** The arithmetic behind a line: readings, slope, scatter, what is left. */
export function lineWhy(gauge: Gauge, us: boolean): string[] {
  const v = gauge.because;
  if (!v || gauge.scale === 'yes_no') return [];
  const { now, limit, per_100_h: slope } = v;
  const from = gauge.new === null ? 'the first reading' : `new, ${measured(gauge.new, gauge.scale, us)}`;
  return [
    `${plural(v.readings, 'reading')} and ${from}, against ${figure(v.used_h)} h in use.`,
    `The line moves ${measured(Math.abs(slope), gauge.scale, us)} in 100 h; readings lie ${measured(v.sd, gauge.scale, us)} about it.`,
    `From ${measured(now, gauge.scale, us)} to ${measured(limit, gauge.scale, us)} at the hours it usually runs.`,
  ];
}
