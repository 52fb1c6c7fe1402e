/** What is due, in words, made from the codes and figures of the server's explanation. */
import type { Schemas } from '../api/client';
import { capital, day, figure, minutesWords, plural, when } from './format';

type Action = Schemas['Action'];
type Because = Schemas['BecauseOut'];
type Level = Schemas['Level'];
type State = Schemas['StateOut'];
type Task = Schemas['TaskOut'];
type Clock = Schemas['ClockOut'];

const DO: Record<Action, string> = {
  empty: 'empty',
  inspect: 'look',
  rinse: 'rinse',
  swap: 'swap sides',
  de_hair: 'take the hair out',
  wipe: 'wipe',
  wash: 'wash',
  air: 'air',
  clean: 'clean',
  replace: 'replace',
};
const SHORT: Record<Action, string> = { ...DO, de_hair: 'de-hair' };
const NOUN: Record<Action, string> = {
  empty: 'emptying',
  inspect: 'look',
  rinse: 'rinse',
  swap: 'swap',
  de_hair: 'de-hairing',
  wipe: 'wipe',
  wash: 'wash',
  air: 'airing',
  clean: 'cleaning',
  replace: 'replacement',
};
const DID: Record<Action, string> = {
  empty: 'emptied',
  inspect: 'looked at',
  rinse: 'rinsed',
  swap: 'swapped',
  de_hair: 'de-haired',
  wipe: 'wiped',
  wash: 'washed',
  air: 'aired',
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
  unknown: 'not known',
};
export const FOUND: Record<Schemas['Found'], string> = {
  clean: 'Clean',
  light: 'A little',
  due: 'Dirty: it was time',
  overdue: 'Far gone',
};

const WORN: Record<Schemas['Found'], string> = {
  clean: 'As new',
  light: 'A little worn',
  due: 'Worn: it is time',
  overdue: 'Done for',
};

/** Why a part went for good. */
export const GONE: Record<Schemas['Gone'], string> = {
  worn: 'Worn out',
  schedule: 'On its date, still good',
  accident: 'Broken by accident',
  lost: 'Lost',
};

/** The four answers of a look, in the words of what it is about. */
export const foundWords = (about: Action): Record<Schemas['Found'], string> =>
  about === 'replace' ? WORN : FOUND;

/** What an answer of a look leads to. */
export function follows(about: Action, found: Schemas['Found'], repairer = false): string {
  if (found === 'clean') return 'Nothing to do';
  if (found === 'light') return 'Nothing to do yet';
  const what = about !== 'replace' ? doWord(about) : repairer ? 'a repairer' : 'a new one';
  return `Then: ${what}${found === 'overdue' ? ', first of all' : ''}`;
}

/** Whether only a find makes it due: then it has no date, however much the machine runs. */
export const byFinding = (state: Pick<State, 'clocks'>): boolean =>
  state.clocks.every(({ meter }) => meter === 'condition');

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
    case 'mop_runs':
      return plural(value, 'mop run');
    case 'evacuations':
      return plural(value, 'emptying', 'emptyings');
    case 'fills':
      return plural(value, 'full bin');
    case 'charges':
      return plural(value, 'charge');
    case 'mishaps':
      return plural(value, 'mishap');
    case 'condition':
      return 'what you find';
  }
}

/** "7.3 of 5 h of running", "26 of 30 days", "by what you find: not yet". */
export function usedOf(clock: Clock): string {
  if (clock.meter === 'condition') return `by what you find${clock.share >= 1 ? '' : ': not yet'}`;
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
  const look = find(tree, 'since_look');
  if (look) return `since the look that settled it (${day(str(look, 'day'))})`;
  const unknown = find(tree, 'since_unknown');
  if (unknown) return `since set-up (${day(str(unknown, 'day'))}), and nobody knows how much before`;
  const fitted = find(tree, 'since_fitted');
  if (fitted) return `since it went in clean (${day(str(fitted, 'day'))})`;
  return `since it was new (${day(str(find(tree, 'since_new'), 'day'))})`;
}

