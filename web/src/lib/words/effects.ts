/** What an answer changes, in words: "Main brush of Attic robot: de-hair every 14 days becomes 8, and 5 more". */
import type { Schemas } from '../api/client';
import { figure, plural } from './format';
import { amount, doWord, SCHOOL } from './tasks';

type Effect = Schemas['EffectOut'];

function interval(effect: Effect, value: number): string {
  return effect.meter === 'days'
    ? plural(Math.max(1, Math.round(value)), 'day')
    : amount(effect.meter, value);
}

function one(effect: Effect): string {
  const before = interval(effect, effect.before);
  const after = figure(effect.meter === 'days' ? Math.max(1, Math.round(effect.after)) : effect.after);
  return `${effect.part} of ${effect.machine}: ${doWord(effect.action)} every ${before} becomes ${after}`;
}

export function effectWords(found: Schemas['AnswerEffectOut']): string {
  const [largest] = found.largest;
  if (!largest) return '';
  const more = found.count - 1;
  return `${one(largest)}${more > 0 ? `, and ${more} more` : ''}.`;
}

export function nothingChanges(school: Schemas['School']): string {
  return school === 'label'
    ? `No date of yours: ${SCHOOL.label?.toLowerCase()} the shortest printed figure holds whatever the home is like.`
    : 'No date of the machines you have.';
}
