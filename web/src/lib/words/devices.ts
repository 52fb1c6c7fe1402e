/** Devices, what they say, and what is doubted of it, in words. */
import type { Schemas } from '../api/client';
import { day, figure, percent } from './format';
import { READING, unitWord } from './readings';

type Kind = Schemas['DeviceOut']['kind'];

export const DEVICES: Record<Kind, string> = {
  machine: 'a machine that reports by itself',
  gauge: 'a suction gauge',
  scale: 'a kitchen scale',
  climate: 'a climate sensor',
};
export const TELLS: Record<Kind, string> = {
  machine: 'its runs, what it says of itself, its counters',
  gauge: 'suction of one machine',
  scale: 'what lies on it: the parts that dry',
  climate: 'the air of one drying place',
};

/** What a machine may say in a word. */
const CODES: Record<string, string> = {
  'airway-blocked': 'its airway is blocked',
  'filter-blocked': 'its filter is blocked or wet',
  'brush-stuck': 'its main brush is stuck',
  'side-brush-stuck': 'its side brush is stuck',
  'wheel-stuck': 'a wheel is stuck',
  'bin-missing': 'its bin is missing or full',
  'bin-full': 'its bin is full',
  'edge-ahead': 'there is an edge ahead',
  'not-emptied': 'its bin was not emptied',
  'dock-leaks': 'there is water under the dock',
  'does-not-charge': 'it does not charge',
  'battery-hot': 'its battery is too hot',
};

/** "its main brush is stuck (“Main brush entangled”)" */
export function saidWords(one: Schemas['SaidOut']): string {
  const code = CODES[one.code] ?? one.code;
  const words = one.words ? `“${one.words}”` : '';
  return code && words ? `${code} (${words})` : code || words;
}

/** The question that a doubt asks. */
export const QUESTION: Record<Schemas['Doubt'], string> = {
  too_long: 'Did it really run so long?',
  overlaps: 'Which of the two runs counts?',
  too_fast: 'Did it really cover so much?',
  counts_back: 'Was its own count set back?',
  odd_air: 'No home has such air. Look at the sensor.',
  which_part: 'Which part lies on the scale?',
  too_light: 'Is it bone dry, and lighter than it was?',
  which_counts: 'Which count goes on?',
  clashes: 'Does it count?',
};

/** What counting it does, as the button says it. */
export const COUNTS: Record<Schemas['Doubt'], string> = {
  too_long: 'It did: count it',
  overlaps: 'This one counts, the other does not',
  too_fast: 'It did: count it',
  counts_back: 'It was: count it',
  odd_air: '',
  which_part: '',
  too_light: '',
  which_counts: "The machine's",
  clashes: 'Count it',
};

/** "covers 20 % less than in early May: 40 to 32 m²" */
export function fallWords(one: Schemas['FallOut']): string {
  const does =
    one.quantity === 'area' ? 'covers' : one.quantity === 'charge' ? 'runs' : READING[one.quantity];
  const unit = unitWord(one.unit);
  return `${does} ${percent(one.share)} less than in the days up to ${day(one.best_until)}: ${figure(Math.round(one.before))} then, ${figure(Math.round(one.now))} ${unit} now`;
}

/** What to do about it: drag is looked for before the battery is blamed. */
export const FALL_FIRST =
  'Look for what drags first: hair in brush, wheels and caster, a clogged filter. Then the battery.';

/** "ran 3 times while its filter is out by the records" */
export const withoutWords = (one: Schemas['RanWithoutOut']): string =>
  `ran ${one.times === 1 ? 'once' : `${one.times} times`} while its ${one.part.toLowerCase()} is out by the records`;

/** What to do about that. */
export const WITHOUT_FIRST =
  'Switch it off at the machine: without the part dust goes where it would have been held. Look at what lies behind before the next run. If the part is in, record that it was put back.';
