import { resolveSpan, withoutPickup, type NamedMeasure } from './span.js';

/** Measures by their numbers; "(8)" is the second half of a split measure, "8|" ends in a double bar, "9@K" has a mark. */
function measures(text: string): NamedMeasure[] {
  return text.split(/\s+/u).map((token) => {
    const [, open, number = '', bar, mark] = /^(\(?)(\w+)\)?(\|?)(?:@(\w+))?$/u.exec(token) ?? [];
    return { number, implicit: open === '(', rehearsal: mark ?? null, endsInDoubleBar: bar === '|' };
  });
}

describe('resolveSpan', () => {
  const found = (
    list: readonly NamedMeasure[],
    from: string,
    to: string,
  ): readonly [number, number] | string => {
    const span = resolveSpan(list, { from, to });
    return span.ok ? [span.value.fromIndex, span.value.endIndex] : (span.issues[0]?.message ?? '');
  };

  it('counts a measure that a repeat sign splits once: 6 before K', () => {
    const split = measures('1 2 3 4 (4) 5 6 7 8@K 9');
    // 7, 6, 5, 4, 3, 2 are the six before 8.
    expect(found(split, 'K-6', 'K')).toEqual([1, 9]);
    expect(found(split, '3', '3')).toEqual([2, 3]);
    expect(found(measures('1@A 2 (2) 3 4'), 'A+2', 'end')).toEqual([3, 5]);
  });

  it('reaches neither before the beginning nor behind the end', () => {
    expect(found(measures('1 2 3@K 4'), 'K-6', 'end')).toContain('K-6 is not one of them');
    expect(found(measures('1 2 3@K 4'), 'start', 'K+2')).toContain('K+2 is not one of them');
  });

  it('takes the double bar where exactly one is in reach, and asks where there are more or none', () => {
    const one = measures('1 2 3 4| 5 6 7 8');
    expect(found(one, 'start', 'double bar')).toEqual([0, 4]);
    expect(found(one, 'double bar', 'end')).toEqual([4, 8]);
    expect(found(one, '5', 'double bar')).toContain('There is no double bar in reach');
    const two = measures('1 2| 3 4 5 6| 7 8');
    expect(found(two, 'start', 'double bar')).toContain('There are double bars after 2, 6 in reach');
    expect(found(two, '3', 'double bar')).toEqual([2, 6]);
  });
});

describe('withoutPickup', () => {
  const score = measures('(0) 1 2 3 4 5 6 7');

  it('moves numbers, and inserted ones with them, where the sheet counts the pickup', () => {
    expect(withoutPickup(score, { from: '1', to: '6' })).toEqual({ from: 'start', to: '5' });
    const inserted = measures('(0) 1 2 3 3A 4');
    expect(withoutPickup(inserted, { from: '2', to: '4A' })).toEqual({ from: '1', to: '3A' });
  });

  it('leaves an inserted number that the score has under that name alone', () => {
    expect(withoutPickup(measures('(0) 1 2 3 4 4A 5'), { from: '2', to: '4A' }).to).toBe('4A');
  });
});
