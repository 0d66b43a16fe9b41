import { cellGroups, measureEdges, ribbonCells, type RibbonMarks, type RibbonMeasure } from './ribbon-model';

const measures = (count: number, quarters = 4): RibbonMeasure[] =>
  Array.from({ length: count }, (_, index) => ({
    index,
    number: String(index + 1),
    quarters,
    isAsked: index < 8,
  }));
const marks = (change: Partial<RibbonMarks>): RibbonMarks => ({
  heat: null,
  findings: new Map(),
  texts: null,
  breaths: new Set(),
  cues: new Set(),
  ...change,
});
const cells = (own: readonly RibbonMeasure[], widthPx: number, more: Partial<RibbonMarks> = {}) =>
  ribbonCells(own, { edges: measureEdges(own), marks: marks(more), widthPx, vocabulary: 'us' });

describe('the cells of a ribbon', () => {
  it('are as wide as their measures last, and fill the whole', () => {
    const own = [...measures(2, 4), { index: 2, number: '3', quarters: 2, isAsked: true }];
    expect(measureEdges(own)).toEqual([0, 0.4, 0.8, 1]);
    expect(cells(own, 600).map(({ width }) => Number(width.toFixed(6)))).toEqual([0.4, 0.4, 0.2]);
  });

  it('take measures together where one would be too narrow to hit, and leave none out', () => {
    for (const count of [1, 7, 64, 1024])
      for (const widthPx of [320, 1280]) {
        const own = cells(measures(count), widthPx);
        expect(own[0]?.fromIndex).toBe(0);
        expect(own.at(-1)?.endIndex).toBe(count);
        expect(own.slice(1).every(({ fromIndex }, n) => fromIndex === own[n]?.endIndex)).toBeTrue();
        expect(own.length * 5).toBeLessThanOrEqual(Math.max(widthPx, 5));
        expect(own.filter(({ hasLabel }) => hasLabel).length * 30).toBeLessThanOrEqual(widthPx + 30);
      }
  });

  it('say in words what stands over them, for those who do not see it', () => {
    const own = cells(measures(16), 1200, {
      findings: new Map([
        [2, 'open'],
        [3, 'kept'],
      ]),
      cues: new Set([3]),
    });
    expect(own[2]?.name).toBe('measure 3, finding');
    expect(own[3]?.name).toBe('measure 4, cue');
    expect(own[9]?.name).toBe('measure 10, not asked');
    expect([own[2]?.finding, own[3]?.finding, own[4]?.finding]).toEqual(['open', 'kept', null]);
  });

  it('show of several measures what asks most of a look: the open finding, the greatest heat', () => {
    const own = cells(measures(1024), 400, {
      findings: new Map([
        [0, 'kept'],
        [5, 'open'],
      ]),
      heat: measures(1024).map((_, n) => (n === 7 ? 0.9 : 0.1)),
      texts: measures(1024).map(() => 'T'),
    });
    expect(own[0]?.endIndex).toBeGreaterThan(8);
    expect([own[0]?.finding, own[0]?.heat, own[0]?.text]).toEqual(['open', 90, '']);
  });

  it('come in groups without a gap, and not at all without a width', () => {
    const own = cells(measures(100), 1280);
    const groups = cellGroups(own);
    expect(groups.flatMap((group) => group.cells)).toEqual([...own]);
    expect(groups.at(-1)?.endIndex).toBe(100);
    expect(cells(measures(100), 0)).toEqual([]);
    expect(cellGroups([])).toEqual([]);
  });
});
