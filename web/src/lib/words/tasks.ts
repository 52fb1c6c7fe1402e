/** What is due, in words, made from the codes and figures of the server's explanation. */
import type { Schemas } from '../api/client';
import { day, figure, plural, when } from './format';

type Action = Schemas['Action'];
type Because = Schemas['BecauseOut'];
type Level = Schemas['Level'];
type State = Schemas['StateOut'];
type Task = Schemas['TaskOut'];
type Clock = Schemas['ClockOut'];

const DO: Record<Action, string> = {
  empty: 'empty',
  de_hair: 'take the hair out',
  wipe: 'wipe',
  wash: 'wash',
  clean: 'clean',
  replace: 'replace',
};
const SHORT: Record<Action, string> = { ...DO, de_hair: 'de-hair' };
const NOUN: Record<Action, string> = {
  empty: 'emptying',
  de_hair: 'de-hairing',
  wipe: 'wipe',
  wash: 'wash',
  clean: 'cleaning',
  replace: 'replacement',
};
const DID: Record<Action, string> = {
  empty: 'emptied',
  de_hair: 'de-haired',
  wipe: 'wiped',
  wash: 'washed',
  clean: 'cleaned',
  replace: 'replaced',
};
export const LEVEL: Record<Level, string> = {
  fresh: 'fresh',
  wearing: 'wearing',
  due: 'due',
  overdue: 'overdue',
  drying: 'drying',
  missing: 'missing',
};
export const FOUND: Record<Schemas['Found'], string> = {
  clean: 'Clean',
  light: 'A little',
  due: 'Dirty: it was time',
  overdue: 'Far gone',
};

export const doWord = (action: Action): string => DO[action];
export const shortWord = (action: Action): string => SHORT[action];
export const didWord = (action: Action): string => DID[action];

/** "Filter: wash now." */
export function headline(task: Pick<Task, 'slot_name' | 'action' | 'level'>): string {
  return `${task.slot_name}: ${DO[task.action]} now${task.level === 'overdue' ? ', overdue' : ''}.`;
}

/** "5.6 h of running", "3 runs", "26 days", "2 washes". */
export function amount(meter: Clock['meter'], value: number): string {
  switch (meter) {
    case 'run_hours':
      return `${figure(value)}\u00a0h of running`;
    case 'runs':
      return plural(value, 'run');
    case 'days':
      return plural(Math.round(value), 'day');
    case 'washes':
      return plural(value, 'wash', 'washes');
  }
}

/** "7.3 of 5 h of running", "26 of 30 days". */
export function usedOf(clock: Clock): string {
  return `${figure(clock.used)} of ${amount(clock.meter, clock.limit)}`;
}

/** "5 h", where the meter is plain from beside it. */
export function bare(meter: Clock['meter'], value: number): string {
  return meter === 'run_hours' ? `${figure(value)}\u00a0h` : amount(meter, value);
}

function find(node: Because, code: string): Because | null {
  if (node.code === code) return node;
  for (const part of node.parts) {
    const hit = find(part, code);
    if (hit) return hit;
  }
  return null;
}

const num = (node: Because | null, key: string): number => Number(node?.values[key] ?? 0);
const str = (node: Because | null, key: string): string => String(node?.values[key] ?? '');

/** "since the last wash (12 Nov)", "since it was new (22 Sep)". */
function since(tree: Because): string {
  const service = find(tree, 'since_service');
  if (service)
    return `since the last ${NOUN[str(service, 'action') as Action]} (${day(str(service, 'day'))})`;
  const fitted = find(tree, 'since_fitted');
  if (fitted) return `since it went in clean (${day(str(fitted, 'day'))})`;
  return `since it was new (${day(str(find(tree, 'since_new'), 'day'))})`;
}

/** "every 7 days of usual use, which is 5 h". */
export function limit(trigger: Because): string {
  const value = num(trigger, 'figure');
  if (trigger.values.calendar === 'stands_for_use') {
    return `every ${plural(Math.round(value), 'day')} of usual use, which is ${figure(num(trigger, 'limit'))}\u00a0h`;
  }
  const unit = { run_hours: `${figure(value)}\u00a0h of running`, days: plural(Math.round(value), 'day') }[
    str(trigger, 'meter')
  ];
  return `every ${unit ?? amount(str(trigger, 'meter') as Clock['meter'], value)}`;
}

/** "5.6 h of running since the last wash (12 Nov); the book says every 7 days of usual use, which is 5 h." */
export function reason(state: Pick<State, 'because'>): string {
  const trigger = find(state.because, 'trigger');
  if (!trigger) return '';
  const used = amount(str(trigger, 'clock') as Clock['meter'], num(trigger, 'used'));
  const who = shortened(trigger) ? 'what you found makes it' : 'the book says';
  return `${used} ${since(state.because)}; ${who} ${limit(trigger)}.`;
}

/** Whether what was found, and not the book or the school, sets the limit. */
function shortened(trigger: Because): boolean {
  return Math.abs(num(trigger, 'figure') - Math.min(num(trigger, 'by_load'), num(trigger, 'cap'))) > 0.005;
}

