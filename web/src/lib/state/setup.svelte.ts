import { v4 as uuid } from 'uuid';

import { ask, client, type Schemas } from '../api/client';
import { house, type Replacing } from './house.svelte';
import { type Load, loaded, PENDING } from './load';

export type Kind = Schemas['KindOut'];
type Question = Schemas['QuestionOut'];
export type Past = 'new' | 'unknown' | 'day';

export type Weekday = Schemas['WeekIn']['days'][number];
export const DAYS: Record<Weekday, string> = {
  MO: 'Mon',
  TU: 'Tue',
  WE: 'Wed',
  TH: 'Thu',
  FR: 'Fri',
  SA: 'Sat',
  SU: 'Sun',
};
export const WEEK = Object.keys(DAYS) as Weekday[];

/** What decides about water on a part and has to be seen on it. */
export type Asked = 'marked' | 'wires';
const isAsked = (trait: Schemas['Trait']): trait is Asked => trait in NOT_SEEN;
const NOT_SEEN: Record<Asked, Record<string, Schemas['Mark']>> = { marked: {}, wires: {} };

/** A machine being set up: the answers that lead to its kind, and what is told of it. Nothing is kept until it is added. */
export class SetUpState {
  catalogue = $state.raw<Load<Schemas['CatalogueOut']>>(PENDING);
  answers = $state.raw<Record<string, string>>({});
  kind = $state.raw<Kind | null>(null);
  typedName = $state<string | null>(null);
  dock = $state<string | null>(null);
  serves = $state('');
  /** Features that are there; what is not known counts as not there. */
  features = $state.raw<Record<string, 'yes' | 'no' | 'unknown'>>({});
  days = $state<Weekday[]>(WEEK.slice(0, 5));
  /** Once in how many days it runs; null for days of the week. */
  every = $state<number | null>(null);
  typedMinutes = $state<number | null>(null);
  starts = $state('');
  silent = $state<Schemas['Silence'] | null>(null);
  past = $state<Past>('unknown');
  lastDone = $state('');
  bought = $state('');
  /** Parts that were seen to on another day than the rest; '' is "do not know". */
  parts = $state.raw<Record<string, string>>({});
  spares = $state.raw<Record<string, number>>({});
  /** What somebody saw of parts that may get wet by it: a mark, wires in it; what is not told stays dry. */
  seen = $state.raw<Record<Asked, Record<string, Schemas['Mark']>>>(NOT_SEEN);
  upkeep = $state.raw<Schemas['UpkeepOut'] | null>(null);

  private all = $derived(this.catalogue.status === 'ok' ? this.catalogue.data : null);
  /** The kinds that fit every answer so far; one that does not answer a question fits any answer. */
  fitting = $derived(
    (this.all?.kinds ?? [])
      .filter((kind) =>
        Object.entries(this.answers).every(([key, value]) => (kind.traits[key] ?? value) === value),
      )
      .sort((a, b) => this.place(a) - this.place(b)),
  );
  /** The questions answered already, and the next one that still tells the fitting kinds apart. */
  answered = $derived((this.all?.questions ?? []).filter((question) => question.key in this.answers));
  next = $derived(
    (this.all?.questions ?? []).find(
      (question) => !(question.key in this.answers) && this.splits(question),
    ) ?? null,
  );
  docks = $derived((this.all?.kinds ?? []).filter((kind) => kind.serves));
  minutes = $derived(this.typedMinutes ?? this.kind?.usual_run_min ?? 25);
  silence = $derived(this.silent ?? this.kind?.silence ?? 'ran');
  chosenFeatures = $derived(Object.keys(this.features).filter((key) => this.features[key] === 'yes'));
  /** The parts this one has: those that hang on a feature only with it. */
  ownParts = $derived(
    (this.kind?.parts ?? []).filter(
      (part) =>
        (!part.only_with || this.chosenFeatures.includes(part.only_with)) &&
        (!part.unless_with || !this.chosenFeatures.includes(part.unless_with)),
    ),
  );
  /** What is asked of its parts before they may get wet. */
  asked = $derived(
    this.ownParts.flatMap((part) => part.asks.flatMap((trait) => (isAsked(trait) ? [{ part, trait }] : []))),
  );
  filters = $derived(this.ownParts.filter((part) => part.is_filter));
  /** Filters that may be washed as far as is told, while which dry the machine would wait. */
  waits = $derived(
    this.filters
      .filter(
        (part) => part.stops && (!part.asks.includes('marked') || this.seen.marked[part.slot] === 'yes'),
      )
      .map((part) => part.name),
  );

