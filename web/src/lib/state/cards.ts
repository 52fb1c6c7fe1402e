/** A sheet part by part: the steps of one part as one card, so that one tap says that all of it is done. */
import type { Schemas } from '../api/client';

type Step = Schemas['StepOut'];

/** Where somebody has to say what they see or where it hangs: a card ends there. */
const ASKS: Step['kind'][] = ['look', 'rack', 'dry_check', 'retire'];
/** What a card's "done" says yes to; it can be said no to as well. */
const CONFIRMS: Step['kind'][] = ['test', 'power', 'counter'];
/** With these another part begins. */
const BEGINS: Step['kind'][] = [
  'take_out',
  'look',
  'clean',
  'clean_in_place',
  'wash',
  'dry_check',
  'fit',
  'hand_over',
];

export const asks = (step: Step): boolean =>
  step.kind === 'gate' || ASKS.includes(step.kind) || step.counts !== '';
export const confirms = (step: Step): boolean => CONFIRMS.includes(step.kind);

/**
 * The steps of the card that begins at `from`, of those `ahead`: up to and with the first that asks something, or all
 * that one part takes. A gate is a card of its own, and no card holds two tests.
 */
export function cardFrom(ahead: Step[], from: string | null): Step[] {
  const card: Step[] = [];
  for (const step of ahead.slice(
    Math.max(
      0,
      ahead.findIndex((one) => one.key === from),
    ),
  )) {
    if (card.length && begins(step, card)) break;
    card.push(step);
    if (asks(step)) break;
  }
  return card;
}

function begins(step: Step, card: Step[]): boolean {
  const part = card.find((one) => one.slot);
  return (
    step.kind === 'gate' ||
    step.machine_id !== card[0]?.machine_id ||
    (confirms(step) && card.some(confirms)) ||
    (step.kind === 'open' && card.some((one) => one.kind !== 'open')) ||
    (BEGINS.includes(step.kind) && part !== undefined && part.slot !== step.slot)
  );
}

/** What a tap answers: every step of the card before `last`, each with its yes, then `last` with `value`. */
export function answersOf(card: Step[], last: Step, value: string): { step: string; value: string }[] {
  const before = card.slice(0, card.indexOf(last));
  return [
    ...before.map((step) => ({ step: step.key, value: step.answers[0] ?? 'done' })),
    { step: last.key, value },
  ];
}
