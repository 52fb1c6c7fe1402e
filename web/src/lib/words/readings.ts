/** What can be measured or felt of a machine, in words. */
import type { Schemas } from '../api/client';
import { figure } from './format';

export const KINDS: { key: Schemas['Quantity']; name: string; units: string[] }[] = [
  { key: 'felt', name: 'Pull, felt 1 to 5', units: [''] },
  { key: 'suction', name: 'Suction by gauge', units: ['kPa', 'inH2O'] },
  { key: 'charge', name: 'Minutes per charge', units: ['min'] },
  { key: 'area', name: 'Floor per run', units: ['m2', 'ft2'] },
  { key: 'picked_up', name: 'Picked up from a test strip', units: ['g', 'oz'] },
];

export const OPENING: Record<string, string> = {
  open: 'open, the air free',
  orifice: 'through a fixed hole',
  sealed: 'sealed: no air moves, shows only leaks',
};

export const unitWord = (unit: string): string =>
  ({ m2: 'm²', ft2: 'ft²', inH2O: 'inches of water' })[unit] ?? unit;

/** "Suction by gauge, open, the air free": what a row of readings is of. */
export function rowName(row: Schemas['ReadingRowOut']): string {
  const name = KINDS.find((one) => one.key === row.quantity)?.name ?? row.quantity;
  return row.opening ? `${name}, ${OPENING[row.opening]}` : name;
}

/** The last figures of a row: "8.2 kPa, before it 11.4 kPa". */
export function lastOf(row: Schemas['ReadingRowOut']): string {
  const [last, before] = [...row.points].reverse();
  const said = (point: Schemas['PointOut']) => `${figure(point.value)} ${unitWord(row.unit)}`.trim();
  return !last ? '' : before ? `${said(last)}, before it ${said(before)}` : said(last);
}
