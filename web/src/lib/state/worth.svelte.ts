import { ask, client, type Problem, type Schemas } from '../api/client';
import { type Load, loaded, PENDING, Turns } from './load';

/** What one machine costs a year, and a repair that somebody weighs. */
export class WorthState {
  load = $state.raw<Load<Schemas['WorthOut']>>(PENDING);
  weighed = $state.raw<Schemas['RepairWeighedOut'] | null>(null);
  problem = $state.raw<Problem | null>(null);
  busy = $state(false);
  worth = $derived(this.load.status === 'ok' ? this.load.data : null);
  private turns = new Turns();
  private readonly params: { path: { machine_id: string } };

  constructor(machine_id: string) {
    this.params = { path: { machine_id } };
  }

  async refresh(): Promise<void> {
    const asked = ask(client.GET('/api/machines/{machine_id}/worth', { params: this.params }));
    const answer = await this.turns.latest(asked);
    if (answer) this.load = loaded(answer);
  }

  async tell(body: Schemas['WorthToldIn']): Promise<boolean> {
    this.busy = true;
    const answer = await ask(client.PUT('/api/machines/{machine_id}/worth', { params: this.params, body }));
    [this.busy, this.problem, this.weighed] = [false, answer.ok ? null : answer.problem, null];
    if (!answer.ok) return false;
    this.turns.recorded();
    this.load = { status: 'ok', data: answer.data };
    return true;
  }

  async weigh(body: Schemas['RepairIn']): Promise<void> {
    this.busy = true;
    const answer = await ask(
      client.POST('/api/machines/{machine_id}/worth/repair', { params: this.params, body }),
    );
    [this.busy, this.problem] = [false, answer.ok ? null : answer.problem];
    this.weighed = answer.ok ? answer.data : null;
  }
}
