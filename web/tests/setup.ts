/** What a browser has and the runner lacks. */
import { vi } from 'vitest';

vi.stubGlobal('navigator', { language: 'en-GB' });
vi.stubGlobal('addEventListener', () => {});
