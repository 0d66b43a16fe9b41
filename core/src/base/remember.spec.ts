import { remembered, rememberedFor } from './index.js';

describe('what is remembered', () => {
  it('is worked out once for the same text, and anew when it was forgotten', () => {
    const asked: string[] = [];
    const loud = remembered((text: string) => (asked.push(text), text.toUpperCase()), { most: 2 });
    expect(['a', 'b', 'a', 'b', 'c', 'a'].map((text) => loud(text))).toEqual(['A', 'B', 'A', 'B', 'C', 'A']);
    expect(asked).toEqual(['a', 'b', 'c', 'a']);
  });

  it('is worked out once for the same thing, nothing included, and for another of the same content anew', () => {
    const asked: object[] = [];
    const nothing = rememberedFor((thing: object) => (asked.push(thing), null));
    const [one, other] = [{ text: 'a' }, { text: 'a' }];
    expect([one, one, other, one].map((thing) => nothing(thing))).toEqual([null, null, null, null]);
    expect(asked.map((thing) => (thing === one ? 'one' : 'other'))).toEqual(['one', 'other']);
  });
});
