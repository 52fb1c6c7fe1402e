import { ask, client, type Problem, type Schemas } from '../api/client';
import { type Load, loaded, PENDING } from './load';
import { notice } from './notice.svelte';
import { session } from './session.svelte';

export type Person = Schemas['PersonOut'];
export type Role = Schemas['PersonOut']['role'];

/** Who belongs to the household, who is invited, and the link that was made last. */
export class PeopleState {
  load = $state.raw<Load<Schemas['PeopleOut']>>(PENDING);
  problem = $state.raw<Problem | null>(null);
  /** Shown until it is put away: nobody shows it again. */
  link = $state.raw<(Schemas['LinkOut'] & { name: string }) | null>(null);
  busy = $state(false);

  async refresh(): Promise<void> {
    this.load = loaded(await ask(client.GET('/api/people')));
  }

  /** A link for somebody new, or for a person of the household. */
  async invite(body: Schemas['InvitationIn'], name: string): Promise<boolean> {
    const answer = await this.asked(client.POST('/api/invitations', { body }));
    if (answer)
      [this.link, this.load] = [
        { ...answer, name },
        { status: 'ok', data: answer.people },
      ];
    return answer !== null;
  }

  async takeBack(invitation_id: string): Promise<void> {
    const params = { path: { invitation_id } };
    const answer = await this.asked(client.DELETE('/api/invitations/{invitation_id}', { params }));
    if (answer) this.load = { status: 'ok', data: answer };
    this.link = null;
  }

  async change({ id }: Person, name: string, role: Role): Promise<boolean> {
    const params = { path: { member_id: id } };
    const answer = await this.asked(client.PUT('/api/people/{member_id}', { params, body: { name, role } }));
    if (answer) this.load = { status: 'ok', data: answer };
    if (answer && id === session.member?.id) await session.refresh();
    return answer !== null;
  }

  /** Somebody leaves; whoever leaves themselves is signed out here. */
  async leave({ id, name, me }: Person): Promise<boolean> {
    const params = { path: { member_id: id } };
    const left = await this.asked<null>(client.DELETE('/api/people/{member_id}', { params }), null);
    if (left === undefined) return false;
    if (me) await session.signOut();
    else {
      notice.done(`${name} is not in this household any more. What they recorded stays.`);
      await this.refresh();
    }
    return true;
  }

  private async asked<T>(request: Parameters<typeof ask<T>>[0]): Promise<T | null>;
  private async asked<T>(request: Parameters<typeof ask<T>>[0], empty: null): Promise<T | null | undefined>;
  private async asked<T>(request: Parameters<typeof ask<T>>[0], empty?: null): Promise<T | null | undefined> {
    this.busy = true;
    const answer = await ask<T>(request);
    this.busy = false;
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) return answer.data ?? null;
    return empty === null ? undefined : null;
  }
}
