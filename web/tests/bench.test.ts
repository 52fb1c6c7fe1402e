/** What is tapped while the answer before it is still being kept on the device: nothing of it is lost. */
import { describe, expect, it, vi } from 'vitest';

import type { Listener } from '../src/lib/state/outbox.svelte';

let kept: () => void = () => {};
const add = vi.fn((all: object[]) => new Promise<void>((done) => ((kept = done), void all)));
let listener: Listener;
vi.mock('../src/lib/state/outbox.svelte', () => ({
  outbox: { waiting: [], listen: (_: string, told: Listener) => ((listener = told), () => {}), add },
}));
vi.mock('../src/lib/state/house.svelte', () => ({ house: { forget: () => {} } }));
vi.mock('../src/lib/state/notice.svelte', () => ({ notice: {} }));
vi.mock('../src/lib/state/session.svelte', () => ({ session: { member: null } }));
vi.mock('../src/lib/state/store', () => ({ store: {} }));
const ask = vi.fn();
vi.mock('../src/lib/api/client', () => ({ ask, client: { GET: () => {} } }));

const { BenchState } = await import('../src/lib/state/bench.svelte');

const step = {
  key: 'one',
  answer: 'done',
  answers: ['done'],
  needs: [],
  halted_by: [],
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
const sent = () => add.mock.calls.flatMap(([all]) => all as { kind: string; value?: string }[]);

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

describe('a sheet that is loaded anew', () => {
  it('does not take the place of one that came with an answer meanwhile', async () => {
    const bench = opened();
    let loaded: (answer: object) => void = () => {};
    ask.mockReturnValueOnce(new Promise((done) => (loaded = done)));
    const refreshed = bench.refresh();
    listener.onsheet({ ...sheet, late: 3 } as never);
    loaded({ ok: true, data: { ...sheet, late: 0 } });
    await refreshed;
    expect(bench.sheet!.late).toBe(3);
  });
});

describe('a step back', () => {
  const steps = ['one', 'two', 'three'].map((key) => ({ ...step, key, answer: null }));
  /** Each answer is shown at once, as the outbox does. */
  function follows(bench: InstanceType<typeof BenchState>) {
    add.mockImplementation((all: object[]) => {
      for (const { step: key, value } of all as { step: string; value: string }[]) {
        const now = bench.sheet!;
        const answered = value === 'back' ? now.answered.slice(0, -1) : [...now.answered, key];
        const current = steps.map((one) => one.key).find((one) => !answered.includes(one)) ?? null;
        bench.load = { status: 'ok', data: { ...now, answered, current } as never };
      }
      return Promise.resolve();
    });
  }
  function fresh(id: string) {
    const bench = new BenchState(id);
    bench.load = { status: 'ok', data: { steps, answered: [], current: 'one', taken: [] } as never };
    follows(bench);
    return bench;
  }
  const all = steps.map(({ key }) => ({ step: key, value: 'done' }));

  it('takes back all that one tap said, also after the page was loaded again', async () => {
    await fresh('t').answerAll(all);
    const again = new BenchState('t');
    again.load = {
      status: 'ok',
      data: { steps, answered: ['one', 'two', 'three'], current: null, taken: [] } as never,
    };
    follows(again);
    await again.back();
    expect(again.sheet?.answered).toEqual([]);
  });

  it('and a tap keep all that they say in one go: nothing of it is shown or kept by itself', async () => {
    const bench = fresh('w');
    add.mockClear();
    await bench.answerAll(all);
    await bench.back();
    expect(add.mock.calls.map(([all]) => all.length)).toEqual([3, 3]);
  });

  it('takes back a tap that also said where a part hangs', async () => {
    const bench = fresh('v');
    const hanging = { place: 'Cupboard', pressed: false, moving: false };
    await bench.answerAll([...all.slice(0, 1), { step: 'two', value: 'done', hanging }]);
    expect(sent().at(-1)).toMatchObject({ step: 'two', hanging });
    await bench.back();
    expect(bench.sheet?.answered).toEqual([]);
  });

  it('takes back one answer where another device went on meanwhile', async () => {
    const bench = fresh('u');
    await bench.answerAll(all.slice(0, 2));
    bench.load = { status: 'ok', data: { ...bench.sheet!, answered: ['one', 'two', 'three'] } as never };
    await bench.back();
    expect(bench.sheet?.answered).toEqual(['one', 'two']);
    await bench.back();
    expect(bench.sheet?.answered).toEqual([]);
  });
});
