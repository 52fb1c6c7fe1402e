import { push } from 'svelte-spa-router';

import { ask, client, type Schemas } from '../api/client';
import { openSheet } from './bench.svelte';
import { keepPicks, keptPicks, type Pick } from './picks';
import { type Load, loaded, PENDING, Turns } from './load';

type Plan = Schemas['PlanOut'];
type Part = Schemas['PlannedPartOut'];

const same = (a: Pick, machine_id: string, slot: string): boolean =>
  a.machine_id === machine_id && a.slot === slot;

/** What the sitting would take: machines taken out of it or in again, depths changed, all told by the server. */
export class PlanState {
  picks = $state.raw<Pick[]>(keptPicks());
  /** Parts that were left out here, so that they can come back. */
  out = $state.raw<Pick[]>([]);
  load = $state.raw<Load<Plan>>(PENDING);
  busy = $state(false);
  private turns = new Turns();
  plan = $derived(this.load.status === 'ok' ? this.load.data : null);

  async refresh(): Promise<void> {
    if (!this.picks.length) return;
    this.busy = true;
    const asked = ask(client.POST('/api/plan', { body: { tasks: this.picks } }));
    const answer = await this.turns.latest(asked);
    if (answer) [this.busy, this.load] = [false, loaded(answer)];
  }

  async change(picks: Pick[]): Promise<void> {
    this.picks = picks;
    keepPicks(picks);
    await this.refresh();
  }

  setDepth(machine_id: string, part: Part, actions: Schemas['Action'][]): Promise<void> {
    const others = this.picks.filter((one) => !same(one, machine_id, part.slot));
    const cleaning = part.choices.flatMap((choice) => choice.actions);
    const kept = part.actions.filter((action) => !cleaning.includes(action));
    const mine = [...actions, ...kept].map((action) => ({ machine_id, slot: part.slot, action }));
    return this.change([...others, ...mine]);
  }

  leaveOut(which: (pick: Pick) => boolean): Promise<void> {
    this.out = [...this.out, ...this.picks.filter(which)];
    return this.change(this.picks.filter((pick) => !which(pick)));
  }

  takeBack(): Promise<void> {
    const picks = [...this.picks, ...this.out];
    this.out = [];
    return this.change(picks);
  }

  /** In a hurry: what may wait stays undone. */
  async hurry(): Promise<void> {
    const parts = (this.plan?.machines ?? []).flatMap((machine) =>
      machine.parts.map((part) => ({ machine_id: machine.machine_id, part })),
    );
    const waits = parts.filter(({ part }) => part.may_wait);
    await this.leaveOut((pick) => waits.some(({ machine_id, part }) => same(pick, machine_id, part.slot)));
  }

  async start(): Promise<void> {
    const id = await openSheet(this.picks);
    if (id) await push(`/bench/${id}`);
  }
}
