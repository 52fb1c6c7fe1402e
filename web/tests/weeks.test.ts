/** Where weeks and months begin on the line of a season, and what has room there. */
import { describe, expect, it } from 'vitest';

import { apart, firstMonday, monthStarts } from '../src/routes/season/weeks';

describe('the line of a season', () => {
  it('begins its weeks on Mondays', () => {
    expect(firstMonday('2026-11-23')).toBe('2026-11-23');
    expect(firstMonday('2026-11-24')).toBe('2026-11-30');
    expect(firstMonday('2026-11-29')).toBe('2026-11-30');
  });

  it('names today, and each first of a month before its end', () => {
    expect(monthStarts('2026-11-24', 38)).toEqual([
      { days: 0, date: '2026-11-24' },
      { days: 7, date: '2026-12-01' },
    ]);
    expect(monthStarts('2026-11-24', 39).at(-1)).toEqual({ days: 38, date: '2027-01-01' });
  });

  it('leaves out what stands too close to what was taken before it', () => {
    const at = (...all: number[]) => all.map((one) => ({ at: one }));
    expect(apart(at(50, 0, 10, 17, 18, 60, 80), 17)).toEqual(at(50, 0, 18, 80));
  });
});
