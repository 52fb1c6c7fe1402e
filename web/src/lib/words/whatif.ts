/** Ways of living in words, and what they would change. */
import type { Schemas } from '../api/client';
import { figure, listed, percent, plural } from './format';
import { money } from './shelf';
import { SCHOOL } from './tasks';

type Change = Schemas['ChangeIn'];
type Start = Schemas['WhatIfStart'];
type Band = Schemas['BandOut'];

const DAY: Record<string, string> = {
  MO: 'Mondays',
  TU: 'Tuesdays',
  WE: 'Wednesdays',
  TH: 'Thursdays',
  FR: 'Fridays',
  SA: 'Saturdays',
  SU: 'Sundays',
};

/** "Ground robot on 3 days a week, 2 animals": what is otherwise than now. */
export function changed(change: Change, start: Start): string {
  const said = (change.runs ?? []).map((one) => {
    const machine = start.runs.find((runner) => runner.machine_id === one.machine_id);
    return `${machine?.name ?? 'a machine'} on ${plural(one.days, 'day')} a week`;
  });
  const counted = (value: number | null | undefined, one: string, many: string) =>
    value !== null && value !== undefined ? [plural(value, one, many)] : [];
  said.push(...counted(change.animals, 'animal', 'animals'));
  said.push(...counted(change.long_haired, 'person with long hair', 'people with long hair'));
  said.push(...counted(change.children, 'child', 'children'));
  if (change.carpet !== null && change.carpet !== undefined) said.push(`${percent(change.carpet)} carpet`);
  if (change.school) said.push(`kept “${SCHOOL[change.school]}”`);
  if (change.weekdays?.length)
    said.push(`visits on ${listed(change.weekdays.map((key) => DAY[key] ?? key))}`);
  for (const place of change.sets ?? []) {
    const one = start.sets.find((set) => set.machine_id === place.machine_id && set.slot === place.slot);
    said.push(`a second ${one?.slot_name.toLowerCase() ?? 'set'} for ${one?.machine_name ?? 'a machine'}`);
  }
  if (change.hour_value !== null && change.hour_value !== undefined)
    said.push(`an hour worth ${money(change.hour_value, start.currency)}`);
  return said.length ? listed(said) : 'as it is now';
}

/** "75 h (70–88)". */
export function withBand(band: Band, unit: (value: number) => string): string {
  const [low, high] = [unit(band.p10), unit(band.p90)];
  return low === high ? unit(band.p50) : `${unit(band.p50)} (${bare(low)}–${high})`;
}
const bare = (text: string): string => text.replace(/[^\d.,]+$/, '');

export const hours = (value: number): string => `${figure(value)} h`;

/** "7 h less (5–11)", "no difference", "more or less the same". */
export function difference(band: Band, unit: (value: number) => string): string {
  const flat = (value: number) => unit(Math.abs(value));
  if (Math.abs(band.p10) < 1e-6 && Math.abs(band.p90) < 1e-6) return 'no difference';
  if (flat(band.p50) === flat(0)) return 'about the same';
  const way = band.p50 < 0 ? 'less' : 'more';
  const sure = band.p10 * band.p90 > 0;
  const [a, b] = [Math.abs(band.p10), Math.abs(band.p90)].sort((x, y) => x - y);
  const spread = sure ? ` (${bare(unit(a ?? 0))}–${unit(b ?? 0)})` : '; may be either way';
  return `${flat(band.p50)} ${way}${spread}`;
}