/** "every 7 days of usual use, which is 5 h"; "when you find it needs it". */
export function limit(trigger: Because): string {
  const value = num(trigger, 'figure');
  const meter = str(trigger, 'meter') as Clock['meter'];
  if (meter === 'condition') return 'when you find it needs it';
  if (meter === 'mishaps') return MISHAP[str(trigger, 'after') as Schemas['Mishap']];
  if (trigger.values.calendar === 'stands_for_use') {
    return `every ${plural(Math.round(value), 'day')} of usual use, which is ${figure(num(trigger, 'limit'))}\u00a0h`;
  }
  return `every ${meter === 'days' ? plural(Math.round(value), 'day') : amount(meter, value)}`;
}

/** "5.6 h of running since the last wash (12 Nov); the book says every 7 days of usual use, which is 5 h." */
export function reason(state: Pick<State, 'because'>): string {
  const trigger = find(state.because, 'trigger');
  if (!trigger) return '';
  if (trigger.values.meter === 'mishaps') {
    return `${capital(MISHAP[str(trigger, 'after') as Schemas['Mishap']])}, ${since(state.because)}.`;
  }
  if (trigger.values.meter === 'condition') {
    return num(trigger, 'used') >= 1
      ? `It was found in need of it, ${since(state.because)}.`
      : 'No date: it is done when you find it needs it.';
  }
  if (find(state.because, 'since_unknown')) {
    return `Nobody knows when it was last done, so it may be anywhere in its interval (${limit(trigger)}). One look settles it.`;
  }
  const used = amount(str(trigger, 'clock') as Clock['meter'], num(trigger, 'used'));
  const yours =
    find(state.because, 'own_figure') !== null ||
    str(find(state.because, 'book'), 'figure_kind') === 'household';
  const printed = str(find(state.because, 'book'), 'figure_kind') === 'printed';
  const says = printed ? 'the label says' : 'the book says';
  const placed =
    Math.abs(num(trigger, 'by_load') - num(trigger, 'high')) > 0.005 && trigger.values.index !== null;
  const sized = find(state.because, 'told_filling') !== null;
  const home = sized ? 'the sizes you told say' : placed ? 'your home makes it' : says;
  const who = yours ? 'you set' : shortened(trigger) ? 'what you found makes it' : home;
  return `${used} ${since(state.because)}; ${who} ${limit(trigger)}.`;
}

