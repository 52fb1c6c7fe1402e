/** Why a date is what it is, in words: each kind of fact has its own, and none can be left out. */
import type { Schemas } from '../api/client';
import { capital, day, figure, plural, when } from './format';
import { amount, bare, doWord, doingWord, FOUND, MISHAP, SCHOOL } from './tasks';

type State = Schemas['StateOut'];
type Fact = State['because'][number];
type Code = Fact['code'];
type Of<C extends Code> = Extract<Fact, { code: C }>;
type Explained = Pick<State, 'because'>;
type Limit = Schemas['LimitFact'];

export interface Line {
  label: string;
  text: string;
}

/** The fact of a kind, where the explanation has one. */
export function fact<C extends Code>(state: Explained, code: C): Of<C> | undefined {
  return state.because.find((one): one is Of<C> => one.code === code);
}

function all<C extends Code>(state: Explained, code: C): Of<C>[] {
  return state.because.filter((one): one is Of<C> => one.code === code);
}

type Since = Of<'since_service' | 'since_look' | 'since_unknown' | 'since_fitted' | 'since_new'>;

/** "since the last wash (12 Nov)", "since it was new (22 Sep)". */
function since(state: Explained): string {
  const known = state.because.find((one): one is Since => one.code.startsWith('since_'));
  switch (known?.code) {
    case 'since_service':
      return `since the last ${doingWord(known.action)} (${day(known.day)})`;
    case 'since_look':
      return `since the look that settled it (${day(known.day)})`;
    case 'since_unknown':
      return `since set-up (${day(known.day)}), and nobody knows how much before`;
    case 'since_fitted':
      return `since it went in clean (${day(known.day)})`;
    case 'since_new':
      return `since it was new (${day(known.day)})`;
    case undefined:
      return '';
  }
}

/** "every 7 days of usual use, which is 5 h"; "when you find it needs it". */
export function limit(of: Omit<Limit, 'clock'>): string {
  if (of.meter === 'condition') return 'when you find it needs it';
  if (of.meter === 'mishaps') return of.after ? MISHAP[of.after] : '';
  if (of.calendar === 'stands_for_use') {
    return `every ${plural(Math.round(of.figure), 'day')} of usual use, which is ${figure(of.limit)}\u00a0h`;
  }
  return `every ${of.meter === 'days' ? plural(Math.round(of.figure), 'day') : amount(of.meter, of.figure)}`;
}

/** "5.6 h of running since the last wash (12 Nov); the book says every 7 days of usual use, which is 5 h." */
export function reason(state: Explained): string {
  const trigger = fact(state, 'trigger');
  if (!trigger) return '';
  if (trigger.meter === 'mishaps') return `${capital(limit(trigger))}, ${since(state)}.`;
  if (trigger.meter === 'condition') {
    return trigger.used >= 1
      ? `It was found in need of it, ${since(state)}.`
      : 'No date: it is done when you find it needs it.';
  }
  if (fact(state, 'since_unknown')) {
    return `Nobody knows when it was last done, so it may be anywhere in its interval (${limit(trigger)}). One look settles it.`;
  }
  return `${amount(trigger.clock, trigger.used)} ${since(state)}; ${sayer(state, trigger)} ${limit(trigger)}.`;
}

/** What hangs on it, as the book says. */
export const stakes = (state: Explained): string => fact(state, 'book')?.reason ?? '';

/** Who or what makes the limit what it is. */
function sayer(state: Explained, trigger: Of<'trigger'>): string {
  const kind = fact(state, 'book')?.figure_kind;
  if (fact(state, 'own_figure') || kind === 'household') return 'you set';
  if (shortened(trigger)) return 'what you found makes it';
  if (fact(state, 'told_filling')) return 'the sizes you gave say';
  if (Math.abs(trigger.by_load - trigger.high) > 0.005 && trigger.index !== null) return 'your home makes it';
  return kind === 'printed' ? 'the label says' : 'the book says';
}

/** Whether what was found, and not the book or the school, sets the limit. */
function shortened(trigger: Of<'trigger'>): boolean {
  return Math.abs(trigger.figure - Math.min(trigger.by_load, trigger.cap)) > 0.005;
}

