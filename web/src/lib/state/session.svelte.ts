import { ask, client, onSignedOut, type Problem, type Schemas } from '../api/client';
import { type Load, loaded, PENDING } from './load';

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
    this.load = loaded(await ask(client.GET('/api/session')));
  }

  async signIn(user_name: string, password: string): Promise<void> {
    const answer = await ask(client.POST('/api/session', { body: { user_name, password } }));
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) this.load = loaded(answer);
  }

  /** Metric or US units, for this person on every device. */
  async chooseUnits(units: 'metric' | 'us'): Promise<void> {
    const answer = await ask(client.PUT('/api/units', { body: { units } }));
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) await this.refreshQuietly();
  }

  private async refreshQuietly(): Promise<void> {
    const answer = await ask(client.GET('/api/session'));
    if (answer.ok) this.load = loaded(answer);
  }

  async signOut(): Promise<void> {
    this.load = loaded(await ask(client.DELETE('/api/session')));
  }
}

export const session = new SessionState();
