import { type Answer, ask } from '../api/client';
import { session } from './session.svelte';
import { store } from './store';

/** Names this build: what was kept by an older one may lack what this one shows. */
declare const BUILD: string;

/** An answer, and when it was got where it is one that this device kept. */
export interface Seen<T> {
  answer: Answer<T>;
  since: string | null;
}

/** As `ask`; the last answer is kept under `name` and stands in where the server is not reached. */
export async function askOrKept<T>(name: string, request: Parameters<typeof ask<T>>[0]): Promise<Seen<T>> {
  const answer = await ask<T>(request);
  const member = session.member?.id;
  if (!member) return { answer, since: null };
  if (answer.ok) {
    const page = { member, name, build: BUILD, at: new Date().toISOString(), data: answer.data };
    void store.keepPage(page).catch(() => {});
    return { answer, since: null };
  }
  const kept = answer.problem.status === 0 ? await store.page(member, name).catch(() => null) : null;
  return kept?.build === BUILD
    ? { answer: { ok: true, data: kept.data as T }, since: kept.at }
    : { answer, since: null };
}
