import { ask, client, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { askOrKept } from './kept';
import { type Load, loaded, PENDING, Turns } from './load';
import { notice } from './notice.svelte';

export type Part = Schemas['WearOut'];
export type Gauge = Schemas['GaugeOut'];

/** How worn the parts of one machine are. */
export class WearState {
  load = $state.raw<Load<Schemas['WearsOut']>>(PENDING);
  busy = $state(false);
  /** When what is shown was got, where nothing is reached now. */
  since = $state<string | null>(null);
  private turns = new Turns();

  constructor(readonly machine_id: string) {}

  async refresh(): Promise<void> {
    const params = { path: { machine_id: this.machine_id } };
    const request = client.GET('/api/machines/{machine_id}/wear', { params });
    const seen = await this.turns.latest(askOrKept(`wear ${this.machine_id}`, request));
    if (seen) [this.load, this.since] = [loaded(seen.answer), seen.since];
  }

  async measure(part: Part, gauge: Gauge, value: number, unit: string, day: string): Promise<boolean> {
    this.busy = true;
    const params = { path: { machine_id: this.machine_id, item_id: part.item_id } };
    const body = { measure: gauge.key, value, unit, day };
    const answer = await ask(client.POST('/api/machines/{machine_id}/wear/{item_id}', { params, body }));
    this.busy = false;
    if (!answer.ok) {
      notice.refused(answer.problem);
      return false;
    }
    this.turns.recorded();
    [this.load, this.since] = [{ status: 'ok', data: answer.data.wear }, null];
    notice.done(`${part.name}: ${gauge.name.toLowerCase()} is noted.`, () => this.undo(answer.data.entry_id));
    return true;
  }

  private async undo(entry_id: string): Promise<void> {
    await house.undo(entry_id);
    await this.refresh();
  }
}