/** "by the sizes you told, a filling takes about 1.8 weeks at 5.8 h of running a week". */
function toldFilling(told: Because): string {
  const weeks = plural(num(told, 'weeks'), 'week');
  return `by the sizes you told, a filling takes about ${weeks} at ${amount('run_hours', num(told, 'hours_per_week'))} a week`;
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

/** What a mishap makes due, as the reason reads. */
export const MISHAP: Record<Schemas['Mishap'], string> = {
  sticky: 'after something sticky',
  wet: 'after something wet',
  fine_dust: 'after very fine dust',
  sharp: 'after something sharp',
};

export const STATUS: Record<string, string> = {
  in_use: 'in use',
  archived: 'put away',
  lent: 'lent',
  sold: 'sold or given away',
  replaced: 'replaced',
};

export const SCHOOL: Record<string, string> = {
  label: 'By the label',
  workshop: 'Workshop',
  thrifty: 'Keep it going',
};

/** What the household's school makes of the range, and why it has a rule of its own, if it has. */
function schoolLine(node: Because, printed: string): string {
  const school = str(node, 'school');
  if (printed === 'household') return 'your own figure: no school, household or find moves it';
  const own = node.values.why ? ` ${String(node.values.why)}` : '';
  const stretch = num(node, 'stretch');
  const label =
    printed === 'printed'
      ? 'your household and what you find place it; never past the longer printed figure.'
      : 'nothing is printed, so your household and what you find place it in the range.';
  const free =
    stretch > 1
      ? `your household places it in the range; what you find may stretch it to ${figure(stretch)} times the longer figure.`
      : 'your household places it in the range; this one is never stretched past the longer figure.';
  return `${SCHOOL[school] ?? school}: ${school === 'label' ? label : free}${own}`;
}

/** "Workshop: every 10 runs (freed every run or two)". */
function otherSchool(node: Because): string {
  const name = SCHOOL[str(node, 'school')] ?? '';
  const why = node.values.why ? ` (${String(node.values.why)})` : '';
  return node.values.off ? `${name}: does without${why}` : `${name}: ${limit(node)}${why}`;
}

function eventLine(event: Because): string {
  const note = str(event, 'note') || `more ${str(event, 'kind')}`;
  return `${note}, ${day(str(event, 'first'))} to ${day(str(event, 'last'))}`;
}

function counterLine(node: Because): string {
  const said = `on ${day(str(node, 'day'))} it said ${figure(num(node, 'counter_h'))} h used, we counted ${figure(num(node, 'ours_h'))} h`;
  if (node.values.chosen) {
    return node.values.ignored
      ? `${said}; you let ours count on`
      : `${said}; from there on the machine's own figure counts, as you said`;
  }
  return node.values.looks_reset
    ? `${said}; that looks like a reset after a cleaning, so ours counts on`
    : `${said}; from there on the machine's own figure counts`;
}
const KIND: Record<string, string> = {
  printed: 'printed on labels and in manuals',
  practice: 'from practice',
  ours: 'our own figure',
  household: 'your own figure',
};

/** The whole tree as labelled lines, for "why this date". */
export function why(state: State, today: string): Line[] {
  const tree = state.because;
  const trigger = find(tree, 'trigger');
  const used = find(tree, 'used');
  const usual = find(tree, 'usual_use');
  const book = find(tree, 'book');
  const others = find(tree, 'other_triggers');
  const school = find(tree, 'school');
  if (!trigger || !book || !school) return [];
  const assumed = num(used, 'assumed_h');
  const guess = assumed > 0.05 ? ` (${figure(assumed)} h of it assumed from the usual week)` : '';
  const fills = str(trigger, 'clock') === 'fills' ? num(used, 'assumed_fills') : 0;
  const full = fills > 0.05 ? `, ${figure(fills)} full bins assumed, since nobody told of emptying it` : '';
  const printed = str(book, 'figure_kind') === 'printed';
  const lines: Line[] = [
    {
      label: 'Counted',
      text: `${plural(Math.round(num(used, 'runs')), 'run')}, ${figure(num(used, 'run_hours'))} h${guess}${full}, ${since(tree)}`,
    },
    {
      label: 'Limit',
      text: `${limit(trigger)} ${range(trigger, printed ? 'the label says' : 'the book says')}`,
    },
    {
      label: 'School',
      text: schoolLine(school, find(tree, 'own_figure') ? 'household' : str(book, 'figure_kind')),
    },
    { label: 'Usual use', text: usualUse(usual) },
    { label: 'Expected', text: state.share >= 1 ? 'now' : when(state.due, today) },
    { label: 'Why at all', text: `${str(book, 'reason')} (${KIND[str(book, 'figure_kind')] ?? ''})` },
  ];
  const fine = find(tree, 'seen_fine');
  if (fine) {
    const found = FOUND[str(fine, 'found') as Schemas['Found']].toLowerCase();
    const text = `found ${found} (${day(str(fine, 'day'))}), so what was counted before that counts for no more`;
    lines.splice(1, 0, { label: 'Seen since', text });
  }
  const looks = find(tree, 'learned');
  const last = find(tree, 'last_look');
  const events = find(tree, 'load_events');
  const history = find(tree, 'history');
  const eased = find(tree, 'eased');
  const counter = find(tree, 'counter');
  const schools = find(tree, 'other_schools');
  const own = find(tree, 'own_figure');
  if (own) lines.splice(2, 0, { label: 'Your figure', text: str(own, 'why') });
  const before = find(tree, 'before_work');
  if (before) {
    const text = `${doWord(str(before, 'action') as Action)}: a look may spare it, so it comes no later`;
    lines.splice(1, 0, { label: 'Before', text });
  }
  const told = find(tree, 'told_filling');
  if (told) lines.splice(2, 0, { label: 'What you told', text: toldFilling(told) });
  const mishap = find(tree, 'mishap');
  if (mishap)
    lines.splice(1, 0, { label: 'Due at once', text: MISHAP[str(mishap, 'kind') as Schemas['Mishap']] });
  if (looks) lines.splice(2, 0, { label: 'What you found', text: learned(looks) });
  if (last) {
    const found = FOUND[str(last, 'found') as Schemas['Found']].toLowerCase();
    lines.splice(2, 0, { label: 'Last look', text: `${found} (${day(str(last, 'day'))})` });
  }
  if (others) lines.splice(2, 0, { label: 'Or, if sooner', text: others.parts.map(otherTrigger).join('; ') });
  if (events) lines.push({ label: 'Counts for more', text: events.parts.map(eventLine).join('; ') });
  if (eased) {
    const text = `half as long again: here good enough is enough, and only smell or looks are at stake`;
    lines.push({ label: 'Let go', text });
  }
  const missed = find(tree, 'guard_missed');
  if (missed) {
    const text = `${str(missed, 'part')} was left for twice its time, so dust may have come through`;
    lines.push({ label: 'Sooner', text });
  }
  if (history) lines.push({ label: 'Others say', text: history.parts.map(print).join('; ') });
  if (counter) lines.push({ label: 'Its own counter', text: counterLine(counter) });
  if (find(tree, 'no_counter')) {
    lines.push({ label: 'Its own counter', text: 'none: no machine counts this part, so we do' });
  }
  const differ = (schools?.parts ?? []).filter((node) => node.values.off || limit(node) !== limit(trigger));
  if (differ.length) lines.push({ label: 'Other schools', text: differ.map(otherSchool).join('; ') });
  return lines;
}

/** "every 3 months (printed: the ones after them)". */
function print(node: Because): string {
  const by = { printed: 'printed', practice: 'in practice', ours: 'our own' }[str(node, 'by')] ?? '';
  return `${str(node, 'figure')} (${by}: ${str(node, 'told')})`;
}

/** What the last looks say against what was believed; null where they do not. */
export function contradicted(state: Pick<State, 'because'>): string | null {
  const node = find(state.because, 'contradicted');
  if (!node) return null;
  const way = num(node, 'way') > 0 ? 'faster' : 'more slowly';
  return `Three looks in a row say that it gets dirty ${way} than it used to.`;
}

/** "4.2 h in 5 runs a week, since 20 Nov: weeks before that tell nothing of it". */
function usualUse(usual: Because | null): string {
  const use = `${figure(num(usual, 'hours_per_week'))} h in ${plural(num(usual, 'runs_per_week'), 'run')} a week`;
  const changed = str(usual, 'changed');
  return changed ? `${use} since ${day(changed)}; the weeks before no longer count for dates` : use;
}

/** "(the label says 7 to 14 days)", also where the home or what was found makes another figure of it. */
function range(trigger: Because, source: string): string {
  const [low, high] = [num(trigger, 'low'), num(trigger, 'high')];
  const most = amount(str(trigger, 'meter') as Clock['meter'], high);
  if (low < high) return `(${source} ${figure(low)} to ${most})`;
  return num(trigger, 'figure') === high ? '' : `(${source} ${most})`;
}

function otherTrigger(trigger: Because): string {
  const clock = str(trigger, 'clock') as Clock['meter'];
  if (clock === 'condition' || clock === 'mishaps') return limit(trigger);
  return `${limit(trigger)} (now ${bare(clock, num(trigger, 'used'))})`;
}

/** The sentence over the board, and why to start where it says. */
export function sentence(round: Schemas['RoundOut']): { head: string; why: string } {
  const idle = round.machines.filter((machine) => machine.dangers.length || machine.empty_slots.length);
  const out = idle.map(({ name, empty_slots, dangers }) => {
    const why = dangers[0]?.name ?? `its ${empty_slots.join(' and ').toLowerCase()} is out`;
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
      ? `Next is the ${next.slot_name.toLowerCase()} of ${next.machine_name}: ${DO[next.action]} ${when(next.due, round.today)}.`
      : 'Log a run when a machine has run, and dates appear here.';
    return { head: 'Nothing needs hands today.', why: then };
  }
  const trigger = find(first.because, 'trigger');
  const found = trigger?.values.meter === 'condition';
  const over =
    first.share >= 1.005 && !found
      ? `it stands at ${figure(first.share * 100)} % of its interval`
      : found
        ? 'it was found in need of it'
        : 'its interval is used up';
  const stake = str(find(first.because, 'book'), 'reason');
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
