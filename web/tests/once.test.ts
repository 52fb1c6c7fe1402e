/** Writes go out under an id that stays the same over every try. */
import { beforeEach, describe, expect, it, vi } from 'vitest';

const kept = new Map<string, string>();
vi.stubGlobal('sessionStorage', {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
  removeItem: (key: string) => kept.delete(key),
});
vi.stubGlobal('addEventListener', () => {});

const { forget, once, onLooking, RecordedBefore, Unsure } = await import('../src/lib/api/once');

const write = (body: object, path = 'runs') =>
  new Request(`http://house/api/machines/1/${path}`, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'Content-Type': 'application/json' },
  });
const told = { looking: vi.fn(), recorded: vi.fn(), notRecorded: vi.fn(), replayed: vi.fn() };

describe('a write', () => {
  let keys: string[];
  let server: (request: Request) => Response | null;

  beforeEach(() => {
    vi.useFakeTimers();
    forget();
    keys = [];
    for (const one of Object.values(told)) one.mockClear();
    onLooking(told);
    vi.stubGlobal('fetch', async (asked: Request | string) => {
      const request = typeof asked === 'string' ? new Request(`http://house${asked}`) : asked;
      if (request.method !== 'GET') keys.push(request.headers.get('Idempotency-Key') ?? '');
      const answer = server(request);
      if (!answer) throw new TypeError('no answer');
      return answer;
    });
  });

  async function send(request: Request): Promise<Response | Error> {
    const sent = once(request).catch((error: Error) => error);
    await vi.advanceTimersByTimeAsync(9000);
    return sent;
  }

  it('is tried again under one id until it is answered, and says that it looks', async () => {
    server = () => (keys.length < 3 ? null : new Response('{}'));
    expect(((await send(write({ id: 'a', minutes: 5 }))) as Response).ok).toBe(true);
    expect(new Set(keys).size).toBe(1);
    expect(told.looking).toHaveBeenCalledTimes(2);
  });

  it('has the same id when it is tapped again, whatever id stands in it, and another once it was answered', async () => {
    server = () => null;
    expect(await send(write({ id: 'a', minutes: 5 }))).toBeInstanceOf(Unsure);
    server = () => new Response('{}');
    await send(write({ id: 'b', minutes: 5 }));
    const first = new Set(keys);
    expect(first.size).toBe(1);
    await send(write({ id: 'c', minutes: 5 }));
    expect(new Set(keys).size).toBe(2);
  });

  it('waits where the one before it turns out to be recorded', async () => {
    server = () => null;
    await send(write({ minutes: 5 }));
    server = (request) =>
      new Response(request.url.includes('/api/sent/') ? '{"recorded": true, "entry_id": "e"}' : '{}');
    expect(await send(write({ minutes: 6 }))).toBeInstanceOf(RecordedBefore);
    expect(told.recorded).toHaveBeenCalledWith('e');
    expect(((await send(write({ minutes: 6 }))) as Response).ok).toBe(true);
  });

  it('tells when the answer is the first one', async () => {
    server = () => new Response('{}', { headers: { 'Idempotency-Replayed': 'true' } });
    await send(write({ minutes: 5 }));
    expect(told.replayed).toHaveBeenCalledOnce();
  });

  it('that only reckons goes out as it is', async () => {
    server = () => new Response('{}');
    await send(write({ fills: {} }, 'air'));
    expect(keys).toEqual(['']);
  });
});
