import { describe, expect, it } from 'vitest';

import type { Schemas } from '../src/lib/api/client';
import { answersOf, cardFrom } from '../src/lib/state/cards';

type Step = Schemas['StepOut'];
const ANSWERS: Partial<Record<Step['kind'], string[]>> = {
  look: ['clean', 'light', 'due', 'overdue'],
  test: ['pass', 'fail'],
  power: ['pass', 'fail', 'skip'],
};
function sheet(...told: [Step['kind'], string?, string?][]): Step[] {
  return told.map(
    ([kind, slot, counts], i) =>
      ({
        key: `${i}`,
        kind,
        slot: slot ?? null,
        machine_id: 'robot',
        counts: counts ?? '',
        answers: ANSWERS[kind] ?? ['done', 'skip'],
      }) as Step,
  );
}
/** All cards of a sheet, as the kinds of their steps. */
function cards(steps: Step[]): string[] {
  const made: string[] = [];
  for (let at = 0; at < steps.length;) {
    const card = cardFrom(steps, steps[at]!.key);
    made.push(card.map((step) => step.kind).join(' '));
    at += card.length;
  }
  return made;
}

describe('a sheet part by part', () => {
  it('asks what was found first, then has one card with all that the part takes', () => {
    const roller = sheet(
      ['gate'],
      ['open'],
      ['take_out', 'roller'],
      ['look', 'roller'],
      ['clean', 'roller'],
      ['fit', 'roller'],
      ['test', 'roller'],
      ['close'],
      ['power'],
    );
    expect(cards(roller)).toEqual(['gate', 'open take_out look', 'clean fit test close', 'power']);
  });

  it('begins anew with another part, another opening, another machine and every gate', () => {
    const two = sheet(
      ['clean', 'a'],
      ['look', 'b'],
      ['clean', 'b'],
      ['close'],
      ['open'],
      ['look', 'c'],
      ['gate'],
      ['gate'],
    );
    expect(cards(two)).toEqual(['clean', 'look', 'clean close', 'open look', 'gate', 'gate']);
    const [, far] = sheet(['clean', 'a'], ['close']);
    expect(cardFrom([...sheet(['clean', 'a']), { ...far!, machine_id: 'dock' }], '0')).toHaveLength(1);
  });

  it('stops where a number of screws or a place is asked for', () => {
    expect(cards(sheet(['open', 'brush', 'x.open'], ['look', 'brush']))).toEqual(['open', 'look']);
    expect(cards(sheet(['wash', 'filter'], ['rack', 'filter'], ['close']))).toEqual(['wash rack', 'close']);
  });

  it('never answers a gate along with anything else', () => {
    const mixed = sheet(
      ['clean', 'a'],
      ['gate'],
      ['open'],
      ['take_out', 'b'],
      ['gate'],
      ['look', 'b'],
      ['power'],
    );
    for (const { key } of mixed) {
      const card = cardFrom(mixed, key);
      if (card.some((step) => step.kind === 'gate')) expect(card).toHaveLength(1);
    }
  });

  it('says yes to every step before the one that was answered, and to no other', () => {
    const card = sheet(['clean', 'roller'], ['fit', 'roller'], ['test', 'roller'], ['close']);
    expect(answersOf(card, card[2]!, 'fail')).toEqual([
      { step: '0', value: 'done' },
      { step: '1', value: 'done' },
      { step: '2', value: 'fail' },
    ]);
    expect(answersOf(card, card[3]!, 'done').map((one) => one.value)).toEqual([
      'done',
      'done',
      'pass',
      'done',
    ]);
  });
});
