import { ask, client, type Problem, type Schemas } from '../api/client';
import { type Load, loaded, PENDING, Turns } from './load';

export type Holder = Schemas['DustOut'];
type Answered = Awaited<ReturnType<typeof ask<Schemas['DustsOut']>>>;

/** The bags and bins of one machine: how fast they fill, when they are full, what was told of their size. */
export class DustState {
  load = $state.raw<Load<Schemas['DustsOut']>>(PENDING);
  problem = $state.raw<Problem | null>(null);
  busy = $state(false);
  private turns = new Turns();

  async refresh(machine_id: string): Promise<void> {
    const params = { path: { machine_id } };
    const answer = await this.turns.latest(ask(client.GET('/api/machines/{machine_id}/dust', { params })));
    if (answer) this.load = loaded(answer);
  }

  async tell(machine_id: string, slot: string, body: Schemas['SizeIn']): Promise<boolean> {
    this.busy = true;
    const params = { path: { machine_id, slot } };
    return this.took(await ask(client.PUT('/api/machines/{machine_id}/dust/{slot}', { params, body })));
  }

  async forget(machine_id: string, slot: string): Promise<boolean> {
    this.busy = true;
    const params = { path: { machine_id, slot } };
    return this.took(await ask(client.DELETE('/api/machines/{machine_id}/dust/{slot}', { params })));
  }

  private took(answer: Answered): boolean {
    [this.busy, this.problem] = [false, answer.ok ? null : answer.problem];
    if (!answer.ok) return false;
    this.turns.recorded();
    this.load = { status: 'ok', data: answer.data };
    return true;
  }
}
