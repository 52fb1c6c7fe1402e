/** What is tapped while the answer before it is still being kept on the device: nothing of it is lost. */
import { describe, expect, it, vi } from 'vitest';

let kept: () => void = () => {};
const add = vi.fn((what: object) => new Promise<void>((done) => ((kept = done), void what)));
vi.mock('../src/lib/state/outbox.svelte', () => ({
  outbox: { waiting: [], listen: () => () => {}, add },
}));
vi.mock('../src/lib/state/house.svelte', () => ({ house: { forget: () => {} } }));
vi.mock('../src/lib/state/notice.svelte', () => ({ notice: {} }));
vi.mock('../src/lib/state/session.svelte', () => ({ session: { member: null } }));
vi.mock('../src/lib/state/store', () => ({ store: {} }));
vi.mock('../src/lib/api/client', () => ({ ask: vi.fn(), client: {} }));

const { BenchState } = await import('../src/lib/state/bench.svelte');

const step = {
  key: 'one',
  answer: 'done',
  answers: ['done'],
  needs: [],
  only_if: null,
  whole: [],
  missing: [],
};
const sheet = { steps: [step], answered: ['one'], current: 'one', taken: [] };

function opened() {
  add.mockClear();
  const bench = new BenchState('s');
  bench.load = { status: 'ok', data: sheet as never };
  return bench;
}
const sent = () => add.mock.calls.map(([what]) => what as { kind: string; value?: string });

describe('right after an answer', () => {
  it('a second tap is the same one', async () => {
    const bench = opened();
    void bench.answer('one', 'done');
    void bench.answer('one', 'done');
    kept();
    await Promise.resolve();
    expect(sent().length).toBe(1);
  });

  it('a step back and the end of the sitting wait for it', async () => {
    for (const then of ['back', 'finish'] as const) {
      const bench = opened();
      const answer = bench.answer('one', 'done');
      const next = bench[then]();
      kept();
      await answer;
      await vi.waitFor(() => expect(sent().length).toBe(2));
      kept();
      await next;
      expect(sent()[1]?.value ?? sent()[1]?.kind).toBe(then);
    }
  });
});
