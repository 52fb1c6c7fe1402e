import { v4 as uuid } from 'uuid';

import { ask, client, type Problem, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { type Load, loaded, PENDING } from './load';
import { notice } from './notice.svelte';
import type { Hanging } from './rack.svelte';

type Sheet = Schemas['SheetOut'];
type Ending = Schemas['EndingOut'];
export type Pick = Schemas['PickIn'];

/** One sheet as the server holds it; every answer is sent before the next step shows. */
export class BenchState {
  load = $state.raw<Load<Sheet>>(PENDING);
  ending = $state.raw<Ending | null>(null);
  problem = $state.raw<Problem | null>(null);
  busy = $state(false);
  sheet = $derived(this.load.status === 'ok' ? this.load.data : null);
  step = $derived(this.sheet?.steps.find((step) => step.key === this.sheet?.current) ?? null);

  constructor(readonly id: string) {}

  async refresh(): Promise<void> {
    this.load = loaded(
      await ask(client.GET('/api/sheets/{sheet_id}', { params: { path: { sheet_id: this.id } } })),
    );
  }

  async answer(step: string, value: string, reason = '', hanging: Hanging | null = null): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    const answer = await ask(
      client.POST('/api/sheets/{sheet_id}/answers', {
        params: { path: { sheet_id: this.id } },
        body: { id: uuid(), step, value, reason, hanging },
      }),
    );
    this.busy = false;
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) this.load = loaded(answer);
    else if (answer.problem.status !== 0) await this.refresh();
  }

  async finish(): Promise<void> {
    this.busy = true;
    const answer = await ask(
      client.POST('/api/sheets/{sheet_id}/finish', { params: { path: { sheet_id: this.id } } }),
    );
    this.busy = false;
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) {
      this.ending = answer.data;
      house.forget();
      this.load = { status: 'ok', data: answer.data.sheet };
    }
  }

  async drop(): Promise<boolean> {
    const answer = await ask(
      client.DELETE('/api/sheets/{sheet_id}', { params: { path: { sheet_id: this.id } } }),
    );
    this.problem = answer.ok ? null : answer.problem;
    return answer.ok;
  }
}

/** Open a sheet for tasks of one machine; gives its id, or tells the refusal and gives null. */
export async function openSheet(machine_id: string, tasks: Pick[]): Promise<string | null> {
  return opened(await ask(client.POST('/api/sheets', { body: { id: uuid(), machine_id, tasks } })));
}

/** Open the refit sitting for a part on the rack. */
export async function openRefit(item_id: string): Promise<string | null> {
  return opened(await ask(client.POST('/api/sheets/refit', { body: { id: uuid(), item_id } })));
}

function opened(answer: Awaited<ReturnType<typeof ask<Sheet>>>): string | null {
  if (answer.ok) return answer.data.id;
  notice.refused(answer.problem);
  return null;
}
