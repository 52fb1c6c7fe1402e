/** Why something comes next, what a record says, and where a case stands: in words. */
import type { Schemas } from '../api/client';
import { figure, percent } from './format';

type Check = Schemas['NextOut'];

/** One sentence of why a check comes next. */
export function whyNext(check: Check): string {
  const minutes = `${figure(check.minutes)} min`;
  switch (check.why) {
    case 'proof':
      return `It settles the likeliest at once: ${percent(check.proof)} that it proves a cause, in ${minutes}.`;
    case 'free':
      return 'It costs nothing but a thought, and moves the odds.';
    case 'halves':
      return `It divides what is left: about ${figure(check.bits)} bit in ${minutes}.`;
    case 'opened':
      return `What it needs is open already: ${minutes} more, ${percent(check.proof)} that it proves a cause.`;
    case 'again':
      return 'It was looked at before, and something may have been missed.';
    default:
      return `Cheap for what it tells: ${minutes}, ${percent(check.proof)} that it proves ${
        check.of ? `“${lower(check.of)}”` : 'a cause'
      }.`;
  }
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
    case 'washes':
      return `washed ${figure(value)} times`;
    case 'serviced':
      return value < 1
        ? 'somebody worked on the machine in the last days'
        : 'in somebody’s hands in the last days';
    case 'age':
      return `${percent(value)} of its life is used`;
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

export const STAND: Record<string, string> = {
  notice: 'nothing told yet',
  ask: 'being looked for',
  cure: 'found: put it right',
  try: 'not seen: try the likeliest',
  retest: 'put right: try it',
  cured: 'solved',
  hand_over: 'for a repairer',
  not_found: 'not found',
  left: 'left open',
};

export function lower(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}
