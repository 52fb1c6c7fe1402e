import { push } from 'svelte-spa-router';

import { ask, client, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { type Load, loaded, PENDING, Turns } from './load';
import { notice } from './notice.svelte';

export type Start = Schemas['WhatIfStart'];
export type Change = Schemas['ChangeIn'];
export type Compared = Schemas['ComparedOut'];

/** So many ways of living stand side by side. */
export const MOST = 4;
const KEPT = 'yperon.what-if';

export const NOTHING: Change = { runs: [], sets: [], weekdays: [] };

/** Ways of living held against the one there is; kept for this browser tab. */
export class WhatIfState {
  load = $state.raw<Load<Start>>(PENDING);
  changes = $state.raw<Change[]>(JSON.parse(sessionStorage.getItem(KEPT) ?? '[]') as Change[]);
  compared = $state.raw<Compared[]>([]);
  busy = $state(false);
  private turns = new Turns();
  start = $derived(this.load.status === 'ok' ? this.load.data : null);

  async refresh(): Promise<void> {
    this.load = loaded(await ask(client.GET('/api/what-if')));
    await this.compare();
  }

  /** Another way of living beside the others, or in the place of one. */
  async put(change: Change, at = this.changes.length): Promise<void> {
    this.changes = [...this.changes.slice(0, at), change, ...this.changes.slice(at + 1)].slice(0, MOST);
    await this.compare();
  }

  async drop(at: number): Promise<void> {
    this.changes = this.changes.filter((_, n) => n !== at);
    this.compared = this.compared.filter((_, n) => n !== at);
    await this.compare();
  }

  async compare(): Promise<void> {
    sessionStorage.setItem(KEPT, JSON.stringify(this.changes));
    if (!this.changes.length) {
      this.compared = [];
      return;
    }
    this.busy = true;
    const asked = ask(client.POST('/api/what-if', { body: { changes: this.changes } }));
    const answer = await this.turns.latest(asked);
    if (!answer) return;
    this.busy = false;
    if (answer.ok) this.compared = answer.data.compared;
    else {
      notice.refused(answer.problem);
      this.changes = this.changes.slice(0, -1);
    }
  }

  /** Live so from now on. */
  async adopt(at: number): Promise<void> {
    const change = this.changes[at];
    if (!change) return;
    const request = client.POST('/api/what-if/adopt', { body: change });
    if (await house.record(request, 'So it is from now on; the dates moved.')) {
      this.changes = [];
      sessionStorage.removeItem(KEPT);
      await push('/season');
    }
  }
}
