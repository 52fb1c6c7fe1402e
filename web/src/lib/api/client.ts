/** The one way to the server: typed by its OpenAPI document, every refusal told as a `Problem`. */
import createClient, { type Middleware } from 'openapi-fetch';

import type { components, paths } from './gen/schema';
import { once, RecordedBefore, Unsure } from './once';

export type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];
export type Answer<T> = { ok: true; data: T } | { ok: false; problem: Problem };

function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? '';
}

const withCsrf: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrfToken());
    return request;
  },
};

let whenRecorded: (record: string) => void = () => {};

/** What happens when an answer to a write, just about to be shown, says which record it knows of last. */
export function onRecorded(listener: (record: string) => void): void {
  whenRecorded = listener;
}

export const client = createClient<paths>({ baseUrl: '/', fetch: once });
client.use(withCsrf);

const UNREACHABLE: Problem = {
  type: 'about:blank',
  title: 'No answer',
  status: 0,
  code: 'unreachable',
  detail: 'Yperon does not answer.',
  field: null,
  fix: 'Check that it is running and that this device is in the same network, then try again.',
  values: {},
  lines: [],
};
const UNSURE: Problem = {
  ...UNREACHABLE,
  code: 'unsure',
  detail: 'Yperon does not answer. It may have been recorded.',
  fix: 'This device looks again by itself. You can also send it again: it is recorded once.',
};

function broken(status: number): Problem {
  return {
    ...UNREACHABLE,
    status,
    code: 'server_error',
    title: 'Error',
    detail: 'Something went wrong on the server; nothing was recorded.',
    fix: 'Try again. If it stays, the terminal that runs Yperon says more.',
  };
}

const RECORDED: Problem = {
  ...UNREACHABLE,
  code: 'recorded_before',
  detail: 'What you sent before was recorded after all.',
  fix: 'Look at it first. If this is something else, send it once more.',
};

type Listener = (problem: Problem) => void;
let whenSignedOut: Listener = () => {};

/** What happens when an answer says that nobody is signed in. */
export function onSignedOut(listener: Listener): void {
  whenSignedOut = listener;
}

/** Narrow an answer of `client` to data or a problem; never throws. */
export async function ask<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<Answer<T>> {
  try {
    const { data, error, response } = await request;
    const record = response.headers.get('Yperon-Record');
    if (record) whenRecorded(record);
    if (response.ok) return { ok: true, data: data as T };
    const problem = isProblem(error) ? error : broken(response.status);
    if (problem.code === 'signed_out') whenSignedOut(problem);
    return { ok: false, problem };
  } catch (error) {
    if (error instanceof RecordedBefore) return { ok: false, problem: RECORDED };
    return { ok: false, problem: error instanceof Unsure ? UNSURE : UNREACHABLE };
  }
}

function isProblem(error: unknown): error is Problem {
  return typeof error === 'object' && error !== null && 'detail' in error && 'code' in error;
}
