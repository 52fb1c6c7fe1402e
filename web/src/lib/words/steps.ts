/** The steps of a sheet in words: what the step is called, and what each answer says. */
import type { Schemas } from '../api/client';
import { capital } from './format';
import { didWord, doWord, follows, FOUND, GONE } from './tasks';

type Step = Schemas['StepOut'];

export function title(step: Step): string {
  const item = step.item_name ?? step.slot_name ?? '';
  switch (step.kind) {
    case 'gate':
      return step.title || `${step.machine_name}: make it safe first`;
    case 'hand_over':
      return `${item}: ${step.action ? doWord(step.action) : ''}, by somebody able`;
    case 'open':
      return `Open the ${step.opening_name ?? ''}`;
    case 'take_out':
      return `Take out: ${item}`;
    case 'look':
      return `${item}: what do you see?`;
    case 'clean':
    case 'clean_in_place':
    case 'wash':
      return `${item}: ${step.action ? doWord(step.action) : 'clean'}`;
    case 'rack':
      return `${item}: on the rack`;
    case 'retire':
      return `${item}: away, the new one beside it`;
    case 'dry_check':
      return `${item}: any trace of damp?`;
    case 'fit':
      return `Put in: ${item}`;
    case 'test':
      return `${item}: is this so?`;
    case 'counter':
      return step.item_name ? `${item}: tell the machine` : `${step.machine_name}: its own list`;
    case 'power':
      return `${step.machine_name}: power on, and listen`;
    case 'close':
      return step.title || `Close the ${step.opening_name ?? ''}`;
  }
}

/** The short name in the list of steps. */
export function short(step: Step): string {
  if (step.kind === 'look') return `${step.item_name ?? ''}: look`;
  if (step.kind === 'test') return `${step.item_name ?? ''}: test`;
  if (step.kind === 'dry_check') return `${step.item_name ?? ''}: dry?`;
  return title(step);
}

/** Words that the book leaves to us, where a step has none of its own. */
export function extra(step: Step): string[] {
  if (step.kind === 'rack') {
    const rests = step.floor_h
      ? `It rests at least ${step.floor_h} hours, however dry it feels.`
      : 'No rest is prescribed: feel whether it is dry.';
    const how = step.action === 'air' ? 'It hangs open in moving air.' : 'Stand it on edge in free air.';
    return [
      `${how} ${rests}`,
      'Heat and softener do harm; sun, a dehumidifier, a draught or the warm place beside a dryer, not in it, help.',
    ];
  }
  if (step.kind === 'dry_check') {
    const dry = 'Feel deep between the pleats and press dry paper against them.';
    return step.answers.includes('again')
      ? [dry, 'And look once more, now that it is dry: is it clean?']
      : [dry];
  }
  if (step.kind === 'look' && step.action && step.text.length) {
    return ['Your answer moves the next date.'];
  }
  if (step.kind === 'retire' && step.answers.length > 2) {
    return ['Why does the old one go? It teaches how long they last here.'];
  }
  if (step.kind === 'look') return ['Before you clean it: your answer moves the next date.'];
  return [];
}

export interface Choice {
  value: string;
  text: string;
  more: string;
  /** Enter presses it. */
  main: boolean;
  /** What one may see besides: shown on demand. */
  besides?: boolean;
}

/** What is said of something that does not go in, or does not close. */
export const STUCK: Partial<Record<Step['kind'], { ask: string; left: string }>> = {
  fit: { ask: 'It will not go in…', left: 'would not go in' },
  close: { ask: 'It does not close or click…', left: 'would not close' },
};

const DONE: Partial<Record<Step['kind'], string>> = {
  gate: 'It is so',
  open: 'It is open',
  take_out: 'It is out',
  clean: 'Done',
  clean_in_place: 'Done',
  rack: 'It is on the rack',
  retire: 'The new one fits',
  fit: 'It is in',
  close: 'It is closed',
  counter: 'It is set back',
};

/** "It is washed", "It is wiped": of work with water by what was done. */
function doneWord(step: Step): string {
  if (step.kind === 'wash' && step.action) return `It is ${didWord(step.action)}`;
  return DONE[step.kind] ?? 'Done';
}

/** The other answer to a gate. */
function notNow(step: Step): { text: string; more: string } {
  return step.title
    ? { text: step.no, more: step.no_more }
    : { text: 'Not now', more: 'This machine is left as it is' };
}

/** What a failed test leads to. */
const UNTIL_RIGHT: Record<string, { text: string; more: string }> = {
  fail: { text: 'No, not yet', more: 'Step back and do it again; left so, it stays due' },
  'replace:due': { text: 'No, it needs a new one', more: 'A new one is due when this sitting ends' },
};

/** What the answer of a step that counts screws begins with; the number follows. */
export const SCREWS = 'screws:';

/** How many screws an answer counts; null where it counts none. */
export function screwsIn(value: string | null | undefined): number | null {
  return value?.startsWith(SCREWS) ? Number(value.slice(SCREWS.length)) : null;
}

/** The answers as buttons, the main one first; a skip asks for its reason elsewhere. */
export function choices(step: Step): Choice[] {
  return step.answers
    .filter((value) => (value !== 'skip' || step.kind === 'gate') && !value.startsWith(SCREWS))
    .map((value) => {
      if (step.found_words && value in FOUND) {
        const words = step.found_words[value] ?? '';
        return { value, text: FOUND[value as Schemas['Found']], more: capital(words), main: false };
      }
      const seen = step.found_words?.[value];
      if (seen !== undefined) {
        const main = Object.keys(step.found_words ?? {}).indexOf(value) < 4;
        const [about, found] = value.split(':') as [Schemas['Action'], Schemas['Found']];
        const more = value.startsWith('danger:')
          ? 'The work on it ends; it is out of use'
          : follows(about, found);
        return { value, text: capital(seen), more, main: false, besides: !main };
      }
      if (step.kind === 'test' && value in UNTIL_RIGHT) {
        return { value, ...UNTIL_RIGHT[value], main: false } as Choice;
      }
      if (step.kind === 'retire' && value in GONE) {
        return { value, text: GONE[value as Schemas['Gone']], more: 'and the new one fits', main: false };
      }
      const danger = step.dangers.find((one) => one.value === value);
      if (danger)
        return { value, text: danger.seen, more: 'The work on it ends; it is out of use', main: false };
      if (step.kind === 'gate' && value === 'skip') return { value, ...notNow(step), main: false };
      const text: Record<string, string> = {
        done: step.yes || doneWord(step),
        unsure: 'Cannot tell',
        dry: step.kind === 'rack' ? 'It is wiped dry: back in now' : 'Bone dry',
        damp: 'Still damp',
        again: 'Dry, but not clean: washed again',
        pass: 'Yes',
        fail: 'No, not yet',
      };
      const why = step.kind === 'retire' && step.answers.length > 2;
      const rests: Record<string, string> = {
        damp: 'It rests 12 hours more',
        again: 'It hangs again, for as long as after any wash',
      };
      const more = rests[value] ?? (why ? 'Not saying why the old one goes' : '');
      if (step.kind === 'power') text.pass = 'All as it should be';
      if (step.kind === 'test' && step.answers.length === 1) text.pass = 'It is so';
      if (step.kind === 'counter' && !step.item_name) text.done = 'Ticked off, or it asks for none';
      return { value, text: text[value] ?? value, more, main: value === 'done' || value === 'pass' };
    });
}
