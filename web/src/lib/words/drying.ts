/** Drying in words, from the factors and instants of the server. */
import type { Schemas } from '../api/client';
import { capital, dayAndHour, dayAndTime, degrees, figure, hoursWords, percent, span } from './format';

type Job = Schemas['RackJobOut'];

const hoursTo = (from: string, to: string) => (Date.parse(to) - Date.parse(from)) / 3_600_000;

/** "3 days to go", "ready". */
export function toGo(job: Pick<Job, 'rested' | 'ready_at'>, now: string): string {
  if (job.rested) return 'Its rest is over';
  return `${span(now, job.ready_at)} to go`;
}

/** "Ready about Fri 28 Nov, 10:00 (Thu 27 Nov, 09:00 to Sat 29 Nov, 12:00)". */
export function readyWords(job: Job, zone: string | undefined): string {
  if (job.late === job.floor_at || job.basis === 'settled') return `Ready ${dayAndTime(job.ready_at, zone)}`;
  const [at, early, late] = [job.ready_at, job.early, job.late].map((one) => dayAndHour(one, zone));
  return `Ready about ${at} (${early} to ${late})`;
}

/** "15 °C and 80 % damp". */
export const airWords = (temp_c: number, rh_pct: number, us: boolean): string =>
  `${degrees(temp_c, us)} and ${percent(rh_pct / 100)} damp`;

/** Why it takes so long, one line for each thing that counts. */
export function whySoLong(job: Job, now: string, us: boolean): string[] {
  const { why } = job;
  const lines = [
    `${capital(why.kind)}: ${hoursWords(why.reference_h)} in free air of ${airWords(why.reference_c, why.reference_rh_pct, us)}.`,
  ];
  if (job.place && job.temp_c !== null && job.rh_pct !== null) {
    lines.push(`${job.place}, ${airWords(job.temp_c, job.rh_pct, us)}: ${times(why.climate)}.`);
  } else lines.push('No drying place is set up, so that air counts.');
  if (why.pressing !== 1) lines.push(`Pressed in a towel: ${times(why.pressing)}.`);
  if (why.moving !== 1) lines.push(`In moving air: ${times(why.moving)}.`);
  if (why.slow > 1.005) lines.push(`Things were found damp there before: ${times(why.slow)}.`);
  lines.push(
    `Together about ${hoursWords(why.hours)}, give or take ${percent(why.sure)}. Never less than ${floorWords(job)}.`,
  );
  if (job.basis === 'air' && job.share < 1)
    lines.push(`By that it is ${percent(job.share)} dry now; a change of place takes none of it back.`);
  if (job.basis === 'curve')
    lines.push('The scale says more than the air: the time comes from its readings.');
  if (job.basis === 'settled') lines.push('The scale found it at its dry weight twice, two hours apart.');
  if (job.rested) return lines;
  return lines.concat(hoursTo(now, job.floor_at) > 0 && job.ready_at === job.floor_at ? [FLOOR] : []);
}

const FLOOR = 'It would be dry sooner, but it rests its day all the same: damp deep inside is not felt.';
const floorWords = (job: Job) => hoursWords(Math.max(0, hoursTo(job.washed_at, job.floor_at)));
const times = (factor: number) =>
  factor > 1 ? `${figure(factor)} times as long` : `${percent(factor)} of the time`;

const OZ_G = 28.349523125;
/** A weight in the person's unit: "41.2 g", "1.45 oz". */
export function weightWords(grams: number, us: boolean): string {
  return us ? `${(grams / OZ_G).toFixed(2)}\u00a0oz` : `${figure(grams)}\u00a0g`;
}
