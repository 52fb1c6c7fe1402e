/** What can be measured or felt of a machine, in words. */
import type { Schemas } from '../api/client';
import { READING_UNITS } from '../api/gen/bounds';
import { figure } from './format';

type Quantity = Schemas['Quantity'];

export const READING: Record<Quantity, string> = {
  felt: 'Pull, felt 1 to 5',
  suction: 'Suction by gauge',
  charge: 'Minutes per charge',
  area: 'Floor per run',
  picked_up: 'Picked up from a test strip',
};

/** What may be told of each, with its units. */
export const KINDS = (Object.keys(READING) as Quantity[]).map((key) => ({
  key,
  name: READING[key],
  units: READING_UNITS[key] as readonly string[],
}));

export const OPENING: Record<string, string> = {
  open: 'open, the air free',
  orifice: 'through a fixed hole',
  sealed: 'sealed: no air moves, shows only leaks',
};

export const unitWord = (unit: string): string =>
  ({ m2: 'm²', ft2: 'ft²', inH2O: 'inches of water' })[unit] ?? unit;

/** "Suction by gauge, open, the air free": what a row of readings is of. */
export function rowName(row: Schemas['ReadingRowOut']): string {
  const name = READING[row.quantity];
  return row.opening ? `${name}, ${OPENING[row.opening]}` : name;
}

/** The last figures of a row: "8.2 kPa, before it 11.4 kPa". */
export function lastOf(row: Schemas['ReadingRowOut']): string {
  const [last, before] = [...row.points].reverse();
  const said = (point: Schemas['PointOut']) => `${figure(point.value)} ${unitWord(row.unit)}`.trim();
  return !last ? '' : before ? `${said(last)}, before it ${said(before)}` : said(last);
}