/** What the last looks say against what was believed; null where they do not. */
export function contradicted(state: Explained): string | null {
  const known = fact(state, 'contradicted');
  if (!known) return null;
  return `Three looks in a row say that it gets dirty ${known.way > 0 ? 'faster' : 'more slowly'} than it used to.`;
}

/** The whole explanation as labelled lines, for "why this date". */
export function why(state: State, today: string): Line[] {
  if (!fact(state, 'trigger')) return [];
  return CODES.flatMap((code) => said(code, state, today));
}

function said<C extends Code>(code: C, state: State, today: string): Line[] {
  const facts = all(state, code);
  const made = facts.length ? LINES[code](facts, state, today) : [];
  return Array.isArray(made) ? made : [made];
}

type Say<C extends Code> = (facts: Of<C>[], state: State, today: string) => Line | Line[];
const line = (label: string, text: string): Line => ({ label, text });
const within = (): Line[] => [];

/** A line for each kind of fact, in the order they are told; `within` is said by another line. */
const LINES: { [C in Code]: Say<C> } = {
  used: ([used], state) => line('Counted', used ? counted(used, state) : ''),
  mishap: ([known]) => line('Due at once', known ? MISHAP[known.kind] : ''),
  before_work: ([known]) =>
    line('Before', `${known ? doWord(known.action) : ''}: a look may spare it, so it comes no later`),
  seen_fine: ([known]) =>
    line('Seen since', `found ${seen(known)}, so what was counted before that counts for no more`),
  since_service: within,
  since_fitted: within,
  since_new: within,
  since_unknown: within,
  since_look: within,
  slot_empty: within,
  contradicted: within,
  trigger: ([trigger], state) =>
    line('Limit', trigger ? `${limit(trigger)} ${range(trigger, source(state))}` : ''),
  other_triggers: ([known]) => line('Or, if sooner', (known?.triggers ?? []).map(otherTrigger).join('; ')),
  own_figure: ([known]) => line('Your figure', known?.why ?? ''),
  told_filling: ([known]) => line('What you said', known ? toldFilling(known) : ''),
  learned: ([known]) => line('What you found', known ? learned(known) : ''),
  last_look: ([known]) => line('Last look', seen(known)),
  school: ([known], state) => line('School', known ? schoolLine(known, state) : ''),
  usual_use: ([known], state, today) => [
    line('Usual use', known ? usualUse(known) : ''),
    line('Expected', state.share >= 1 ? 'now' : when(state.due, today)),
  ],
  book: ([book]) => line('Why at all', book ? `${book.reason} (${KIND[book.figure_kind]})` : ''),
  load_event: (events) => line('Counts for more', events.map(eventLine).join('; ')),
  eased: () =>
    line('Let go', 'half as long again: here good enough is enough, and only smell or looks are at stake'),
  guard_missed: ([known]) =>
    line('Sooner', `${known?.part ?? ''} was left for twice its time, so dust may have come through`),
  print: (prints) => line('Others say', prints.map(print).join('; ')),
  counter: ([known]) => line('Its own counter', known ? counterLine(known) : ''),
  no_counter: () => line('Its own counter', 'none: no machine counts this part, so we do'),
  other_school: (schools, state) => {
    const here = fact(state, 'trigger');
    const differ = schools.filter((one) => !one.limit || !here || limit(one.limit) !== limit(here));
    return differ.length ? line('Other schools', differ.map(otherSchool).join('; ')) : [];
  },
};
const CODES = Object.keys(LINES) as Code[];

const KIND: Record<Schemas['Figure'], string> = {
  printed: 'printed on labels and in manuals',
  practice: 'from practice',
  ours: 'our own figure',
  household: 'your own figure',
};

const source = (state: Explained): string =>
  fact(state, 'book')?.figure_kind === 'printed' ? 'the label says' : 'the book says';

/** "clean (12 Nov)". */
function seen(known: { found: Schemas['Found']; day: string } | undefined): string {
  return known ? `${FOUND[known.found].toLowerCase()} (${day(known.day)})` : '';
}

function counted(used: Of<'used'>, state: State): string {
  const assumed = used.assumed_h;
  const guess = assumed > 0.05 ? ` (${figure(assumed)} h of it assumed from the usual week)` : '';
  const fills = fact(state, 'trigger')?.clock === 'fills' ? used.assumed_fills : 0;
  const full = fills > 0.05 ? `, ${figure(fills)} full bins assumed, since no emptying was recorded` : '';
  return `${plural(Math.round(used.runs), 'run')}, ${figure(used.run_hours)} h${guess}${full}, ${since(state)}`;
}

