import type { Answer, Problem } from '../api/client';

/** Something being loaded: a union to narrow, not flags. */
export type Load<T> =
  { status: 'pending' } | { status: 'error'; problem: Problem } | { status: 'ok'; data: T };

export const PENDING: Load<never> = { status: 'pending' };

/** Of several questions about one thing the answer to the last one counts, also when an older one comes after it. */
export class Turns {
  private last = 0;

  /** The answer, or null where something newer is shown or asked for. */
  async latest<T>(asked: Promise<T>): Promise<T | null> {
    const turn = ++this.last;
    const answer = await asked;
    return turn === this.last ? answer : null;
  }

  /** What was recorded is newer than whatever was asked before its answer came. */
  recorded(): void {
    this.last++;
  }
}

/** An answer of the server as something loaded. */
export function loaded<T>(answer: Answer<T>): Load<T> {
  return answer.ok ? { status: 'ok', data: answer.data } : { status: 'error', problem: answer.problem };
}
