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
  /** What the last news said, and the last record that an answer to a write of this screen knew of. */
  private heard = '';
  private known = 0;
  private gathering: ReturnType<typeof setTimeout> | null = null;
  private listeners: (() => void)[] = [];

  constructor() {
    document.addEventListener('visibilitychange', () => this.follow());
    onRecorded((record) => (this.known = Math.max(this.known, numberOf(record))));
  }

  /** Whether somebody is signed in, so that there is something to hear of. */
  want(wanted: boolean): void {
    this.wanted = wanted;
    if (!wanted) [this.heard, this.known] = ['', 0];
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

  /** What a stream says first is news only where something was heard before: the page was just loaded. */
  private hear(heard: string): void {
    const before = this.heard;
    this.heard = heard;
    if (before === '' || heard === before) return;
    if (this.gathering) return;
    this.gathering = setTimeout(() => this.tell(before), GATHER_MS);
  }

  private tell(before: string): void {
    this.gathering = null;
    const own = numberOf(this.heard) <= this.known && numberOf(this.heard) !== numberOf(before);
    if (!own) for (const listener of this.listeners) listener();
  }
}

export const live = new LiveState();