/** "by the sizes you gave, a filling takes about 1.8 weeks at 5.8 h of running a week". */
function toldFilling(known: Of<'told_filling'>): string {
  const pace = amount('run_hours', known.hours_per_week);
  return `by the sizes you gave, a filling takes about ${plural(known.weeks, 'week')} at ${pace} a week`;
}

/** "loads 1.4 times as fast as the book says (1.1–1.9), from 3 looks; the last: far gone (12 Nov)". */
function learned(known: Of<'learned'>): string {
  const band = `${figure(known.p10)}–${figure(known.p90)}`;
  const looks = `${plural(known.looks, 'look')}; the last: ${seen({ found: known.last_found, day: known.last_day })}`;
  const speed = Math.abs(known.factor - 1) < 0.05 ? 'as fast' : `${figure(known.factor)} times as fast`;
  return `loads ${speed} as the book says (${band}), from ${looks}`;
}

/** What the household's school makes of the range, and why it has a rule of its own, if it has. */
function schoolLine(known: Of<'school'>, state: State): string {
  if (fact(state, 'own_figure')) return 'your own figure: no school, household or find moves it';
  const own = known.why ? ` ${known.why}` : '';
  const label =
    fact(state, 'book')?.figure_kind === 'printed'
      ? 'your household and what you find place it; never past the longer printed figure.'
      : 'nothing is printed, so your household and what you find place it in the range.';
  const free =
    known.stretch > 1
      ? `your household places it in the range; what you find may stretch it to ${figure(known.stretch)} times the longer figure.`
      : 'your household places it in the range; this one is never stretched past the longer figure.';
  return `${SCHOOL[known.school]}: ${known.school === 'label' ? label : free}${own}`;
}

/** "Workshop: every 10 runs (freed every run or two)". */
function otherSchool(known: Of<'other_school'>): string {
  const own = known.why ? ` (${known.why})` : '';
  return `${SCHOOL[known.school]}: ${known.limit ? limit(known.limit) : 'does without'}${own}`;
}

function eventLine(event: Of<'load_event'>): string {
  return `${event.note || `more ${event.kind}`}, ${day(event.first)} to ${day(event.last)}`;
}

function counterLine(known: Of<'counter'>): string {
  const said = `on ${day(known.day)} it said ${figure(known.counter_h)} h used, we counted ${figure(known.ours_h)} h`;
  if (known.chosen) {
    return known.ignored
      ? `${said}; you let ours count on`
      : `${said}; from there on the machine's own figure counts, as you said`;
  }
  return known.looks_reset
    ? `${said}; that looks like a reset after a cleaning, so ours counts on`
    : `${said}; from there on the machine's own figure counts`;
}

const BY: Record<Schemas['Figure'], string> = {
  printed: 'printed',
  practice: 'in practice',
  ours: 'our own',
  household: 'your own',
};

/** "every 3 months (printed: the ones after them)". */
const print = (known: Of<'print'>): string => `${known.figure} (${BY[known.by]}: ${known.told})`;

/** "4.2 h in 5 runs a week, since 20 Nov: weeks before that tell nothing of it". */
function usualUse(usual: Of<'usual_use'>): string {
  const use = `${figure(usual.hours_per_week)} h in ${plural(usual.runs_per_week, 'run')} a week`;
  return usual.changed
    ? `${use} since ${day(usual.changed)}; the weeks before no longer count for dates`
    : use;
}

/** "(the label says 7 to 14 days)", also where the home or what was found makes another figure of it. */
function range(trigger: Of<'trigger'>, source: string): string {
  const most = amount(trigger.meter, trigger.high);
  if (trigger.low < trigger.high) return `(${source} ${figure(trigger.low)} to ${most})`;
  return trigger.figure === trigger.high ? '' : `(${source} ${most})`;
}

function otherTrigger(trigger: Schemas['TriggerFact']): string {
  if (trigger.clock === 'condition' || trigger.clock === 'mishaps') return limit(trigger);
  return `${limit(trigger)} (now ${bare(trigger.clock, trigger.used)})`;
}
