/** Of several questions about one thing the answer to the last one counts. */
import { describe, expect, it } from 'vitest';

import { Turns } from '../src/lib/state/load';

function late<T>() {
  let answer!: (value: T) => void;
  return { promise: new Promise<T>((done) => (answer = done)), answer };
}

describe('answers that come in another order than asked', () => {
  it('an older one is passed over', async () => {
    const [turns, first, second] = [new Turns(), late<string>(), late<string>()];
    const [one, two] = [turns.latest(first.promise), turns.latest(second.promise)];
    second.answer('new');
    first.answer('old');
    expect([await one, await two]).toEqual([null, 'new']);
  });

  it('what was recorded meanwhile is newer than what was asked before', async () => {
    const [turns, asked] = [new Turns(), late<string>()];
    const one = turns.latest(asked.promise);
    turns.recorded();
    asked.answer('old');
    expect(await one).toBeNull();
    expect(await turns.latest(Promise.resolve('new'))).toBe('new');
  });
});
