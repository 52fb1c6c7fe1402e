/** What a chamber says under itself and to a screen reader. */
import { percent, span } from '../words/format';
import { LEVEL, shortWord } from '../words/tasks';
import type { Chamber } from './layout';

/** The short line under a chamber: only what wants attention says something. */
export function tag(chamber: Chamber, now: string, slim = false): string {
  switch (chamber.level) {
    case 'due':
    case 'overdue':
      return chamber.action ? shortWord(chamber.action) : '';
    case 'drying':
      if (!chamber.ready_at) return 'on the rack';
      return Date.parse(chamber.ready_at) > Date.parse(now)
        ? `dry in ${span(now, chamber.ready_at)}`
        : 'feel if dry';
    case 'missing':
      return 'empty';
    case 'unknown':
      return slim ? 'look' : 'look once';
    case 'wearing':
    case 'fresh':
      return slim ? percent(chamber.fill) : `${percent(chamber.fill)} used`;
    default:
      return '';
  }
}

/** Begins with what can be read, so that it can be asked for by voice. */
export function spoken(chamber: Chamber, now: string): string {
  if (chamber.level === null) return `${chamber.label}: nothing to look after here`;
  const text = tag(chamber, now);
  return `${chamber.label}${text ? ` ${text}` : ''}, ${LEVEL[chamber.level]}`;
}
