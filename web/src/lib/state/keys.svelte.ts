/** Single-key shortcuts: each screen lends its own while it is shown; `?` lists what is on. They can be turned off. */
export interface Key {
  key: string;
  /** How the key is written for people, when it differs. */
  shown?: string;
  does: string;
  run: () => void;
}

const STORE = 'yperon.keys';

interface Group {
  title: string;
  keys: Key[];
}

class KeyState {
  /** What is lent now, the latest last. Plain, since screens lend while they are being built. */
  private lent = new Set<Group>();
  /** What the open help shows. */
  shown = $state.raw<Group[]>([]);
  on = $state(localStorage.getItem(STORE) !== 'off');
  helpOpen = $state(false);

  /** Lend keys while a screen is shown; gives the function that takes them back. */
  lend(title: string, keys: Key[]): () => void {
    const group = { title, keys };
    this.lent.add(group);
    return () => this.lent.delete(group);
  }

  help(): void {
    this.shown = [...this.lent];
    this.helpOpen = true;
  }

  turn(on: boolean): void {
    this.on = on;
    localStorage.setItem(STORE, on ? 'on' : 'off');
  }

  handle(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return;
    if (event.key === '?') {
      event.preventDefault();
      this.help();
      return;
    }
    if (!this.on || document.querySelector('dialog[open]')) return;
    const hit = [...this.lent]
      .reverse()
      .flatMap((group) => group.keys)
      .find((key) => key.key === event.key);
    if (!hit || (event.key === 'Enter' && isControl(event))) return;
    event.preventDefault();
    hit.run();
  }
}

function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return target.matches('input:not([type=checkbox]), textarea, select') || target.isContentEditable;
}

/** Whether Enter is the control's own; a box that was ticked does nothing by it. */
function isControl(event: KeyboardEvent): boolean {
  const own = 'button, a, summary, [role=button], input:not([type=checkbox])';
  return (event.target as HTMLElement).matches(own);
}

export const keys = new KeyState();
