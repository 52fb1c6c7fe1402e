/** Every write goes out under an id that stays the same over every try, so that it happens once: docs/why. Where no
 *  answer comes it may have been recorded all the same; then this looks, and says what it found. */
import { v4 as uuid } from 'uuid';

const KEY = 'Idempotency-Key';
const REPLAYED = 'Idempotency-Replayed';
/** What records nothing or comes before anybody has signed in, and what the outbox sends: that tries again by itself,
 *  and its ids stand in what it sends. */
const AS_IT_IS =
  /\/api\/(session|first|invited|invited\/accept|document\/look|runs\/look|plan|kinds\/upkeep|household\/preview|machines\/[^/]+\/(air|worth\/repair)|sheets\/[^/]+\/(answers|finish))$/;
/** How long to wait before each further try [ms]. */
const TRIES = [400, 1000, 2000, 4000];
/** How often to look again for what was left unsure [ms]. */
const AGAIN = 5000;
const KEPT = 'yperon.unsure';

/** A write without an answer: its id, and the request as it was first sent. */
interface Held {
  id: string;
  request: Request;
}

/** What is told while nobody knows whether a write was recorded. */
export interface Looking {
  /** It looks now. */
  looking(): void;
  /** What was left unsure was recorded after all; `entry_id` undoes it. */
  recorded(entry_id: string | null): void;
  /** What was left unsure was not recorded. */
  notRecorded(): void;
  /** The answer was the first one's: more may have happened since. */
  replayed(): void;
}

/** A write that had no answer in the end. */
export class Unsure extends Error {}

/** A write that was not sent, since the one before it turned out to be recorded: it may be the same, told anew. */
export class RecordedBefore extends Error {}

const held = new Map<string, Held>();
let listener: Looking | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;

/** Who is told. */
export function onLooking(listen: Looking): void {
  listener = listen;
  if (unsure().length) void settle();
}

/** As `fetch`; a write carries its id, and is tried again under it where no answer comes. */
export async function once(request: Request): Promise<Response> {
  if (request.method === 'GET' || AS_IT_IS.test(request.url)) return fetch(request);
  const name = await nameOf(request);
  if (!held.has(name) && unsure().length && (await settle())) throw new RecordedBefore();
  const mine = held.get(name) ?? { id: uuid(), request: request.clone() };
  const response = await trying(mine, request.headers.get('X-CSRFToken') ?? '');
  if (response === null) {
    held.set(name, mine);
    keep([...unsure().filter((id) => id !== mine.id), mine.id]);
    again();
    throw new Unsure();
  }
  held.delete(name);
  keep(unsure().filter((id) => id !== mine.id));
  if (response.headers.has(REPLAYED)) listener?.replayed();
  return response;
}

/** Send a write until it is answered; null when it is not in the end. */
async function trying(mine: Held, token: string): Promise<Response | null> {
  for (const wait of [0, ...TRIES]) {
    if (wait) await new Promise((done) => setTimeout(done, wait));
    const request = mine.request.clone();
    request.headers.set(KEY, mine.id);
    request.headers.set('X-CSRFToken', token);
    try {
      return await fetch(request);
    } catch {
      listener?.looking();
    }
  }
  return null;
}

/** What is asked, whatever id stands in it: the same tap again has the same name. */
async function nameOf(request: Request): Promise<string> {
  return `${request.method} ${request.url} ${await contentOf(request.clone())}`;
}

async function contentOf(request: Request): Promise<string> {
  const type = request.headers.get('Content-Type') ?? '';
  if (type.startsWith('multipart/form-data')) {
    const fields = [...(await request.formData()).entries()];
    return fields
      .map(([name, v]) => `${name}=${typeof v === 'string' ? v : `${v.name} ${v.size}`}`)
      .join('&');
  }
  const text = await request.text();
  if (!type.startsWith('application/json') || !text.startsWith('{')) return text;
  return JSON.stringify({ ...(JSON.parse(text) as object), id: undefined });
}

/** Ask about what was left unsure, and tell; whether some of it was recorded. What is not answered stays unsure. */
export async function settle(): Promise<boolean> {
  let some = false;
  for (const id of unsure()) {
    const answer = await fetch(`/api/sent/${id}`).catch(() => null);
    if (!answer?.ok) {
      again();
      return some;
    }
    const found = (await answer.json()) as { recorded: boolean; entry_id: string | null };
    keep(unsure().filter((one) => one !== id));
    if (!found.recorded) listener?.notRecorded();
    else {
      some = true;
      for (const [name, mine] of held) if (mine.id === id) held.delete(name);
      listener?.recorded(found.entry_id);
    }
  }
  return some;
}

function again(): void {
  clearTimeout(timer);
  timer = setTimeout(() => void settle(), AGAIN);
}

/** The ids of what was left unsure, over reloads of the page. */
function unsure(): string[] {
  return JSON.parse(sessionStorage.getItem(KEPT) ?? '[]') as string[];
}

function keep(ids: string[]): void {
  if (ids.length) sessionStorage.setItem(KEPT, JSON.stringify(ids));
  else sessionStorage.removeItem(KEPT);
}

/** Forget it all: somebody else uses this device from now on. */
export function forget(): void {
  held.clear();
  sessionStorage.removeItem(KEPT);
}

addEventListener('online', () => void settle());
