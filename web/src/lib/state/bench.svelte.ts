import { v4 as uuid } from 'uuid';

import { ask, client, type Problem, type Schemas } from '../api/client';
import { after, ahead, type Given } from './follow';
import { house } from './house.svelte';
import { type Load, loaded, PENDING, Turns } from './load';
import { notice } from './notice.svelte';
import { outbox, type Said as Sent } from './outbox.svelte';
import type { Pick } from './picks';
import type { Hanging } from './rack.svelte';
import { session } from './session.svelte';
import { store } from './store';

type Sheet = Schemas['SheetOut'];
type Ending = Schemas['EndingOut'];

/** One answer of a tap, with its reason where it was left out, and where it hangs. */
export interface Said {
  step: string;
  value: string;
  reason?: string;
  hanging?: Hanging | null;
}

type What = Omit<Sent, 'sheet'>;

/** How many steps were answered before a tap, and after it. */
interface Tap {
  from: number;
  to: number;
}

/** One sheet: as the server has it, and on top of that what was answered here and is not sent yet. */
export class BenchState {
  load = $state.raw<Load<Sheet>>(PENDING);
  ending = $state.raw<Ending | null>(null);
  problem = $state.raw<Problem | null>(null);
  waiting = $derived(outbox.waiting.filter((entry) => entry.sheet === this.id));
  given = $derived<Given[]>(this.waiting.filter((entry) => entry.kind === 'answer' && !entry.late));
  sheet = $derived(this.load.status === 'ok' ? after(this.load.data, this.given) : null);
  steps = $derived(this.sheet ? ahead(this.sheet) : []);
  step = $derived(this.sheet?.steps.find((step) => step.key === this.sheet?.current) ?? null);
  ending_waits = $derived(this.waiting.some((entry) => entry.kind === 'finish'));
  readonly leave: () => void;
  /** The taps of this tab that said something: one step back takes back what one tap said. */
  private taps: Tap[];
  private readonly tapsKept: string;
  private tapping: Promise<unknown> | null = null;
  private keeping: Promise<unknown> | null = null;
  private turns = new Turns();

  constructor(readonly id: string) {
    this.tapsKept = `yperon.taps.${id}`;
    this.taps = JSON.parse(sessionStorage.getItem(this.tapsKept) ?? '[]') as Tap[];
    this.leave = outbox.listen(id, {
      onsheet: (sheet) => this.took(sheet),
      onend: (ending) => this.ended(ending),
      onrefused: (problem) => {
        this.problem = problem;
        void this.refresh();
      },
    });
  }

  async refresh(): Promise<void> {
    const answer = await this.turns.latest(
      ask(client.GET('/api/sheets/{sheet_id}', { params: { path: { sheet_id: this.id } } })),
    );
    if (answer === null) return; // what was answered meanwhile is newer
    if (answer.ok) return this.took(answer.data);
    const member = session.member?.id;
    const kept =
      answer.problem.status === 0 && member ? await store.sheet(member, this.id).catch(() => null) : null;
    this.load = kept ? { status: 'ok', data: kept } : loaded(answer);
  }

  /** Every answer is kept on this device first, shown at once, and sent as soon as the server answers. */
  async answer(step: string, value: string, reason = ''): Promise<void> {
    await this.keep([{ kind: 'answer', step, value, reason }]);
  }

  /** What one tap says of several steps, kept and shown in one go; of those that no longer apply nothing is said. */
  async answerAll(said: Said[]): Promise<void> {
    await this.tap(async () => {
      const from = this.answered();
      const all = this.sayable(said);
      await this.keep(all);
      this.remember([...this.taps, { from, to: from + all.length }]);
    });
  }
  private sayable(said: Said[]): What[] {
    const all: What[] = [];
    let sheet = this.sheet;
    for (const one of said) {
      if (sheet?.current !== one.step) continue;
      all.push({ kind: 'answer', ...one });
      sheet = then(sheet, one.step, one.value);
    }
    return all;
  }

