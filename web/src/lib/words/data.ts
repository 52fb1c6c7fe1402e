import type { Schemas } from '../api/client';
import { figure, listed, plural } from './format';

type FromFile = Schemas['FromFileOut'];

const KINDS: [string, string, string][] = [
  ['machines', 'machine', 'machines'],
  ['parts', 'part', 'parts'],
  ['records', 'record', 'records'],
  ['sheets', 'sitting', 'sittings'],
  ['cases', 'search for a fault', 'searches for faults'],
  ['pictures', 'picture', 'pictures'],
  ['people', 'person', 'people'],
];

/** "7 machines, 240 parts and 7,102 records" */
export function addedWords(added: Record<string, number>): string {
  const some = KINDS.filter(([key]) => added[key]);
  return some.length ? listed(some.map(([key, one, many]) => plural(added[key]!, one, many))) : 'nothing';
}

export function lookWords({ new: fresh, name, added, known }: FromFile): string {
  const what = addedWords(added);
  if (fresh) return `${name} is not here yet. It comes with ${what}.`;
  const here = `${plural(known, 'record')} here already`;
  return what === 'nothing' ? `Nothing in it is new: ${here}.` : `${name} is here. Added: ${what}; ${here}.`;
}

/** "Ground robot 12 runs, Hall upright 3 runs" */
export const runsWords = (added: Record<string, number>): string =>
  listed(Object.entries(added).map(([name, n]) => `${name} ${plural(n, 'run')}`)) || 'no new run';

/** "3.2 MB" */
export function sizeWords(bytes: number): string {
  return bytes < 1e9 ? `${figure(bytes / 1e6)} MB` : `${figure(bytes / 1e9)} GB`;
}
