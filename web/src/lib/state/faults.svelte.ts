import { v4 as uuid } from 'uuid';

import { type Answer, ask, client, type Problem, type Schemas } from '../api/client';
import { house } from './house.svelte';
import { type Load, loaded, PENDING, Turns } from './load';

export type Case = Schemas['CaseOut'];
export type Check = Schemas['NextOut'];
type Kind = 'noticed' | 'answered' | 'cured' | 'retested' | 'rests' | 'back';

/** One case, as the server last told it. Whatever is told goes there with how much was known of: who comes second with
 *  another answer is told so, and sees where the case stands. */
export class SearchState {
  load = $state.raw<Load<Case>>(PENDING);
  problem = $state.raw<Problem | null>(null);
  busy = $state(false);
  case = $derived(this.load.status === 'ok' ? this.load.data : null);
  /** A check somebody chose instead of the one that comes next. */
  chosen = $state<string | null>(null);
  /** A fixed order of checks that somebody follows, by its school. */
  route = $state<string | null>(null);
  check = $derived.by<Check | null>(() => {
    const found = this.case;
    if (!found || found.stand !== 'ask') return null;
    const wanted = found.next.find((one) => one.key === this.chosen);
    return wanted ?? this.onRoute[0] ?? found.next[0] ?? null;
  });

  private turns = new Turns();

  constructor(readonly id: string) {}

  /** What is left of the fixed order. */
  get onRoute(): Check[] {
    const route = this.case?.routes.find((one) => one.school === this.route);
    const open = this.case?.next.filter((one) => !one.again) ?? [];
    return (route?.probes ?? []).flatMap((key) => open.filter((one) => one.key === key));
  }

  async refresh(): Promise<void> {
    const asked = ask(client.GET('/api/cases/{case_id}', { params: { path: { case_id: this.id } } }));
    const answer = await this.turns.latest(asked);
    if (answer) this.load = loaded(answer);
  }

  async tell(
    kind: Kind,
    key = '',
    says = '',
    more: { kpa?: number; clean_kpa?: number; day?: string } = {},
  ): Promise<boolean> {
    const after = this.case?.told ?? 0;
    const params = { path: { case_id: this.id } };
    const body = { id: uuid(), after, kind, key, says, ...more };
    return this.took(await this.sent(ask(client.POST('/api/cases/{case_id}/events', { params, body }))));
  }

  async close(reason = ''): Promise<boolean> {
    const params = { path: { case_id: this.id } };
    const done = await this.sent(
      ask(client.POST('/api/cases/{case_id}/close', { params, body: { reason } })),
    );
    if (done.ok) house.forget();
    return this.took(done);
  }

  private async sent(request: Promise<Answer<Case>>): Promise<Answer<Case>> {
    this.busy = true;
    const answer = await request;
    this.busy = false;
    return answer;
  }

  private async took(answer: Answer<Case>): Promise<boolean> {
    if (answer.ok) {
      this.turns.recorded();
      this.load = { status: 'ok', data: answer.data };
      this.problem = null;
      this.chosen = null;
      return true;
    }
    this.problem = answer.problem;
    if (answer.problem.status === 409) await this.refresh();
    return false;
  }
}

/** What a machine's paper tells beside its case. */
export type Paper = {
  notes: Schemas['NoteOut'][];
  rows: Schemas['ReadingRowOut'][];
  numbers: Record<string, string[]>;
};

/** What can be had of it: a part that does not come leaves the rest as it is. */
export async function paperOf(machine_id: string): Promise<Paper> {
  const params = { path: { machine_id } };
  const [notes, rows, parts] = await Promise.all([
    ask(client.GET('/api/machines/{machine_id}/notes', { params })),
    ask(client.GET('/api/machines/{machine_id}/readings', { params })),
    ask(client.GET('/api/machines/{machine_id}/prices', { params })),
  ]);
  return {
    notes: notes.ok ? notes.data.notes : [],
    rows: rows.ok ? rows.data : [],
    numbers: parts.ok ? parts.data.numbers : {},
  };
}

/** Open a case with what is noticed, and what is told unasked; gives its id, or the refusal. */
export async function openCase(
  machine_id: string,
  symptoms: string[],
  unasked: string[],
): Promise<Answer<Case>> {
  return ask(client.POST('/api/cases', { body: { id: uuid(), machine_id, symptoms, unasked } }));
}

export async function startOf(machine_id: string): Promise<Load<Schemas['StartOut']>> {
  return loaded(
    await ask(client.GET('/api/machines/{machine_id}/trace', { params: { path: { machine_id } } })),
  );
}

export async function openCases(): Promise<Load<Schemas['OpenCaseOut'][]>> {
  return loaded(await ask(client.GET('/api/cases')));
}
