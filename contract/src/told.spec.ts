import { toldSchema } from './told.js';

const at = { line: 'Etude 1: no. 4', nth: 0 };
const isTold = (corrections: readonly unknown[], parts: readonly unknown[] = []): boolean =>
  toldSchema.isValidSync({ corrections, parts }, { strict: true });

describe('toldSchema', () => {
  it('takes what can be said of a line, a column and words', () => {
    expect(
      isTold(
        [
          { kind: 'line', at, role: 'rule' },
          { kind: 'column', at, column: 2, role: 'points' },
          { kind: 'words', at, from: 0, to: 7, part: { ...at, index: 0 }, field: 'title' },
        ],
        [{ id: '01900000-0000-7000-8000-000000000001', at: null, name: 'etude 1' }],
      ),
    ).toBeTrue();
  });

  it('refuses roles and fields that there are not, and more than is said', () => {
    const wrong = [
      { kind: 'line', at, role: 'poem' },
      { kind: 'line', at },
      { kind: 'column', at, column: -1, role: 'points' },
      { kind: 'words', at, from: 0, to: 7, part: { ...at, index: 0 }, field: 'scope' },
      { kind: 'line', at, role: 'rule', more: true },
      { kind: 'toString', at },
      null,
      'line',
    ];
    expect(wrong.filter((one) => isTold([one]))).toEqual([]);
    expect(isTold(Array.from({ length: 601 }, () => ({ kind: 'line', at, role: 'rule' })))).toBeFalse();
  });
});
