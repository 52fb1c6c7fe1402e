/** Codes and figures into sentences. */
import { describe, expect, it, vi } from 'vitest';

import type { Schemas } from '../src/lib/api/client';
import { boardOrder, usedColumns, type Chamber } from '../src/lib/airpath/layout';
import { ENTRY } from '../src/lib/words/entries';
import { ago, daysBetween, daysWords, figure, listed, percent, plural, when } from '../src/lib/words/format';
import { moved } from '../src/lib/words/moved';
import { reason } from '../src/lib/words/why';

const TODAY = '2026-11-24';
const on = (p10: string, p50: string, p90: string, certain = false) => ({ p10, p50, p90, certain });

describe('figures', () => {
  it('have one decimal below ten and none above', () => {
    expect([0, 0.04, 4.26, 9.96, 12.4, 1200].map(figure)).toEqual(['0', '0', '4.3', '10', '12', '1,200']);
  });
  it('go with their words', () => {
    expect([plural(1, 'day'), plural(0, 'day'), plural(2, 'box', 'boxes')]).toEqual([
      '1 day',
      '0 days',
      '2 boxes',
    ]);
    expect(plural(1.04, 'run')).toBe('1 run');
    expect(listed(['a', 'b', 'c'])).toBe('a, b and c');
    expect(percent(0.123)).toBe('12 %');
  });
});

describe('a date to come', () => {
  it.each([
    [null, 'not while unused'],
    [on(TODAY, TODAY, TODAY), 'today'],
    [on(TODAY, '2026-11-26', '2026-11-29'), 'now or within 5 days'],
    [on(TODAY, '2027-01-26', '2028-02-14'), 'in about 9 weeks (now to 64 weeks)'],
    [on(TODAY, TODAY, '2027-01-05'), 'about now, at the latest in 6 weeks'],
    [on('2026-11-25', '2026-11-25', '2026-11-25', true), 'tomorrow'],
    [on('2026-11-30', '2026-12-03', '2026-12-08'), 'in about 9 days (6–14)'],
    [on('2026-12-22', '2026-12-22', '2026-12-22', true), 'in 4 weeks'],
    [on('2025-01-01', '2025-01-01', '2025-01-01', true), 'today'],
  ])('%j is told as %s', (due, words) => {
    expect(when(due, TODAY)).toBe(words);
  });
  it('has an interval in days or months', () => {
    expect([daysWords(7, 7), daysWords(14, 30), daysWords(91, 182), daysWords(365, 365)]).toEqual([
      '7 days',
      '14 to 30 days',
      '3 to 6 months',
      '12 months',
    ]);
  });
  it('counts days over a change of the clock', () => {
    expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2);
    expect(ago('2026-11-23', TODAY)).toBe('yesterday');
  });
});

describe('what a look moved', () => {
  const state = (share: number, due: ReturnType<typeof on> | null, level = 'wearing') =>
    ({ action: 'wash', about: 'wash', share, due, level, clocks: [{ meter: 'runs' }] }) as Parameters<
      typeof moved
    >[0];
  const near = on('2026-11-30', '2026-12-03', '2026-12-08');
  it('is told before and after', () => {
    expect(moved(state(0.5, near), state(1.2, near), TODAY)).toBe(
      'Wash: was in about 9 days (6–14), is now.',
    );
    expect(moved(state(0.5, near), state(0.5, near), TODAY)).toBe('Wash: stays at in about 9 days (6–14).');
    expect(moved(state(0.5, null, 'unknown'), state(1.2, near), TODAY)).toContain('not known before');
    expect(moved(state(0.5, near), null, TODAY)).toBe('');
  });
});

describe('the board', () => {
  it('has each dock under its robot, and a dock without one by itself', () => {
    const machine = (id: string, serves: string | null = null) => ({ id, serves });
    const order = boardOrder([machine('a'), machine('d', 'r'), machine('r'), machine('x', 'gone')]);
    expect(order.map((one) => one.id)).toEqual(['a', 'r', 'd', 'x']);
  });
  it('shows the columns that some machine has, in the order of the air', () => {
    const chambers = (...columns: string[]) => ({
      chambers: columns.map((column) => ({ column }) as Chamber),
    });
    expect(usedColumns([chambers('exhaust', 'bin'), chambers('floor', 'off_path')])).toEqual([
      'floor',
      'bin',
      'exhaust',
    ]);
  });
});

describe('a reason in one sentence', () => {
  const trigger: Schemas['TriggerFact'] = {
    code: 'trigger', meter: 'runs', calendar: null, low: 10, high: 10, figure: 10, by_load: 10, cap: 10, longest: true,
    index: null, after: null, learned: true, clock: 'runs', used: 4, limit: 10,
  }; // prettier-ignore
  const book: Schemas['BookFact'] = { code: 'book', figure_kind: 'practice', reason: 'So.', moved_by: null };
  const origin: Schemas['SinceNewFact'] = { code: 'since_new', day: '2026-09-22' };
  it('says who set the limit: the book, or the household', () => {
    expect(reason({ because: [trigger, origin, book] })).toMatch(
      /^4 runs since it was new .*; the book says every 10 runs\.$/,
    );
    const own: Schemas['OwnFigureFact'] = { code: 'own_figure', why: 'as the manual has it' };
    expect(reason({ because: [trigger, origin, book, own] })).toContain('; you set every 10 runs.');
  });
});

describe('records', () => {
  it('each have words that are no code', () => {
    for (const [kind, words] of Object.entries(ENTRY)) {
      expect(words.length).toBeGreaterThan(2);
      expect(words).not.toContain('_');
      expect(kind).toMatch(/^[a-z]+$/);
    }
  });
});

vi.setSystemTime(new Date(`${TODAY}T12:00:00Z`));