  async load(): Promise<void> {
    this.catalogue = loaded(await ask(client.GET('/api/kinds')));
  }

  /** Where a kind stands among the pictures: as the first question names its answers. */
  private place(kind: Kind): number {
    const [first] = this.all?.questions ?? [];
    return first ? Object.keys(first.answers).indexOf(kind.traits[first.key] ?? '') : 0;
  }

  private splits(question: Question): boolean {
    const answers = this.fitting.map((kind) => kind.traits[question.key]).filter((one) => one !== undefined);
    return answers.some((one) => one !== answers[0]);
  }

  /** The answers of a question that some fitting kind gives. */
  offered(question: Question): [string, string][] {
    const others = (this.all?.kinds ?? []).filter((kind) =>
      Object.entries(this.answers).every(
        ([key, value]) => key === question.key || (kind.traits[key] ?? value) === value,
      ),
    );
    return Object.entries(question.answers).filter(([key]) =>
      others.some((kind) => kind.traits[question.key] === key),
    );
  }

  answer(question: string, value: string): void {
    if (this.answers[question] === value) {
      this.answers = Object.fromEntries(Object.entries(this.answers).filter(([key]) => key !== question));
    } else {
      this.answers = { ...this.answers, [question]: value };
    }
  }

  choose(kind: Kind | null): void {
    this.kind = kind;
    [this.typedMinutes, this.silent, this.dock, this.typedName] = [null, null, null, null];
    [this.features, this.parts, this.spares, this.seen, this.upkeep] = [{}, {}, {}, NOT_SEEN, null];
    if (kind) void this.foresee();
  }

  /** The name it gets unless somebody types one: the kind's, made unique. */
  name(taken: string[]): string {
    if (this.typedName !== null) return this.typedName;
    const wanted = this.kind?.name ?? '';
    const lower = taken.map((one) => one.toLowerCase());
    for (let n = 1; ; n++) {
      const name = n === 1 ? wanted : `${wanted} ${n}`;
      if (!lower.includes(name.toLowerCase())) return name;
    }
  }

  private week() {
    const every = this.kind?.serves ? null : this.every;
    return {
      days: this.kind?.serves || every ? [] : this.days,
      every,
      minutes: this.minutes,
      starts: this.starts || null,
      mops: Boolean(
        this.kind && !this.kind.serves && (this.kind.mops || this.chosenFeatures.includes('mops')),
      ),
      silence: this.silence,
    };
  }

  saw(trait: Asked, slot: string, mark: Schemas['Mark']): void {
    this.seen = { ...this.seen, [trait]: { ...this.seen[trait], [slot]: mark } };
    void this.foresee();
  }

  /** What it would take to keep: asked again when the week or the dock changes. */
  async foresee(): Promise<void> {
    if (!this.kind || !(this.minutes > 0)) return;
    const { chosenFeatures: features, dock, seen } = this;
    const body = { ...this.week(), archetype: this.kind.key, features, dock, ...seen };
    const answer = await ask(client.POST('/api/kinds/upkeep', { body }));
    if (answer.ok) this.upkeep = answer.data;
  }

  private earlier(): Schemas['EarlierIn'] | null {
    if (this.past === 'new') return null;
    const parts = Object.fromEntries(Object.entries(this.parts).map(([slot, day]) => [slot, day || null]));
    return {
      bought: this.bought || null,
      last_done: this.past === 'day' ? this.lastDone || null : null,
      parts,
    };
  }

  private spareParts(): Schemas['SpareIn'][] {
    const letters = 'BCDEFGH';
    return Object.entries(this.spares).flatMap(([slot, count]) => {
      const part = this.ownParts.find((one) => one.slot === slot);
      return [...letters.slice(0, count)].map((letter) => ({
        slot,
        name: `${part?.name ?? slot} ${letter}`,
      }));
    });
  }

  /** Add it, and its dock; gives its id, or null when it was refused. */
  async add(taken: string[], old: Replacing | null): Promise<string | null> {
    if (!this.kind) return null;
    const [id, name] = [uuid(), this.name(taken).trim()];
    const dock = this.dock ? { id: uuid(), name: `${name}: dock`.slice(0, 60), archetype: this.dock } : null;
    const machine = {
      ...this.week(),
      id,
      name,
      archetype: this.kind.key,
      features: this.chosenFeatures,
      serves: this.serves || null,
      earlier: this.earlier(),
      spares: this.spareParts(),
      ...this.seen,
      dock,
    };
    return (await house.addMachine(machine, old)) ? id : null;
  }
}
