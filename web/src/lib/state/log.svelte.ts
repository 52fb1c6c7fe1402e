import { ask, client, type Problem, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { type Load, loaded, PENDING, Turns } from './load';

export type Line = Schemas['LogLineOut'];
/** What the Log is asked for; empty: it does not matter. */
export interface Asked {
  machine: string;
  slot: string;
  by: string;
  group: string;
  first: string;
  last: string;
  words: string;
  undone: boolean;
}
const ALL: Asked = {
  machine: '',
  slot: '',
  by: '',
  group: '',
  first: '',
  last: '',
  words: '',
  undone: false,
};

/** Everything that happened, as far as it was asked for. */
export class LogState {
  asked = $state<Asked>({ ...ALL });
  choices = $state.raw<Load<Schemas['LogChoicesOut']>>(PENDING);
  load = $state.raw<Load<Schemas['LogPageOut']>>(PENDING);
  year = $state.raw<Schemas['StatisticsOut'] | null>(null);
  problem = $state.raw<Problem | null>(null);
  busy = $state(false);
  narrowed = $derived(JSON.stringify(this.asked) !== JSON.stringify(ALL));
  /** What is asked for, as it stands in an address. */
  query = $derived(
    Object.entries(this.asked)
      .flatMap(([key, value]) => (value ? [`${key}=${encodeURIComponent(value)}`] : []))
      .join('&'),
  );
  private turns = new Turns();

  async open(): Promise<void> {
    void this.refresh();
    this.choices = loaded(await ask(client.GET('/api/log/choices')));
    const year = await ask(client.GET('/api/log/statistics'));
    this.year = year.ok ? year.data : null;
  }

  askAll(): void {
    this.asked = { ...ALL };
  }

  async refresh(): Promise<void> {
    this.busy = true;
    const seen = await this.turns.latest(this.page(''));
    if (!seen) return;
    [this.load, this.busy] = [loaded(seen), false];
  }

  /** The next page, under what stands here. */
  async more(): Promise<void> {
    if (this.load.status !== 'ok' || !this.load.data.next) return;
    const { lines, next } = this.load.data;
    this.busy = true;
    const answer = await this.page(next);
    this.busy = false;
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok)
      this.load = { status: 'ok', data: { lines: [...lines, ...answer.data.lines], next: answer.data.next } };
  }

  /** The records that a line opens on. */
  async opened(line: Line): Promise<Load<Schemas['LogOpenedOut']>> {
    const params = { path: { entry_id: line.entry_id } };
    return loaded(await ask(client.GET('/api/log/records/{entry_id}', { params })));
  }

  /** Take an action back, and say why. */
  async takeBack(line: Line, reason: string): Promise<void> {
    await house.undo(line.entry_id, [], reason);
    await this.refresh();
  }

  private page(before: string) {
    const { undone, ...rest } = this.asked;
    const given = Object.fromEntries(Object.entries(rest).filter(([, value]) => value));
    const query = { ...given, ...(undone ? { undone } : {}), ...(before ? { before } : {}) };
    return ask(client.GET('/api/log', { params: { query } }));
  }
}
