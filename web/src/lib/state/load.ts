import type { Answer, Problem } from '../api/client';

/** Something being loaded: a union to narrow, not flags. */
export type Load<T> =
  { status: 'pending' } | { status: 'error'; problem: Problem } | { status: 'ok'; data: T };

export const PENDING: Load<never> = { status: 'pending' };

/** An answer of the server as something loaded. */
export function loaded<T>(answer: Answer<T>): Load<T> {
  return answer.ok ? { status: 'ok', data: answer.data } : { status: 'error', problem: answer.problem };
}
