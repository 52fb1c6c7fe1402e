import { SvelteMap } from 'svelte/reactivity';
import { v4 as uuid } from 'uuid';

import { type Answer, ask, client, type Problem, type Schemas } from '../api/client';
import { stamp, store, type Waiting } from './store';

type Sheet = Schemas['SheetOut'];
type Ending = Schemas['EndingOut'];

/** How long to wait before trying again where nothing answered [ms]. */
const AGAIN = 4000;

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

  /** Send what waits, one after the other, until nothing is left or nothing answers. */
  async send(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.timer);
    try {
      while (this.waiting[0] && (await this.take(this.waiting[0])));
    } finally {
      this.sending = false;
    }
    if (this.waiting.length && this.member !== null) this.timer = setTimeout(() => void this.send(), AGAIN);
  }

  /** Send one; false where the rest has to wait. */
  private async take(entry: Waiting): Promise<boolean> {
    const answer = await post(entry);
    const status = answer.ok ? 200 : answer.problem.status;
    this.reached = status >= 200 && status < 500;
    if (answer.ok) {
      const listener = this.listeners.get(entry.sheet);
      if ('changes' in answer.data) listener?.onend(answer.data);
      else listener?.onsheet(answer.data);
      await this.forget(entry);
      if (!listener) this.onsent();
      return true;
    }
    if (status === 0 || status >= 500 || status === 401 || status === 403) return false;
    if (entry.late) await this.forget(entry);
    else await this.tooLate(entry.sheet);
    this.listeners.get(entry.sheet)?.onrefused(answer.problem);
    return true;
  }

  /** The sheet went on without us: what was answered here is sent again, to be kept on it as notes. */
  private async tooLate(sheet: string): Promise<void> {
    for (const left of this.of(sheet)) {
      if (left.kind === 'answer' && left.value !== 'back') await this.keep([{ ...left, late: true }]);
      await this.forget(left);
    }
  }

  private async forget(entry: Waiting): Promise<void> {
    this.waiting = this.waiting.filter((one) => one !== entry);
    await store.remove(entry).catch(() => {});
  }
}

function post(entry: Waiting): Promise<Answer<Sheet | Ending>> {
  const params = { path: { sheet_id: entry.sheet } };
  const { id, step, value, reason, hanging, at, late } = entry;
  if (entry.kind === 'finish')
    return ask<Ending>(client.POST('/api/sheets/{sheet_id}/finish', { params, body: { id } }));
  return ask<Sheet>(
    client.POST('/api/sheets/{sheet_id}/answers', {
      params,
      body: { id, step, value, reason, hanging, at, late },
    }),
  );
}

export const outbox = new Outbox();
