/** Bags and bins in words. */
import type { Schemas } from '../api/client';
import { capital, figure, plural, when } from './format';
import { CHECK } from './shelf';
import { doWord } from './tasks';

type Holder = Schemas['DustOut'];

export const UNITS: Record<string, string> = {
  L: 'litres',
  qt: 'US quarts',
  gal: 'US gallons',
  cup: 'US cups',
};

/** How full it is, as buttons of a look. */
export const FULL: Record<Schemas['Found'], string> = {
  clean: 'nearly empty',
  light: 'half full',
  due: 'full',
  overdue: 'overfull',
};

/** "about 0.35 L a week (0.29–0.42)"; without a size, in contents. */
export function rate(holder: Holder): string {
  const [middle, low, high] = [holder.per_week ?? 0, holder.per_week_low ?? 0, holder.per_week_high ?? 0];
  if (holder.size) {
    return `about ${middle.toFixed(2)} ${holder.size.unit} a week (${low.toFixed(2)}–${high.toFixed(2)})`;
  }
  return middle >= 1
    ? `${figure(middle)} times a week`
    : `once in about ${plural(Math.round(7 / middle), 'day')}`;
}

/** What the rate rests on. */
export function restsOn(holder: Holder): string {
  if (holder.fillings) return `from ${plural(holder.fillings, 'filling')} of its own`;
  return holder.size?.known_weeks
    ? 'borrowed from another container, a start to be corrected'
    : 'from the book, a start to be corrected';
}

/** "A new one in about 9 days (6–14).": the date of its task, as Round has it. */
export function emptied(holder: Holder, today: string): string {
  if (!holder.due) return 'Not full for years.';
  return `${capital(doWord(holder.action))} ${when(holder.due, today)}.`;
}

/** The arithmetic: what goes in, how long that takes at this rate, how long ago it was emptied. */
export function why(holder: Holder): string[] {
  const weeks = plural(holder.weeks ?? 0, 'week');
  return [
    holder.size
      ? `${holder.size.volume} ${holder.size.unit}, of which nine tenths fill, take ${weeks} at that rate.`
      : `It takes ${weeks} to fill.`,
    `${plural(holder.weeks_since ?? 0, 'week')} of usual use and dirt have passed since it was emptied.`,
    'Usual weeks: hours run, against a usual week; a time of more dirt counts for more.',
    'The day is that of its task, by your school of upkeep: it may come before it is full.',
  ];
}

type Filled = Schemas['FilledOut'];

/** How full it was when it was emptied. */
export function took(filled: Filled): string {
  return filled.found ? `found ${FULL[filled.found]}` : 'nobody said how full';
}

/** ", filled 1.3 times as slowly as expected"; nothing where it was near, or where nobody said how full it was. */
export function outcome(filled: Filled): string {
  const off = filled.off_by;
  if (off === null || (off > 0.85 && off < 1.18)) return '';
  return off > 1
    ? `: ${figure(off)} times as long as expected`
    : `: filled ${figure(1 / off)} times as fast as expected`;
}

/** Whose bag it is and whether it fits. */
export function fit(price: Schemas['BagPriceOut']): string {
  const whose = price.maker ? 'the maker’s' : 'another maker’s';
  const note = price.note ? `: ${price.note}` : '';
  const seal = price.check === 'unchecked' ? ', look that it seals' : '';
  return `${whose}, ${CHECK[price.check]}${note}${seal}`;
}
