/** The shelf in words. */
import type { Schemas } from '../api/client';
import { day, daysBetween, figure, plural, when } from './format';

type Kind = Schemas['SparePartOut'];

export const SUPPLY: Record<Schemas['Supply'], string> = {
  waits: 'Something waits for it',
  now: 'Order now',
  turns: 'One more would spare a wait',
  soon: 'Order soon',
  enough: 'Enough',
  unforeseen: 'Nobody can foresee it',
};

/** How urgent it is, as the colours of states. */
export const TONE: Record<Schemas['Supply'], string> = {
  waits: 'overdue',
  now: 'due',
  turns: 'drying',
  soon: 'wearing',
  enough: 'fresh',
  unforeseen: 'unknown',
};

/** Whether a part of a number was found to fit. */
export const CHECK: Record<Schemas['FitCheck'], string> = {
  unchecked: 'not tried yet',
  fits: 'fits',
  differs: 'fits, but is different',
  no: 'does not fit',
};

/** Why some came in or went out. */
export const MOVED: Record<string, string> = {
  came: 'came with an order',
  bought: 'came from elsewhere',
  fitted: 'went into a machine',
  turn: 'takes turns now',
  counted: 'counted anew',
  gone: 'gone',
};

export function money(cents: number, currency: string): string {
  return `${(cents / 100).toFixed(2)}\u00a0${currency}`;
}

/** What is only estimated, in whole units; below three of them to the tenth. */
export function estimate(cents: number, currency: string): string {
  const units = cents / 100;
  return `${figure(Math.abs(units) < 3 ? units : Math.round(units))}\u00a0${currency}`;
}

/** "today", "by Sat, Dec 2, in 7 days". */
export function orderBy(iso: string, today: string): string {
  const days = daysBetween(today, iso);
  if (days <= 0) return 'today';
  return days < 60 ? `by ${day(iso)}, in ${plural(days, 'day')}` : `by ${day(iso)}`;
}

/** "1 to 3", "2". */
export function spread(of: Schemas['SpreadOut']): string {
  return of.p10 === of.p90 ? `${of.p50}` : `about ${of.p50} (${of.p10}–${of.p90})`;
}

/** What stands first under a kind of part: why it wants ordering, or until when it lasts. */
export function because(kind: Kind, today: string): string {
  const next = kind.places.find((one) => one.p50)
    ? when(
        kind.places
          .filter((one) => one.p50 !== null)
          .map((one) => ({
            p10: one.p10 ?? '',
            p50: one.p50 ?? '',
            p90: one.p90 ?? '',
            certain: one.certain,
          }))
          .sort((a, b) => a.p50.localeCompare(b.p50))[0] ?? null,
        today,
      )
    : '';
  if (!kind.places.length) return 'Its machine is not in use: nothing needs it.';
  switch (kind.supply) {
    case 'waits':
      return 'A new one is due, and there is none.';
    case 'turns':
      return 'The machine stands still while it dries. With one more, they take turns.';
    case 'unforeseen':
      return 'Neither use nor a date tells when it goes: buy it when you find it worn.';
    case 'enough':
      return kind.short
        ? `One would be lacking ${when(kind.short, today)}.`
        : `Lasts beyond what is planned for.`;
    default:
      return next ? `A new one is due ${next}; it takes ${plural(kind.lead_days, 'day')} to come.` : '';
  }
}

/** The arithmetic of a kind of part, a sentence for each step. */
export function arithmetic(why: Schemas['SupplyFigures']): string[] {
  const parts = [
    ...(why.turns_missing ? [`${why.turns_missing} should take turns while others dry`] : []),
    ...(why.least ? [`${why.least} you never want to go below`] : []),
  ];
  const kept = parts.length ? [`Of these, ${parts.join(', and ')}: ${why.free} to use up.`] : [];
  return [
    `About ${why.needed_a_year} a year are needed; ${figure(why.early * 100)} in 100 break, are lost or wear out long before their time.`,
    `${why.on_hand} on the shelf${why.on_order ? `, ${why.on_order} on the way` : ''}.`,
    ...kept,
    `While an order comes (${why.lead_days} days), ${spread(why.while_it_comes)} are needed.`,
    firstShort(why),
  ];
}

function firstShort({ nth, nth_by, nth_share }: Schemas['SupplyFigures']): string {
  if (!nth_by) return 'None would be lacking in the time that is looked ahead.';
  const which = nth === 1 ? 'The next one' : `Number ${nth} from now`;
  return `${which} is needed before ${day(nth_by)} in only ${Math.round(nth_share * 100)} of 100 futures; less the days it takes to come, that is when to order.`;
}
