/** Where a sheet stands, by vectors that the core's own tests write. */
import { describe, expect, it } from 'vitest';

import type { Schemas } from '../src/lib/api/client';
import { after, ahead, type Given } from '../src/lib/state/follow';
import vectors from './follow.json';

type Sheet = Schemas['SheetOut'];

function sheetOf(steps: (typeof vectors)[number]['steps']): Sheet {
  const blank = { answer: null, reason: '' };
  return { steps: steps.map((step) => ({ ...step, ...blank })), answered: [], taken: [] } as unknown as Sheet;
}
const given = (step: string, value: string, n: number): Given => ({ id: String(n), step, value, reason: '' });

describe('a sheet after its answers', () => {
  vectors.forEach((visit, number) => {
    it(`stands where the core has it, visit ${number + 1}`, () => {
      const sheet = sheetOf(visit.steps);
      const all = visit.stands.map(({ step, value }, n) => given(step, value, n));
      visit.stands.forEach((stand, n) => {
        const now = after(sheet, all.slice(0, n + 1));
        expect(now.current, `${stand.step}: ${stand.value}`).toBe(stand.current);
        expect(ahead(now).map((step) => step.key)).toEqual(stand.ahead);
      });
    });
  });

  it('takes the last answer back, and counts none that the server has', () => {
    const [visit] = vectors;
    const sheet = sheetOf(visit!.steps);
    const first = given(visit!.stands[0]!.step, visit!.stands[0]!.value, 0);
    const back = given('', 'back', 1);
    expect(after(sheet, [first, back]).current).toBe(first.step);
    expect(after({ ...sheet, taken: ['0'] }, [first])).toEqual({ ...sheet, taken: ['0'] });
  });
});