/** "loads 1.4 times as fast as the book says (1.1–1.9), from 3 looks; the last: far gone (12 Nov)". */
function learned(node: Because): string {
  const found = FOUND[str(node, 'last_found') as Schemas['Found']].toLowerCase();
  const band = `${figure(num(node, 'p10'))}–${figure(num(node, 'p90'))}`;
  const looks = `${plural(num(node, 'looks'), 'look')}; the last: ${found} (${day(str(node, 'last_day'))})`;
  const factor = num(node, 'factor');
  const speed = Math.abs(factor - 1) < 0.05 ? 'as fast' : `${figure(factor)} times as fast`;
  return `loads ${speed} as the book says (${band}), from ${looks}`;
}

export interface Line {
  label: string;
  text: string;
}

const SCHOOL: Record<string, string> = {
  label: 'By the label: the shorter figure of the range caps it; what you find can only shorten it.',
  workshop:
    'Workshop: your household places the figure in the range; what you find may stretch it to 1.5 times the longer one.',
  thrifty:
    'Keep it going: your household places the figure in the range; what you find may stretch it to 2.5 times the longer one.',
};
const KIND: Record<string, string> = {
  printed: 'printed on labels and in manuals',
  practice: 'from practice',
  ours: 'our own figure',
};

/** The whole tree as labelled lines, for "why this date". */
export function why(state: State, today: string): Line[] {
  const tree = state.because;
  const trigger = find(tree, 'trigger');
  const used = find(tree, 'used');
  const usual = find(tree, 'usual_use');
  const book = find(tree, 'book');
  const others = find(tree, 'other_triggers');
  if (!trigger || !book) return [];
  const lines: Line[] = [
    {
      label: 'Counted',
      text: `${plural(num(used, 'runs'), 'run')}, ${figure(num(used, 'run_hours'))} h, ${since(tree)}`,
    },
    { label: 'Limit', text: `${limit(trigger)} ${range(trigger)}` },
    { label: 'School', text: SCHOOL[str(find(tree, 'school'), 'school')] ?? '' },
    {
      label: 'Usual use',
      text: `${figure(num(usual, 'hours_per_week'))} h in ${plural(num(usual, 'runs_per_week'), 'run')} a week`,
    },
    { label: 'Expected', text: state.share >= 1 ? 'now' : when(state.due, today) },
    { label: 'Why at all', text: `${str(book, 'reason')} (${KIND[str(book, 'figure_kind')] ?? ''})` },
  ];
  const looks = find(tree, 'learned');
  if (looks) lines.splice(2, 0, { label: 'What you found', text: learned(looks) });
  if (others) lines.splice(2, 0, { label: 'Or, if sooner', text: others.parts.map(otherTrigger).join('; ') });
  return lines;
}

function range(trigger: Because): string {
  const [low, high] = [num(trigger, 'low'), num(trigger, 'high')];
  const unit = { run_hours: 'h', runs: 'runs', days: 'days', washes: 'washes' }[str(trigger, 'meter')] ?? '';
  return low === high ? '' : `(the book's range is ${figure(low)} to ${figure(high)} ${unit})`;
}

function otherTrigger(trigger: Because): string {
  const clock = str(trigger, 'clock') as Clock['meter'];
  return `${limit(trigger)} (now ${bare(clock, num(trigger, 'used'))})`;
}

/** The sentence over the board, and why to start where it says. */
export function sentence(round: Schemas['RoundOut']): { head: string; why: string } {
  const idle = round.machines.filter((machine) => machine.empty_slots.length > 0);
  const out = idle.map(
    ({ name, empty_slots }) =>
      `${name} is out of use: its ${empty_slots.join(' and ').toLowerCase()} is out. `,
  );
  const { head, why } = work(round);
  return { head, why: out.join('') + why };
}

function work(round: Schemas['RoundOut']): { head: string; why: string } {
  const [first, second] = round.due;
  if (!first) {
    const next = round.coming[0];
    const then = next
      ? `Next is the ${next.slot_name.toLowerCase()} of ${next.machine_name}: ${DO[next.action]} ${when(next.due, round.today)}.`
      : 'Log a run when a machine has run, and dates appear here.';
    return { head: 'Nothing needs hands today.', why: then };
  }
  const over =
    first.share >= 1.005
      ? `it stands at ${figure(first.share * 100)} % of its interval`
      : 'its interval is used up';
  const stake = str(find(first.because, 'book'), 'reason');
  const then = second ? ` Then the ${second.slot_name.toLowerCase()}.` : '';
  const start = `Start with the ${first.slot_name.toLowerCase()} of ${first.machine_name}: ${over}. ${stake}${then}`;
  const minutes = Math.max(1, Math.round(round.minutes));
  return { head: `About ${minutes} ${minutes === 1 ? 'minute' : 'minutes'} of work today.`, why: start };
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

/** "weekdays 10:15, 50 min" from a weekly rule; "no usual week" without one. */
export function usualWeek(usual: Schemas['UsualOut']): string {
  if (!usual.rule) return 'no usual week';
  const days = /BYDAY=([A-Z,]+)/.exec(usual.rule)?.[1]?.split(',') ?? [];
  const named = days.join() === 'MO,TU,WE,TH,FR' ? 'weekdays' : days.map((d) => DAY_NAMES[d] ?? d).join(', ');
  const starts = usual.starts ? ` ${usual.starts.slice(0, 5)}` : '';
  return `${named || 'daily'}${starts}, ${figure(usual.minutes)} min`;
}