  /** Take the last tap back with all that it said, also what this device is just about to keep. */
  async back(): Promise<void> {
    await this.tapping;
    await this.keeping;
    const answered = this.answered();
    if (!answered) return;
    await this.tap(async () => {
      const from = this.taps.find(({ to }) => to === answered)?.from ?? answered - 1;
      await this.keep(this.backTo(from));
      this.remember(this.taps.filter(({ to }) => to < answered));
    });
  }
  private backTo(answered: number): What[] {
    const all: What[] = [];
    for (let sheet = this.sheet; sheet && sheet.answered.length > answered;) {
      const step = sheet.current ?? sheet.steps.at(-1)?.key ?? '';
      all.push({ kind: 'answer', step, value: 'back' });
      sheet = then(sheet, step, 'back');
    }
    return all;
  }
  private answered = (): number => this.sheet?.answered.length ?? 0;
  private remember(taps: Tap[]): void {
    this.taps = taps;
    sessionStorage.setItem(this.tapsKept, JSON.stringify(taps));
  }
  /** While one tap is at work a second one says nothing. */
  private async tap(work: () => Promise<void>): Promise<void> {
    if (this.tapping) return;
    this.tapping = work().finally(() => (this.tapping = null));
    await this.tapping;
  }

  /** End the sitting, after the answer that this device is just about to keep. */
  async finish(): Promise<void> {
    await this.tapping;
    await this.keeping;
    if (!this.ending_waits) await this.keep([{ kind: 'finish' }]);
  }

  /** While one answer is being kept on this device, a second tap means the same one. */
  private async keep(all: What[]): Promise<void> {
    if (this.keeping || !all.length) return;
    this.problem = null;
    this.keeping = outbox
      .add(all.map((what) => ({ sheet: this.id, ...what })))
      .finally(() => (this.keeping = null));
    await this.keeping;
  }

  /** Something besides as a step of this sheet; `always` makes it a habit of the machine. */
  async besides(extra: Schemas['ExtraSaidOut'], always: boolean): Promise<void> {
    const { machine_id, slot, action } = extra;
    const answer = await ask(
      client.POST('/api/sheets/{sheet_id}/extras', {
        params: { path: { sheet_id: this.id } },
        body: { machine_id, slot, action },
      }),
    );
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) this.took(answer.data);
    if (!answer.ok || !always) return;
    const params = { path: { machine_id } };
    const kept = client.POST('/api/machines/{machine_id}/habits', {
      params,
      body: { slot, action, kept: true },
    });
    await house.record(kept, `${extra.slot_name}: in every sitting that lays it open.`);
  }

  async drop(): Promise<boolean> {
    const answer = await ask(
      client.DELETE('/api/sheets/{sheet_id}', { params: { path: { sheet_id: this.id } } }),
    );
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) await store.dropSheet(this.id).catch(() => {});
    return answer.ok;
  }

  private took(sheet: Sheet): void {
    this.turns.recorded();
    this.load = { status: 'ok', data: sheet };
    const member = session.member?.id;
    if (member) void store.keepSheet(member, sheet).catch(() => {});
  }

  private ended(ending: Ending): void {
    this.turns.recorded();
    this.ending = ending;
    house.forget();
    this.load = { status: 'ok', data: ending.sheet };
    void store.dropSheet(this.id).catch(() => {});
  }
}

/** The sheet after one more answer. */
const then = (sheet: Sheet, step: string, value: string): Sheet =>
  after(sheet, [{ id: '', step, value, reason: '' }]);

/** Open a sheet for tasks of one machine or several, for a case if it puts one right; gives its id, or tells the
 *  refusal and gives null. */
export async function openSheet(tasks: Pick[], case_id?: string): Promise<string | null> {
  return opened(
    await ask(client.POST('/api/sheets', { body: { id: uuid(), tasks, case_id: case_id ?? null } })),
  );
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
