import { type Answer, ask, client, onSignedOut, type Problem, type Schemas } from '../api/client';
import { type Load, loaded, PENDING } from './load';
import { outbox } from './outbox.svelte';

const KEPT = 'yperon.session';

/** Who is signed in. */
export class SessionState {
  load = $state.raw<Load<Schemas['SessionOut']>>(PENDING);
  problem = $state.raw<Problem | null>(null);
  member = $derived(this.load.status === 'ok' ? this.load.data.member : null);
  us = $derived(this.member?.units === 'us');
  mayWrite = $derived(this.member?.may_write ?? false);

  constructor() {
    onSignedOut(() => void this.refresh());
  }

  async refresh(): Promise<void> {
    const answer = await ask(client.GET('/api/session'));
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

  async signOut(): Promise<void> {
    this.take(await ask(client.DELETE('/api/session')));
  }
}

export const session = new SessionState();
