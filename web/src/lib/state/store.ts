/** What this device keeps of its own: answers that are not sent yet, the sheets they belong to, and pages to look at. */
import { type DBSchema, openDB } from 'idb';

import type { Schemas } from '../api/client';

export interface Waiting {
  /** Grows by one with each: the order in which they were given. */
  number?: number;
  id: string;
  member: string;
  sheet: string;
  kind: 'answer' | 'finish';
  step: string;
  value: string;
  reason: string;
  hanging: Schemas['HangingIn'] | null;
  at: string;
  /** The sheet went on without it: it is only kept there as a note. */
  late: boolean;
}

interface Kept extends DBSchema {
  outbox: { key: number; value: Waiting };
  sheets: { key: string; value: { id: string; member: string; sheet: Schemas['SheetOut'] } };
  pages: { key: [string, string]; value: Page };
}

/** What a page showed last to somebody on this device, to look at where nothing is reached. */
export interface Page {
  member: string;
  name: string;
  /** The build that kept it. */
  build: string;
  at: string;
  data: unknown;
}

const open = () =>
  openDB<Kept>('yperon', 2, {
    upgrade(db, before) {
      if (before < 1) {
        db.createObjectStore('outbox', { keyPath: 'number', autoIncrement: true });
        db.createObjectStore('sheets', { keyPath: 'id' });
      }
      db.createObjectStore('pages', { keyPath: ['member', 'name'] });
    },
    /** Another tab has the older one open: let go, so that it can be brought up to date. */
    blocking(_current, _wanted, event) {
      (event.target as IDBDatabase).close();
      opened = null;
    },
  });
let opened: ReturnType<typeof open> | null = null;
const database = () => (opened ??= open());

export const store = {
  /** All of them or none, in their order. */
  async add(all: Waiting[]): Promise<Waiting[]> {
    const change = (await database()).transaction('outbox', 'readwrite');
    const numbers = all.map((entry) => {
      const fresh = { ...entry };
      delete fresh.number; // the store counts
      return change.store.add(fresh);
    });
    const counted = await Promise.all(numbers);
    await change.done;
    return all.map((entry, at) => ({ ...entry, number: counted[at]! }));
  },
  async all(): Promise<Waiting[]> {
    return (await database()).getAll('outbox');
  },
  async remove(entry: Waiting): Promise<void> {
    if (entry.number !== undefined) await (await database()).delete('outbox', entry.number);
  },
  async keepSheet(member: string, sheet: Schemas['SheetOut']): Promise<void> {
    await (await database()).put('sheets', { id: sheet.id, member, sheet });
  },
  async sheet(member: string, id: string): Promise<Schemas['SheetOut'] | null> {
    const kept = await (await database()).get('sheets', id);
    return kept?.member === member ? kept.sheet : null;
  },
  async keepPage(page: Page): Promise<void> {
    await (await database()).put('pages', page);
  },
  async page(member: string, name: string): Promise<Page | null> {
    return (await (await database()).get('pages', [member, name])) ?? null;
  },
  /** All that is kept to look at; what is not sent yet stays. */
  async forget(): Promise<void> {
    const db = await database();
    await Promise.all([db.clear('sheets'), db.clear('pages')]);
  },
  async dropSheet(id: string): Promise<void> {
    await (await database()).delete('sheets', id);
  },
};

/** Now, as an answer keeps it. */
export const stamp = (): string => new Date().toISOString();
