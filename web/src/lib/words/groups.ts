/** Due tasks put together where one opening serves several, and sorted where they have become a wall. */
import type { Schemas } from '../api/client';

type Task = Schemas['TaskOut'];

export interface Group {
  key: string;
  opening: string | null;
  machine: string;
  tasks: Task[];
}

export const taskKey = (task: Pick<Task, 'machine_id' | 'slot' | 'action'>): string =>
  `${task.machine_id}/${task.slot}/${task.action}`;

/** What goes together by a key, each group in the place of its first. */
export function grouped<T>(all: T[], key: (one: T) => string): T[][] {
  const made = new Map<string, T[]>();
  for (const one of all) {
    const group = made.get(key(one));
    if (group) group.push(one);
    else made.set(key(one), [one]);
  }
  return [...made.values()];
}

/** A group takes the place of the first of its tasks. */
export function byOpening(tasks: Task[]): Group[] {
  const key = (task: Task) =>
    task.opening && !task.hand_over ? `${task.machine_id}/${task.opening}` : taskKey(task);
  return grouped(tasks, key).flatMap((group) => {
    const [first] = group;
    return first
      ? [{ key: key(first), opening: first.opening, machine: first.machine_name, tasks: group }]
      : [];
  });
}

/** What is due and does not wait for a visit on a later day, and what does. */
export function byVisit(round: Schemas['RoundOut']): { today: Task[]; later: Task[] } {
  const waits = new Set(round.ahead?.later.map(taskKey));
  return {
    today: round.due.filter((task) => !waits.has(taskKey(task))),
    later: round.due.filter((task) => waits.has(taskKey(task))),
  };
}

/** More than anybody reads through: from here on what is small waits behind one line. */
const WALL = 12;

/** What is shown of the due tasks at first, and what waits behind one line: the small ones (`small`), else the last. */
export function sorted(tasks: Task[]): { first: Task[]; rest: Task[]; small: boolean } {
  if (tasks.length <= WALL) return { first: tasks, rest: [], small: false };
  const weighty = tasks.filter((task) => !task.small);
  const first = (weighty.length ? weighty : tasks).slice(0, WALL);
  const rest = tasks.filter((task) => !first.includes(task));
  return { first, rest, small: weighty.length > 0 && rest.every((task) => task.small) };
}
