import type { Problem } from '../api/client';

export type Notice =
  | { kind: 'done'; text: string; undo: (() => Promise<void>) | null }
  | { kind: 'looking'; text: string }
  | { kind: 'problem'; problem: Problem };

/** The one line that says what just happened. It stays until the next one, or until it is closed. */
class NoticeState {
  current = $state.raw<Notice | null>(null);
  /** How many dialogs are open: a refusal then stands in the dialog, which covers everything else. */
  dialogs = $state(0);
  problem = $derived(this.current?.kind === 'problem' ? this.current.problem : null);

  done(text: string, undo: (() => Promise<void>) | null = null): void {
    this.current = { kind: 'done', text, undo };
  }

  /** Nobody knows yet whether the last thing was recorded. */
  looking(): void {
    this.current = { kind: 'looking', text: 'It may have been recorded; looking…' };
  }

  refused(problem: Problem): void {
    this.current = { kind: 'problem', problem };
  }

  close(): void {
    this.current = null;
  }

  async undo(): Promise<void> {
    if (this.current?.kind === 'done' && this.current.undo) await this.current.undo();
  }
}

export const notice = new NoticeState();
