/** Why something comes next, what a record says, and where a case stands: in words. */
import type { Schemas } from '../api/client';
import { clockTime, figure, minutesWords, percent, plural } from './format';

type Check = Schemas['NextOut'];

/** One sentence of why a check comes next. */
export function whyNext(check: Check): string {
  const minutes = minutesWords(check.minutes);
  switch (check.why) {
    case 'proof':
      return `It settles the likeliest at once: ${percent(check.proof)} that it proves a cause, in ${minutes}.`;
    case 'free':
      return 'It costs nothing but a thought, and moves the odds.';
    case 'halves':
      return `It divides what is left: about ${figure(check.bits)} bit in ${minutes}.`;
    case 'opened':
      return `What it needs is open already: ${minutes} more, ${percent(check.proof)} that it proves a cause.`;
    case 'safe':
      return 'What you notice may mean danger: this is seen before anything is run, charged or tried.';
    case 'before':
      return `It costs ${minutes}, and may spare a new part or the way to a repairer.`;
    case 'behind':
      return 'It is gone for now, but something brought it on and will again: this may be it.';
    case 'again':
      return 'It was looked at before, and something may have been missed.';
    default:
      return `Cheap for what it tells: ${minutes}, ${percent(check.proof)} that it proves ${
        check.of ? `“${lower(check.of)}”` : 'a cause'
      }.`;
  }
}

/** How long a machine still rests. */
export function restingWords(rest: Schemas['RestsOut'], zone: string | undefined): string {
  return rest.left_min
    ? `It rests until ${clockTime(rest.until, zone)}, ${minutesWords(Math.ceil(rest.left_min))} more.`
    : `It has rested since ${clockTime(rest.since, zone)}: long enough.`;
}

/** What a record says of a suspect. */
export function recordWords(one: Schemas['InfluenceOut']): string {
  const value = typeof one.value === 'number' ? one.value : 0;
  switch (one.record) {
    case 'clock':
      return value ? `${percent(value)} of its interval is used` : 'done in the last days';
    case 'as_found':
      return `found ${String(one.value)} last time`;
    case 'refitted_early':
      return 'fitted again before it was dry';
    case 'dried_slowly':
      return `dried lately where it takes ${figure(value)} times as long as usual`;
    case 'washes':
      return `washed ${figure(value)} times`;
    case 'serviced':
      return value < 1 ? 'worked on today' : `worked on ${plural(Math.round(value), 'day')} ago`;
    case 'age':
      return `${percent(value)} of its life is used`;
    case 'again':
      return `put right ${plural(value, 'time')} for the same lately, and it came back`;
    case 'cases':
      return `was the cause ${figure(value)} time${value === 1 ? '' : 's'} before`;
    default:
      return one.record;
  }
}

/** How far a record moves the odds: twice as likely, a quarter as likely. */
export function times(bits: number): string {
  const factor = 2 ** Math.abs(bits);
  return bits >= 0 ? `${figure(factor)} times as likely` : `${figure(factor)} times less likely`;
}

/** What a try after a cure is, by when it tells anything. */
export const TRY: Record<Schemas['Counts'], { head: string; then: string }> = {
  at_once: { head: 'All dry and closed: run it. Is it gone?', then: '' },
  hour: {
    head: 'All dry and closed: use it for an hour.',
    then: 'It shows only when it is hot: what it does in the first minutes tells nothing. The case waits here.',
  },
  charge: {
    head: 'Charge it full, then run it as usual. Is it gone?',
    then: 'Only a whole charge tells. The case waits here.',
  },
  days: {
    head: 'Use it as usual for two days. Is it gone?',
    then: 'It comes slowly, so the first run tells nothing. The case waits here.',
  },
  cleared: {
    head: 'It is put right, and not run yet.',
    then: 'Something noted here forbids it: after a burnt smell or sparks somebody qualified looks first, and Round has it recorded; what took up water stands open until it is dry all through. Only then is it tried. The case waits here.',
  },
};

export const STAND: Record<string, string> = {
  notice: 'nothing noted yet',
  ask: 'being looked for',
  cure: 'found: put it right',
  try: 'not seen: try the likeliest',
  retest: 'put right: try it',
  cured: 'solved',
  meant: 'nothing is broken',
  hand_over: 'for a repairer',
  not_found: 'not found',
  left: 'left open',
};

export function lower(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}
