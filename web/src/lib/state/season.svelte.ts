import { ask, client, type Schemas } from '../api/client';
import { daysAfter, daysBefore, asDay } from '../words/format';
import { house } from './house.svelte';
import { askOrKept } from './kept';
import { type Load, loaded, PENDING, Turns } from './load';

export type Season = Schemas['SeasonOut'];
export type Visit = Schemas['VisitOut'];
export type Job = Schemas['JobOut'];

/** A chore as it is named when something is asked of it. */
export const choreOf = ({ machine_id, slot, action }: Schemas['ChoreIn']): Schemas['ChoreIn'] => ({
  machine_id,
  slot,
  action,
});

/** The season as it was planned last. What is asked of it is recorded first; then it is planned around that. */
export class SeasonState {
  load = $state.raw<Load<Season>>(PENDING);
  /** When what is shown was got, where nothing is reached now. */
  since = $state<string | null>(null);
  /** It is being planned anew. */
  planning = $state(false);
  private turns = new Turns();
  season = $derived(this.load.status === 'ok' ? this.load.data : null);

  async refresh(): Promise<void> {
    this.planning = true;
    const seen = await this.turns.latest(askOrKept('season', client.GET('/api/season')));
    if (!seen) return;
    [this.load, this.since, this.planning] = [loaded(seen.answer), seen.since, false];
  }

  /** On which days visits are liked. */
  keepHabits(habits: Schemas['HabitsIn'], text: string): Promise<boolean> {
    return this.record(house.record(client.POST('/api/season/habits', { body: habits }), text));
  }

  /** Chores on a day. */
  putOn(day: string, jobs: Schemas['ChoreIn'][], text: string): Promise<boolean> {
    return this.wish({ what: 'on', first: day, last: day, chores: jobs.map(choreOf) }, text);
  }

  /** No visit on a day. */
  skip(day: string, text: string): Promise<boolean> {
    return this.wish({ what: 'no_visit', first: day, last: day }, text);
  }

  /** No visit in the week, from Monday to Sunday, that a day lies in; as far as it is still to come. */
  notThatWeek(day: string, today: string, text: string): Promise<boolean> {
    const monday = daysBefore(day, (asDay(day).getDay() + 6) % 7);
    const first = monday < today ? today : monday;
    return this.wish({ what: 'no_visit', first, last: daysAfter(monday, 6) }, text);
  }

  /** Chores are not done on a day. */
  leaveOut(day: string, jobs: Job[], text: string): Promise<boolean> {
    return this.wish({ what: 'leave_out', first: day, last: day, chores: jobs.map(choreOf) }, text);
  }

  /** A wish is taken back. */
  async takeBack(entry_id: string): Promise<void> {
    await house.undo(entry_id);
    await this.refresh();
  }

  private wish(
    body: Omit<Schemas['WishIn'], 'note' | 'chores'> & { chores?: Schemas['ChoreIn'][] },
    text: string,
  ) {
    const wish = { note: '', chores: [], ...body };
    return this.record(house.record(client.POST('/api/season/wishes', { body: wish }), text));
  }

  private async record(written: Promise<boolean>): Promise<boolean> {
    this.planning = true;
    const done = await written;
    if (done) await this.refresh();
    else this.planning = false;
    return done;
  }
}

/** The season where it was planned already, for Round. */
export async function seasonNow(): Promise<Season | null> {
  const answer = await ask(client.GET('/api/season'));
  return answer.ok ? answer.data : null;
}
