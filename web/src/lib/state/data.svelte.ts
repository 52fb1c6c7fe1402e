import { type Answer, ask, client, type Problem, type Schemas } from '../api/client';
import { type Load, loaded, PENDING } from './load';

export type Brought = Schemas['FromFileOut'];
type Runs = Schemas['RunsOut'];

/** A file as a form: its contents go as they are. */
function asForm(body: object): FormData {
  const form = new FormData();
  for (const [name, value] of Object.entries(body)) form.append(name, value as Blob);
  return form;
}
const sent = (file: File) => ({ body: { file: file as unknown as string }, bodySerializer: asForm });

/** A file that is brought in: looked at first, then done. */
export class Incoming<T> {
  file = $state.raw<File | null>(null);
  seen = $state.raw<T | null>(null);
  done = $state.raw<T | null>(null);
  problem = $state.raw<Problem | null>(null);
  busy = $state(false);

  constructor(
    private readonly looks: (file: File) => Promise<Answer<T>>,
    private readonly brings: (file: File, me: string | null) => Promise<Answer<T>>,
  ) {}

  async look(file: File | null): Promise<void> {
    [this.file, this.seen, this.done, this.problem] = [file, null, null, null];
    if (file) this.seen = await this.asked(this.looks(file));
  }

  async bring(me: string | null = null): Promise<boolean> {
    if (!this.file) return false;
    this.done = await this.asked(this.brings(this.file, me));
    if (this.done) this.seen = null;
    return this.done !== null;
  }

  private async asked(request: Promise<Answer<T>>): Promise<T | null> {
    this.busy = true;
    const answer = await request;
    this.busy = false;
    this.problem = answer.ok ? null : answer.problem;
    return answer.ok ? answer.data : null;
  }
}

/** A household from a document. */
export const incomingHousehold = () =>
  new Incoming<Brought>(
    (file) => ask(client.POST('/api/document/look', sent(file))),
    (file, me) => ask(client.POST('/api/document', { ...sent(file), params: { query: me ? { me } : {} } })),
  );

/** Runs from a table. */
export const incomingRuns = () =>
  new Incoming<Runs>(
    (file) => ask(client.POST('/api/runs/look', sent(file))),
    (file) => ask(client.POST('/api/runs', sent(file))),
  );

/** Copies of everything, for whoever looks after the installation. */
export class CopiesState {
  load = $state.raw<Load<Schemas['CopiesOut']>>(PENDING);
  problem = $state.raw<Problem | null>(null);
  /** The copy that is looked into, and what it holds. */
  open = $state.raw<{ name: string; inside: Schemas['InsideOut'] } | null>(null);
  /** What was there before something was restored: restoring it undoes that. */
  before = $state.raw<Schemas['CopyOut'] | null>(null);
  busy = $state(false);

  async refresh(): Promise<void> {
    this.load = loaded(await ask(client.GET('/api/copies')));
  }

  async make(): Promise<void> {
    if ((await this.asked(client.POST('/api/copies'))) !== null) await this.refresh();
  }

  async look(name: string): Promise<void> {
    if (this.open?.name === name) return void (this.open = null);
    const inside = await this.asked(client.GET('/api/copies/{name}', { params: { path: { name } } }));
    if (inside) this.open = { name, inside };
  }

  /** Put a copy in the place of everything. */
  async restore(name: string): Promise<boolean> {
    const params = { path: { name } };
    const done = await this.asked(client.POST('/api/copies/{name}/restore', { params }));
    if (done) [this.before, this.open] = [done.before, null];
    return done !== null;
  }

  private async asked<T>(request: Parameters<typeof ask<T>>[0]): Promise<T | null> {
    this.busy = true;
    const answer = await ask<T>(request);
    this.busy = false;
    this.problem = answer.ok ? null : answer.problem;
    return answer.ok ? answer.data : null;
  }
}
