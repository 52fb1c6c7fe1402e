import { SvelteMap, SvelteSet } from 'svelte/reactivity';
import { v4 as uuid } from 'uuid';

import { type Answer, ask, client, type Problem, type Schemas } from '../api/client';
import { stamp, store, type Waiting } from './store';

type Sheet = Schemas['SheetOut'];
type Ending = Schemas['EndingOut'];

/** How long to wait before trying again where nothing answered [ms]. */
const AGAIN = 4000;
/** How many answers go out together: as many as the server takes. Held to its limit by a test: the table of limits is not
 *  loaded for one number. */
export const TOGETHER = 100;

/** What a sheet is told: an answer to one of its steps, or its end. */
export type Said = Pick<Waiting, 'sheet' | 'kind'> & Partial<Waiting>;

export interface Listener {
  /** The sheet as the server has it after one more answer. */
  onsheet(sheet: Sheet): void;
  onend(ending: Ending): void;
  onrefused(problem: Problem): void;
}

/** Answers given here and not yet taken by the server. Each is kept on this device until the server has it, is sent in
 *  the order in which it was given, and only by the member who gave it; its id makes it count once. */
export class Outbox {
  waiting = $state.raw<Waiting[]>([]);
  /** Whether the server could take it when it was last asked. */
  reached = $state(true);
  /** Told when something was sent for a sheet that is not open any more. */
  onsent: () => void = () => {};
  private member: string | null = null;
  private sending = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** Sheets whose answers go out one by one, since of some sent together one was refused. */
  private alone = new SvelteSet<string>();
  private listeners = new SvelteMap<string, Listener>();

  constructor() {
    addEventListener('online', () => void this.send());
  }

  /** From now on this member is signed in: what they left unsent goes out, what others left waits for them. */
  async become(member: string | null): Promise<void> {
    if (member === this.member && member !== null) return void this.send();
    this.member = member;
    this.waiting = [];
    if (member === null) return;
    try {
      const kept = (await store.all()).filter((entry) => entry.member === member);
      const given = this.waiting.filter(({ id }) => !kept.some((entry) => entry.id === id));
      this.waiting = [...kept, ...given];
    } catch {
      this.waiting = []; // a browser that keeps nothing: answers then wait in this page alone
    }
    await this.send();
  }

  of(sheet: string): Waiting[] {
    return this.waiting.filter((entry) => entry.sheet === sheet);
  }

  listen(sheet: string, listener: Listener): () => void {
    this.listeners.set(sheet, listener);
    return () => this.listeners.delete(sheet);
  }

  /** What one tap said, all of it or nothing: no screen shows a part of it. */
  async add(all: Said[]): Promise<void> {
    const member = this.member;
    if (member === null) return;
    const rest = { step: '', value: '', reason: '', hanging: null, at: stamp(), late: false };
    await this.keep(all.map((what) => ({ id: uuid(), ...rest, ...what, member })));
    void this.send();
  }

  /** On this device first, then among what waits; a browser that keeps nothing has it in this page alone. */
  private async keep(all: Waiting[]): Promise<void> {
    const kept = await store.add(all).catch(() => all);
    this.waiting = [...this.waiting, ...kept];
  }

  /** Send what waits until nothing is left or nothing answers. */
  async send(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.timer);
    try {
      while (this.waiting.length && (await this.take(this.first())));
    } finally {
      this.sending = false;
    }
    if (this.waiting.length && this.member !== null) this.timer = setTimeout(() => void this.send(), AGAIN);
  }

  /** What goes out next: all answers that wait for one sheet, since a slow way is as slow for one of them; or its end. */
  private first(): Waiting[] {
    const [first] = this.waiting;
    const other = this.waiting.findIndex(({ kind, sheet }) => kind !== first?.kind || sheet !== first.sheet);
    const together = first?.kind === 'finish' || this.alone.has(first?.sheet ?? '') ? 1 : TOGETHER;
    return this.waiting.slice(0, other < 0 ? together : Math.min(other, together));
  }

  /** Send these; false where the rest has to wait. */
  private async take(all: Waiting[]): Promise<boolean> {
    const [{ sheet, late }] = all as [Waiting];
    const answer = await post(all);
    const status = answer.ok ? 200 : answer.problem.status;
    this.reached = status >= 200 && status < 500;
    if (answer.ok) {
      const listener = this.listeners.get(sheet);
      if ('changes' in answer.data) listener?.onend(answer.data);
      else listener?.onsheet(answer.data);
      await this.forget(all);
      if (!listener) this.onsent();
      return true;
    }
    if (status === 0 || status >= 500 || status === 401 || status === 403) return false;
    if (all.length > 1) {
      this.alone.add(sheet); // one of them is refused: those before it count all the same
      return true;
    }
    if (late) await this.forget(all);
    else await this.tooLate(sheet);
    this.listeners.get(sheet)?.onrefused(answer.problem);
    return true;
  }

  /** The sheet went on without us: what was answered here is sent again, to be kept on it as notes. */
  private async tooLate(sheet: string): Promise<void> {
    this.alone.delete(sheet);
    const left = this.of(sheet);
    const notes = left.filter(({ kind, value }) => kind === 'answer' && value !== 'back');
    await this.keep(notes.map((note) => ({ ...note, late: true })));
    await this.forget(left);
  }

  private async forget(all: Waiting[]): Promise<void> {
    this.waiting = this.waiting.filter((one) => !all.includes(one));
    for (const { sheet } of all) if (!this.of(sheet).length) this.alone.delete(sheet);
    await Promise.all(all.map((entry) => store.remove(entry))).catch(() => {});
  }
}

function post(all: Waiting[]): Promise<Answer<Sheet | Ending>> {
  const [{ sheet, kind, id }] = all as [Waiting];
  const params = { path: { sheet_id: sheet } };
  if (kind === 'finish')
    return ask<Ending>(client.POST('/api/sheets/{sheet_id}/finish', { params, body: { id } }));
  const answers = all.map(({ id, step, value, reason, hanging, at, late }) => {
    return { id, step, value, reason, hanging, at, late };
  });
  return ask<Sheet>(client.POST('/api/sheets/{sheet_id}/answers', { params, body: { answers } }));
}

export const outbox = new Outbox();
