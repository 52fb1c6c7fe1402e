/** What a screen hears of others' records, and what it takes for its own. */
import { beforeEach, expect, test, vi } from 'vitest';

/** A stream of news, said by the test. */
class Stream {
  static now: Stream;
  private changed: (event: { data: string }) => void = () => {};
  readyState = 1;
  constructor() {
    Stream.now = this;
  }
  addEventListener(name: string, heard: (event: { data: string }) => void) {
    if (name === 'changed') this.changed = heard;
  }
  close() {}
  say(last: string) {
    this.changed({ data: last });
  }
}

const page = { hidden: false, looks: () => {} };
vi.stubGlobal('document', {
  get hidden() {
    return page.hidden;
  },
  addEventListener: (_: string, looks: () => void) => (page.looks = looks),
});
vi.stubGlobal('EventSource', Stream);
let recorded: (record: string) => void;
vi.mock('../src/lib/api/client', () => ({
  onRecorded: (listener: (record: string) => void) => (recorded = listener),
}));
const { LiveState } = await import('../src/lib/state/live');

let told: number;
beforeEach(() => {
  vi.useFakeTimers();
  [page.hidden, told] = [false, 0];
});

/** Whoever was found signed in after this record. */
function listening(after: string) {
  const state = new LiveState();
  state.on(() => told++);
  state.want(after);
  return state;
}

/** The news are gathered, and told. */
function later() {
  vi.runAllTimers();
  return told;
}

test('what was known when the page was loaded is no news', () => {
  listening('7');
  Stream.now.say('7');
  expect(later()).toBe(0);
});

test('what came between the page and its first news is told', () => {
  listening('7');
  Stream.now.say('8');
  expect(later()).toBe(1);
});

test('a page put away before it heard anything compares when it is looked at', () => {
  listening('7');
  page.hidden = true;
  page.looks();
  page.hidden = false;
  page.looks();
  Stream.now.say('8');
  expect(later()).toBe(1);
});

test('nobody is told of their own tap, whose answer came first', () => {
  listening('7');
  recorded('8');
  Stream.now.say('8');
  expect(later()).toBe(0);
});

test('a batch is told once', () => {
  listening('7');
  for (const last of ['8', '9', '12']) Stream.now.say(last);
  expect(later()).toBe(1);
});

test('what others recorded while a write was under way is looked at after its answer, which does not know of it', () => {
  listening('7');
  Stream.now.say('9');
  expect(later()).toBe(1);
  recorded('8');
  expect(later()).toBe(2);
});

test('where the clock runs faster each minute is news', () => {
  listening('7@12020900');
  recorded('7');
  Stream.now.say('7@12020901');
  expect(later()).toBe(1);
});

test('who signs out hears nothing of what they heard before', () => {
  const state = listening('7');
  state.want(null);
  state.want('30');
  Stream.now.say('30');
  expect(later()).toBe(0);
});
