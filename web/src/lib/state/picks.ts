import type { Schemas } from '../api/client';

export type Pick = Schemas['PickIn'];

const KEPT = 'yperon.plan';

/** The tasks of the sitting to come, kept for this browser tab. */
export function keepPicks(picks: Pick[]): void {
  sessionStorage.setItem(KEPT, JSON.stringify(picks));
}

export function keptPicks(): Pick[] {
  return JSON.parse(sessionStorage.getItem(KEPT) ?? '[]') as Pick[];
}
