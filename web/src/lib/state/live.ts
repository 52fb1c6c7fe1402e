/** News: this screen is told when something was recorded elsewhere, by a device or another person. */
import { onRecorded } from '../api/client';

/** So long news are gathered before anybody looks: a batch of lines is looked at once. */
const GATHER_MS = 15;
/** So long it takes until a stream that was refused is asked for again. */
const AGAIN_MS = 30_000;

/** The number in what a stream or an answer says of the last record. */
const numberOf = (heard: string): number => Number.parseInt(heard, 10) || 0;

export class LiveState {
  private source: EventSource | null = null;
  private wanted = false;
  /** The last record by the last news, at first by who is signed in; and the last one an answer to a write of this
   * screen knew of. */
  private heard = '';
  private known = 0;
  private gathering: ReturnType<typeof setTimeout> | null = null;
  private listeners: (() => void)[] = [];

  constructor() {
    document.addEventListener('visibilitychange', () => this.follow());
    onRecorded((record) => this.knows(numberOf(record)));
  }

  /** Listen to what comes after this record: it was the last before any page was asked for. Null where nobody is signed
   * in, or nobody is told. */
  want(after: string | null): void {
    this.wanted = after !== null;
    if (after === null) [this.heard, this.known] = ['', 0];
    else this.heard ||= after;
    this.follow();
  }

  /** Do something whenever there are news; gives what ends it. */
  on(listener: () => void): () => void {
    this.listeners = [...this.listeners, listener];
    return () => void (this.listeners = this.listeners.filter((one) => one !== listener));
  }

  /** Listen while the page can be seen: a phone in a pocket holds no line open, and compares when it is looked at. */
  private follow(): void {
    const listens = this.wanted && !document.hidden && typeof EventSource !== 'undefined';
    if (!listens) {
      this.source?.close();
      this.source = null;
    } else if (!this.source) this.open();
  }

  private open(): void {
    const source = new EventSource('/api/live');
    this.source = source;
    source.addEventListener('changed', ({ data }: MessageEvent<string>) => this.hear(data));
    source.addEventListener('over', () => source.close());
    source.onerror = () => {
      if (source.readyState !== EventSource.CLOSED || this.source !== source) return;
      this.source = null;
      setTimeout(() => this.follow(), AGAIN_MS);
    };
  }

  /** What a stream says first is news, too, where it is not what was the last: something came while the page was loaded,
   * or put away. */
  private hear(heard: string): void {
    const before = this.heard;
    this.heard = heard;
    if (heard === before) return;
    this.gathering ??= setTimeout(() => this.tell(before), GATHER_MS);
  }

  private tell(before: string): void {
    this.gathering = null;
    const own = numberOf(this.heard) <= this.known && numberOf(this.heard) !== numberOf(before);
    if (!own) for (const listener of this.listeners) listener();
  }

  /** What a write answered is shown instead of whatever was asked before. Where others recorded more while it was under
   * way, and were heard of already, it is looked at once more. */
  private knows(record: number): void {
    this.known = Math.max(this.known, record);
    if (numberOf(this.heard) > record) this.gathering ??= setTimeout(() => this.tell(''), GATHER_MS);
  }
}

export const live = new LiveState();
