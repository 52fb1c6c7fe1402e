import { type Answer, ask, client, onSignedOut, type Problem, type Schemas } from '../api/client';
import { forget } from '../api/once';
import { type Load, loaded, PENDING } from './load';
import { outbox } from './outbox.svelte';
import { store } from './store';

const KEPT = 'yperon.session';
/** Somebody signed out without a connection: the server is told as soon as it answers, before anything else is asked. */
const LEAVING = 'yperon.leaving';

/** This page was loaded anew because somebody signed out here. */
const ANEW = 'yperon.anew';

/** Nothing of whoever was signed in stays in the memory of a page. */
function startAnew(): void {
  sessionStorage.setItem(ANEW, '1');
  location.hash = '#/';
  location.reload();
}

/** Who is signed in. */
export class SessionState {
  load = $state.raw<Load<Schemas['SessionOut']>>(PENDING);
  problem = $state.raw<Problem | null>(null);
  member = $derived(this.load.status === 'ok' ? this.load.data.member : null);
  us = $derived(this.member?.units === 'us');
  mayWrite = $derived(this.member?.may_write ?? false);

  constructor() {
    onSignedOut(() => void this.refresh());
    addEventListener('storage', (event) => {
      if (event.key === KEPT && event.newValue === null && event.oldValue !== null) startAnew();
    });
    addEventListener('online', () => void (localStorage.getItem(LEAVING) && this.refresh()));
  }

  async refresh(): Promise<void> {
    if (localStorage.getItem(LEAVING) !== null && !(await this.left())) return;
    const anew = sessionStorage.getItem(ANEW) !== null;
    sessionStorage.removeItem(ANEW);
    let answer = await ask(client.GET('/api/session'));
    // The browser may have asked ahead, before the server knew that nobody is signed in here any more.
    if (anew && answer.ok && answer.data.member) answer = await ask(client.GET('/api/session'));
    const kept = localStorage.getItem(KEPT);
    // Without a connection whoever was signed in here last goes on; nothing is shown that this device does not hold.
    const held = !answer.ok && answer.problem.status === 0 && kept !== null;
    this.take(held ? { ok: true, data: JSON.parse(kept) as Schemas['SessionOut'] } : answer);
  }

  private take(answer: Answer<Schemas['SessionOut']>): void {
    this.load = loaded(answer);
    if (!answer.ok) return;
    if (answer.data.member) localStorage.setItem(KEPT, JSON.stringify(answer.data));
    else localStorage.removeItem(KEPT);
    void outbox.become(answer.data.member?.id ?? null);
  }

  async signIn(user_name: string, password: string): Promise<void> {
    const answer = await ask(client.POST('/api/session', { body: { user_name, password } }));
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) this.take(answer);
  }

  /** Metric or US units, for this person on every device. */
  async chooseUnits(units: 'metric' | 'us'): Promise<void> {
    const answer = await ask(client.PUT('/api/units', { body: { units } }));
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) await this.refreshQuietly();
  }

  private async refreshQuietly(): Promise<void> {
    const answer = await ask(client.GET('/api/session'));
    if (answer.ok) this.take(answer);
  }

  /** Sign out, also without a connection. What this device kept to look at goes, in every tab; what was answered and
   *  is not sent yet stays, for whoever gave it to send when they are back. */
  async signOut(): Promise<void> {
    localStorage.setItem(LEAVING, '1');
    await store.forget().catch(() => {});
    forget();
    localStorage.removeItem(KEPT);
    if (await this.left()) startAnew();
  }

  /** Tell the server that nobody is signed in here any more; false where it does not answer. */
  private async left(): Promise<boolean> {
    const answer = await ask(client.DELETE('/api/session'));
    if (answer.ok) localStorage.removeItem(LEAVING);
    else this.load = loaded(answer);
    return answer.ok;
  }
}

export const session = new SessionState();
