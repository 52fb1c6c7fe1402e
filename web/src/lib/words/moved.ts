/** How a look moved a date, in words: "Wash: was in about 9 days (6-14), is now." */
import type { Schemas } from '../api/client';
import { when } from './format';
import { byFinding, doWord } from './tasks';

type State = Pick<Schemas['StateOut'], 'action' | 'about' | 'share' | 'due' | 'level' | 'clocks'>;

function expected(state: State, today: string): string {
  if (state.share >= 1) return 'now';
  return byFinding(state) ? 'when you find it needs it' : when(state.due, today);
}

export function moved(before: State | null, after: State | null, today: string): string {
  if (!after) return '';
  const does = doWord(after.action);
  const name = does.charAt(0).toUpperCase() + does.slice(1);
  const now = expected(after, today);
  if (!before) return `${name}: ${now}.`;
  const was = expected(before, today);
  if (before.level === 'unknown') return `${name}: not known before, ${now} now that you looked.`;
  return was === now ? `${name}: stays at ${now}.` : `${name}: was ${was}, is ${now}.`;
}
