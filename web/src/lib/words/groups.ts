/** Due tasks put together where one opening serves several: they take the place of the first of them. */
import type { Schemas } from '../api/client';

type Task = Schemas['TaskOut'];

export interface Group {
  key: string;
  opening: string | null;
  machine: string;
  tasks: Task[];
}

export function byOpening(tasks: Task[]): Group[] {
  const made = new Map<string, Group>();
  for (const task of tasks) {
    const own = `${task.machine_id}/${task.slot}/${task.action}`;
    const key = task.opening && !task.hand_over ? `${task.machine_id}/${task.opening}` : own;
    const group = made.get(key);
    if (group) group.tasks.push(task);
    else made.set(key, { key, opening: task.opening, machine: task.machine_name, tasks: [task] });
  }
  return [...made.values()];
}
