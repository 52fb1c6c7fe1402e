import { type Answer, ask, client, type Problem, type Schemas } from '../api/client';
import { type Load, loaded, PENDING } from './load';
import { notice } from './notice.svelte';

type SignedIn = Schemas['SignedInOut'][];

/** Where this account is signed in, and its password. */
export class AccountState {
  load = $state.raw<Load<SignedIn>>(PENDING);
  problem = $state.raw<Problem | null>(null);

  async refresh(): Promise<void> {
    this.take(await ask(client.GET('/api/sign-ins')));
  }

  async end(sign_in_id: string): Promise<void> {
    this.take(await ask(client.DELETE('/api/sign-ins/{sign_in_id}', { params: { path: { sign_in_id } } })));
  }

  async endOthers(): Promise<void> {
    this.take(await ask(client.DELETE('/api/sign-ins')));
  }

  /** A new password; every other browser is signed out by it. */
  async changePassword(old: string, fresh: string): Promise<boolean> {
    const answer = await ask(client.POST('/api/password', { body: { old, new: fresh } }));
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) {
      notice.done('The new password holds. Every other browser is signed out.');
      await this.refresh();
    }
    return answer.ok;
  }

  private take(answer: Answer<SignedIn>): void {
    if (answer.ok || this.load.status !== 'ok') this.load = loaded(answer);
    else notice.refused(answer.problem);
  }
}
