/** What a browser has and the runner lacks. */
import { vi } from 'vitest';

vi.stubGlobal('navigator', { language: 'en-GB' });
vi.stubGlobal('addEventListener', () => {});

const stored = new Map<string, string>();
vi.stubGlobal('sessionStorage', {
  getItem: (key: string) => stored.get(key) ?? null,
  setItem: (key: string, value: string) => stored.set(key, value),
});
