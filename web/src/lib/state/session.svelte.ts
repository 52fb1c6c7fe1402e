import { type Answer, ask, client, onSignedOut, type Problem, type Schemas } from '../api/client';
import { forget } from '../api/once';
import { type Load, loaded, PENDING } from './load';
import { outbox } from './outbox.svelte';
import { store } from './store';
import { theme } from './theme.svelte';
import { writeNumbers } from '../words/format';

const KEPT = 'yperon.signed-in';
/** Somebody signed out without a connection: the server is told as soon as it answers, before anything else is asked. */
const LEAVING = 'yperon.leaving';

/** Colours were chosen here and the server does not know it yet. */
const UNTOLD = 'yperon.theme-untold';

/** This page was loaded anew because somebody signed out here. */
const ANEW = 'yperon.anew';

/** Nothing of whoever was signed in stays in the memory of a page. */
function startAnew(): void {
  sessionStorage.setItem(ANEW, '1');
  location.hash = '#/';
  location.reload();
}

/** Who is signed in. */
export class SessionState {
  load = $state.raw<Load<Schemas['SessionOut']>>(PENDING);
  problem = $state.raw<Problem | null>(null);
  member = $derived(this.load.status === 'ok' ? this.load.data.member : null);
  us = $derived(this.member?.tastes.units === 'us');
  households = $derived(this.load.status === 'ok' ? this.load.data.households : []);
  first = $derived(this.load.status === 'ok' ? this.load.data.first : null);
  /** The last record when somebody was found signed in who is told at once of what is recorded elsewhere. */
  lastRecord = $derived(this.load.status === 'ok' ? this.load.data.last_record : null);
  /** How many times as fast the clock runs there. */
  speed = $derived(this.load.status === 'ok' ? this.load.data.speed : 1);
  mayWrite = $derived(this.member?.may_write ?? false);

  constructor() {
    onSignedOut(() => void this.refresh());
    addEventListener('storage', (event) => {
      if (event.key === KEPT && event.newValue === null && event.oldValue !== null) startAnew();
    });
    addEventListener('online', () => void (localStorage.getItem(LEAVING) && this.refresh()));
  }

  async refresh(): Promise<void> {
    if (localStorage.getItem(LEAVING) !== null && !(await this.left())) return;
    const anew = sessionStorage.getItem(ANEW) !== null;
    sessionStorage.removeItem(ANEW);
    let answer = await ask(client.GET('/api/session'));
    // The browser may have asked ahead, before the server knew that nobody is signed in here any more.
    if (anew && answer.ok && answer.data.member) answer = await ask(client.GET('/api/session'));
    const kept = localStorage.getItem(KEPT);
    // Without a connection whoever was signed in here last goes on; nothing is shown that this device does not hold.
    const held = !answer.ok && answer.problem.status === 0 && kept !== null;
    this.take(held ? { ok: true, data: JSON.parse(kept) as Schemas['SessionOut'] } : answer);
  }

  private take(answer: Answer<Schemas['SessionOut']>): void {
    this.load = loaded(answer);
    if (!answer.ok) return;
    if (answer.data.member) {
      localStorage.setItem(KEPT, JSON.stringify(answer.data));
      this.show(answer.data.member.tastes);
    } else localStorage.removeItem(KEPT);
    void outbox.become(answer.data.member?.id ?? null);
  }

  /** Show things as this person likes them. */
  private show(tastes: Schemas['TastesOut']): void {
    if (localStorage.getItem(UNTOLD)) void this.tellTheme();
    else theme.choose(tastes.theme);
    writeNumbers(tastes.numbers);
    document.documentElement.classList.toggle('large', tastes.text === 'large');
  }

  async signIn(user_name: string, password: string): Promise<void> {
    await this.enter(client.POST('/api/session', { body: { user_name, password } }));
  }

  /** The first household with its owner. */
  async makeFirst(body: Schemas['FirstIn']): Promise<void> {
    await this.enter(client.POST('/api/first', { body }));
  }

  /** Take an invitation; true when whoever took it is signed in then. */
  async accept(body: Schemas['AcceptIn']): Promise<boolean> {
    return this.enter(client.POST('/api/invited/accept', { body }));
  }

  private async enter(request: Parameters<typeof ask<Schemas['SessionOut']>>[0]): Promise<boolean> {
    const answer = await ask<Schemas['SessionOut']>(request);
    this.problem = answer.ok ? null : answer.problem;
    if (answer.ok) this.take(answer);
    return answer.ok;
  }

  /** How things are shown to this person, on every device. */
  async choose(tastes: Partial<Schemas['TastesOut']>): Promise<void> {
    await this.enter(client.PUT('/api/tastes', { body: tastes }));
  }

  /** The next way of colours; kept on this device alone where nobody is signed in or nothing answers. */
  async nextTheme(): Promise<void> {
    theme.next();
    if (!this.member) return;
    localStorage.setItem(UNTOLD, '1');
    await this.tellTheme();
  }

  /** Tell the server what was chosen here last, now or when the page is there again. */
  private async tellTheme(): Promise<void> {
    const chosen = theme.current;
    const answer = await ask(client.PUT('/api/tastes', { body: { theme: chosen } }));
    if (answer.ok && theme.current === chosen) localStorage.removeItem(UNTOLD);
  }

  /** Look at another household of one's own: nothing of the one before stays in the memory of the page. */
  async lookAt(household_id: string): Promise<void> {
    if (await this.enter(client.PUT('/api/session/household', { body: { household_id } })))
      await this.startOver();
  }

  /** Another household, of which this person is the owner. */
  async found(name: string, time_zone: string): Promise<void> {
    const body = { name, time_zone };
    if (await this.enter(client.POST('/api/households', { body }))) await this.startOver();
  }

  async rename(name: string): Promise<boolean> {
    return this.enter(client.PUT('/api/household/name', { body: { name } }));
  }

  /** Load the page anew, with nothing of the household before. */
  async startOver(): Promise<void> {
    await store.forget().catch(() => {});
    startAnew();
  }

  /** Sign out, also without a connection. What this device kept to look at goes, in every tab; what was answered and
   *  is not sent yet stays, for whoever gave it to send when they are back. */
  async signOut(): Promise<void> {
    localStorage.setItem(LEAVING, '1');
    localStorage.removeItem(UNTOLD);
    await store.forget().catch(() => {});
    forget();
    localStorage.removeItem(KEPT);
    if (await this.left()) startAnew();
  }

  /** Tell the server that nobody is signed in here any more; false where it does not answer. */
  private async left(): Promise<boolean> {
    const answer = await ask(client.DELETE('/api/session'));
    if (answer.ok) localStorage.removeItem(LEAVING);
    else this.load = loaded(answer);
    return answer.ok;
  }
}

export const session = new SessionState();
