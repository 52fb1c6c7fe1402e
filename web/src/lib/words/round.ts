/** Round's sentence, and a machine's usual week, in words. */
import type { Schemas } from '../api/client';
import { figure, listed, minutesWords, when } from './format';
import { doWord } from './tasks';
import { fact } from './why';

/** The sentence over the board, and why to start where it says. */
export function sentence(round: Schemas['RoundOut']): { head: string; why: string } {
  const idle = round.machines.filter((machine) => machine.dangers.length || machine.empty_slots.length);
  const out = idle.map(({ name, empty_slots, dangers }) => {
    const why = dangers[0]?.name ?? `its ${listed(empty_slots).toLowerCase()} is out`;
    return `${name} is out of use: ${why}. `;
  });
  const { head, why } = work(round);
  return { head, why: out.join('') + why };
}

function work(round: Schemas['RoundOut']): { head: string; why: string } {
  const [first, second] = round.due;
  if (!first) {
    const next = round.coming[0];
    const then = next
      ? `Next is the ${next.slot_name.toLowerCase()} of ${next.machine_name}: ${doWord(next.action)} ${when(next.due, round.today)}.`
      : 'Log a run when a machine has run, and dates appear here.';
    return { head: 'Nothing needs hands today.', why: then };
  }
  const found = fact(first, 'trigger')?.meter === 'condition';
  const over =
    first.share >= 1.005 && !found
      ? `it stands at ${figure(first.share * 100)} % of its interval`
      : found
        ? 'it was found in need of it'
        : 'its interval is used up';
  const stake = fact(first, 'book')?.reason ?? '';
  const elsewhere = second && second.machine_id !== first.machine_id ? ` of ${second.machine_name}` : '';
  const then = second ? ` Then the ${second.slot_name.toLowerCase()}${elsewhere}.` : '';
  const start = `Start with the ${first.slot_name.toLowerCase()} of ${first.machine_name}: ${over}. ${stake}${then}`;
  const minutes = Math.max(1, Math.round(round.minutes));
  const long = minutes >= 90 ? minutesWords(minutes) : `${minutes} ${minutes === 1 ? 'minute' : 'minutes'}`;
  return { head: `About ${long} of work today.`, why: start };
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
