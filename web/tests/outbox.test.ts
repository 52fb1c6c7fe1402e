/** What was answered without a connection: kept, sent in order, once, and only by whoever gave it. */
import { beforeEach, describe, expect, it, vi } from 'vitest';

import { BOUNDS } from '../src/lib/api/gen/bounds';
import type { Waiting } from '../src/lib/state/store';

const kept: Waiting[] = [];
vi.mock('../src/lib/state/store', () => ({
  stamp: () => '2026-11-24T09:00:00.000Z',
  store: {
    add: async (all: Waiting[]) => {
      const numbered = all.map((entry, at) => ({ ...entry, number: kept.length + 1 + at }));
      kept.push(...numbered);
      return numbered;
    },
    all: async () => [...kept],
    remove: async ({ number }: Waiting) => {
      const at = kept.findIndex((one) => one.number === number);
      if (at >= 0) kept.splice(at, 1);
    },
  },
}));
const post = vi.fn();
vi.mock('../src/lib/api/client', () => ({
  ask: async (request: Promise<unknown>) => request,
  client: { POST: (path: string, { body }: { body: object }) => post(path, body) },
}));

const { Outbox, TOGETHER } = await import('../src/lib/state/outbox.svelte');

const refused = (status: number) => ({ ok: false, problem: { status, detail: 'no' } });
const taken = { ok: true, data: { steps: [] } };
const answer = (step: string) => ({ sheet: 's', kind: 'answer' as const, step, value: 'done' });
/** What each request said: the steps it answers, or that the sitting ends. */
const posts = () =>
  post.mock.calls.map(([, { answers }]) => answers?.map(({ step }: Waiting) => step) ?? 'end');

describe('the outbox', () => {
  it('sends as many together as the server takes', () => {
    expect(TOGETHER).toBe(BOUNDS.StepsAnsweredIn.answers.most);
  });

  beforeEach(() => {
    vi.useFakeTimers();
    kept.length = 0;
    post.mockReset();
  });

  it('sends in the order of the answers, together what waits, and keeps none that was taken', async () => {
    post.mockResolvedValue(taken);
    const outbox = new Outbox();
    await outbox.become('ash');
    await outbox.add([answer('one')]);
    await outbox.add([answer('two'), answer('three')]);
    await outbox.add([{ sheet: 's', kind: 'finish' }]);
    await vi.advanceTimersByTimeAsync(0);
    expect(posts()).toEqual([['one'], ['two', 'three'], 'end']);
    expect([outbox.waiting.length, kept.length]).toEqual([0, 0]);
  });

  it('sends one by one where one of several is refused, so that those before it count', async () => {
    const bad = ({ answers }: { answers: Waiting[] }) =>
      answers.some(({ step, late }) => step === 'bad' && !late);
    post.mockImplementation(async (_, body) => (bad(body) ? refused(422) : taken));
    const outbox = new Outbox();
    await outbox.become('ash');
    await outbox.add(['one', 'bad', 'three'].map(answer));
    await vi.advanceTimersByTimeAsync(0);
    expect(posts()).toEqual([['one', 'bad', 'three'], ['one'], ['bad'], ['bad', 'three']]);
    expect(post.mock.calls.at(-1)![1].answers.every(({ late }: Waiting) => late)).toBe(true);
    expect([outbox.waiting.length, kept.length]).toEqual([0, 0]);
  });

  it('waits where nothing answers, and sends the same id again', async () => {
    post.mockResolvedValueOnce(refused(0)).mockResolvedValue(taken);
    const outbox = new Outbox();
    await outbox.become('ash');
    await outbox.add([answer('one')]);
    await vi.advanceTimersByTimeAsync(0);
    expect([outbox.reached, outbox.waiting.length]).toEqual([false, 1]);
    await vi.advanceTimersByTimeAsync(5000);
    expect(new Set(post.mock.calls.map(([, { answers }]) => answers[0].id)).size).toBe(1);
    expect([outbox.reached, outbox.waiting.length]).toEqual([true, 0]);
  });

  it('never sends what another member gave', async () => {
    post.mockResolvedValue(refused(0));
    const first = new Outbox();
    await first.become('ash');
    await first.add([answer('one')]);
    await vi.advanceTimersByTimeAsync(0);
    post.mockReset();
    const other = new Outbox();
    await other.become('wren');
    expect([post.mock.calls.length, other.waiting.length, kept.length]).toEqual([0, 0, 1]);
  });

  it('keeps as notes what came too late, but no step back', async () => {
    post.mockResolvedValueOnce(refused(409)).mockResolvedValue(taken);
    const outbox = new Outbox();
    const told = { onsheet: vi.fn(), onend: vi.fn(), onrefused: vi.fn() };
    await outbox.become('ash');
    outbox.listen('s', told);
    await outbox.add([answer('one')]);
    await vi.advanceTimersByTimeAsync(0);
    expect(told.onrefused).toHaveBeenCalledOnce();
    expect(post.mock.calls.map(([, { answers }]) => answers[0].late)).toEqual([false, true]);
    expect(outbox.waiting.length).toBe(0);
  });
});
