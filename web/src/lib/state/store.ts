/** What this device keeps of its own: answers that are not sent yet, and the sheets they belong to. */
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
}

const open = () =>
  openDB<Kept>('yperon', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { keyPath: 'number', autoIncrement: true });
      db.createObjectStore('sheets', { keyPath: 'id' });
    },
  });
let opened: ReturnType<typeof open> | null = null;
const database = () => (opened ??= open());

export const store = {
  async add(entry: Waiting): Promise<Waiting> {
    const fresh = { ...entry };
    delete fresh.number; // the store counts
    const number = await (await database()).add('outbox', fresh);
    return { ...entry, number };
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
  async dropSheet(id: string): Promise<void> {
    await (await database()).delete('sheets', id);
  },
};

/** Now, as an answer keeps it. */
export const stamp = (): string => new Date().toISOString();
