/** Round's sentence, and a machine's usual week, in words. */
import type { Schemas } from '../api/client';
import {
  ago,
  asDay,
  day,
  daysBetween,
  figure,
  lazily,
  listed,
  minutesWords,
  plural,
  restWords,
  when,
} from './format';
import { byVisit, sorted } from './groups';
import { doWord } from './tasks';
import { fact } from './why';

/** So many machines are named in the sentence; of more, the number. */
const NAMED = 2;

/** The sentence over the board, and why to start where it says. */
export function sentence(round: Schemas['RoundOut']): { head: string; why: string } {
  const idle = round.machines.filter((machine) => machine.dangers.length || machine.empty_slots.length);
  const out = idle.slice(0, NAMED).map(({ name, empty_slots, dangers }) => {
    const why = dangers[0]?.name ?? `its ${listed(empty_slots).toLowerCase()} is out`;
    return `${name} is out of use: ${why}. `;
  });
  if (idle.length > NAMED)
    out.push(`So ${idle.length === NAMED + 1 ? 'is one' : `are ${idle.length - NAMED}`} more. `);
  return { head: head(round), why: out.join('') + start(round) };
}

function head(round: Schemas['RoundOut']): string {
  const { ahead } = round;
  const { today } = byVisit(round);
  const until = ahead?.next_on ? `until ${near(round.today, ahead.next_on)}` : free(round);
  if (!today.length) {
    const rest = round.due.length ? '' : ' Nothing is past its date.';
    if (ahead?.today_min) return `Today’s visit: about ${long(ahead.today_min)}.${rest}`;
    if (ahead?.next_on) return `Nothing ${until}, then ${minutesWords(ahead.next_min)}.`;
    return `Nothing needs hands ${until || 'today'}.`;
  }
  if (sorted(today).small) {
    const matters = long(round.minutes - round.small_min);
    return `About ${matters} of work that matters today; ${minutesWords(round.small_min)} more have less at stake.`;
  }
  return `About ${long(round.minutes - (ahead?.later_min ?? 0))} of work today${until && `, then nothing ${until}`}.`;
}

/** "tomorrow", "Saturday", "Sat 12 Dec": a day with a visit. */
export function near(today: string, on: string): string {
  const days = daysBetween(today, on);
  if (days === 1) return 'tomorrow';
  return days < 7 ? weekday().format(asDay(on)) : day(on);
}

function long(min: number): string {
  const minutes = Math.max(1, Math.round(min));
  return minutes >= 90 ? minutesWords(minutes) : plural(minutes, 'minute');
}

const weekday = lazily(() => new Intl.DateTimeFormat('en-GB', { weekday: 'long' }));

/** "until about Saturday", "for about 9 days": how long nothing else is expected; nothing where it is not a day. */
function free(round: Schemas['RoundOut']): string {
  const due = round.coming[0]?.due;
  const days = due ? daysBetween(round.today, due.p50) : 0;
  if (!due || days < 2) return '';
  return days < 7 ? `until about ${weekday().format(asDay(due.p50))}` : `for about ${figure(days)} days`;
}

function start(round: Schemas['RoundOut']): string {
  const [first] = byVisit(round).today;
  if (!first) {
    const next = round.coming[0];
    return next
      ? `Next is the ${next.slot_name.toLowerCase()} of ${next.machine_name}: ${doWord(next.action)} ${when(next.due, round.today)}.`
      : 'Log a run when a machine has run, and dates appear here.';
  }
  const found = fact(first, 'trigger')?.meter === 'condition';
  const over =
    first.share >= 1.005 && !found
      ? `it stands at ${figure(first.share * 100)} % of its interval`
      : found
        ? 'it was found in need of it'
        : 'its interval is used up';
  return `Start with the ${first.slot_name.toLowerCase()} of ${first.machine_name}: ${over}.`;
}

/** Whether it does not run for now: a rest that ends today is as good as over, and past ones are told by the last run. */
export const isResting = (
  machine: Schemas['StripOut'],
  today: string,
): machine is Schemas['StripOut'] & { resting: Schemas['RestOut'] } =>
  machine.resting !== null &&
  machine.resting.why !== 'did_not_run' &&
  (machine.resting.last === null || machine.resting.last > today);

/** How a machine's last run stands under its name: "50 min today", "ran yesterday, as usual". */
export function lastRun(machine: Schemas['StripOut'], today: string): string {
  if (isResting(machine, today)) return restWords(machine.resting);
  if (machine.minutes_today > 0) return `${figure(machine.minutes_today)} min today`;
  if (!machine.last_run) return 'no run yet';
  return `ran ${ago(machine.last_run, today)}${machine.last_is_assumed ? ', as usual' : ''}`;
}

const DAY_NAMES: Record<string, string> = {
  MO: 'Mon',
  TU: 'Tue',
  WE: 'Wed',
  TH: 'Thu',
  FR: 'Fri',
  SA: 'Sat',
  SU: 'Sun',
};

/** "weekdays 10:15, 50 min", "every 3 days, 40 min"; "no usual week" without one. */
export function usualWeek(usual: Schemas['UsualOut']): string {
  if (!usual.rule) return 'no usual week';
  const starting = usual.starts ? ` at ${usual.starts.slice(0, 5)}` : '';
  if (usual.every) return `every ${usual.every} days${starting}, ${figure(usual.minutes)} min`;
  const days = /BYDAY=([A-Z,]+)/.exec(usual.rule)?.[1]?.split(',') ?? [];
  const named = days.join() === 'MO,TU,WE,TH,FR' ? 'weekdays' : days.map((d) => DAY_NAMES[d] ?? d).join(', ');
  const starts = usual.starts ? ` ${usual.starts.slice(0, 5)}` : '';
  return `${named || 'daily'}${starts}, ${figure(usual.minutes)} min`;
}
