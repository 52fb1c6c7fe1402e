/** Tasks, answers, meters and schools in words. */
import type { Schemas } from '../api/client';
import { DEEDS, SAW } from '../api/gen/bounds';
import { figure, plural } from './format';

export { SAW };
type Action = Schemas['Action'];
type Level = Schemas['Level'];
type State = Schemas['StateOut'];
type Clock = Schemas['ClockOut'];

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

export const doWord = (action: Action): string => DEEDS[action].ask;
export const shortWord = (action: Action): string => DEEDS[action].brief;
export const didWord = (action: Action): string => DEEDS[action].done;
/** "wash", "emptying", after "the last". */
export const doingWord = (action: Action): string => DEEDS[action].noun;

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

export const SCHOOL: Record<Schemas['School'], string> = {
  label: 'By the label',
  workshop: 'Workshop',
  thrifty: 'Keep it going',
};
