import { isSameLevel, type Bar, type Token } from '../line/bars.js';
import { valueName } from '../line/value-names.js';

/** One difference between two measures that are alike. Shape: `note` counts from 1; texts as musicians say them. */
export interface NoteDifference {
  readonly note: number;
  readonly what: 'pitch' | 'rhythm' | 'articulation' | 'ornament' | 'hold' | 'dynamic' | 'added' | 'missing';
  readonly a: string;
  readonly b: string;
}

/** Everything in which two measures differ, note by note, their dynamics last. */
export function barDifferences(a: Bar, b: Bar): NoteDifference[] {
  const dynamic = dynamicDifference(a, b);
  return [...compareMeasures(a.tokens, b.tokens), ...(dynamic ? [dynamic] : [])];
}

function dynamicDifference(a: Bar, b: Bar): NoteDifference | null {
  const isLevel = isSameLevel(a, b);
  if (isLevel && a.inside === b.inside) return null;
  // A level that is not printed anew is told only where it is another one.
  const text = ({ printed, level, inside }: Bar): string =>
    [isLevel ? '' : (printed ?? (level === null ? '' : `still ${level}`)), inside]
      .filter((one) => one !== '')
      .join(', ') || 'none';
  return { note: 0, what: 'dynamic', a: text(a), b: text(b) };
}

/** Notes that were changed, added or left out; a longer note and the shorter one after it are one change. */
export function editCount(differences: readonly NoteDifference[]): number {
  const isGap = (what: string): boolean => what === 'added' || what === 'missing';
  const edits = new Set(differences.map(({ note, what }) => `${isGap(what) ? what : 'changed'} ${note}`));
  const rhythms = new Set(differences.filter(({ what }) => what === 'rhythm').map(({ note }) => note));
  const others = new Set(
    differences.filter(({ what }) => what !== 'rhythm' && !isGap(what)).map(({ note }) => note),
  );
  const followers = [...rhythms].filter((note) => rhythms.has(note - 1) && !others.has(note));
  return edits.size - followers.length;
}

/** Note by note what differs between two measures, aligned by least edits. */
function compareMeasures(a: readonly Token[], b: readonly Token[]): NoteDifference[] {
  const cost = editCosts(a, b);
  const found: NoteDifference[] = [];
  let [i, j] = [a.length, b.length];
  const at = (x: number, y: number): number => cost[x]?.[y] ?? Infinity;
  while (i > 0 || j > 0) {
    const [x, y] = [a[i - 1], b[j - 1]];
    if (x && y && at(i, j) === at(i - 1, j - 1) + changeCost(x, y)) {
      found.unshift(...differencesOf(x, y));
      i -= 1;
      j -= 1;
    } else if (x && at(i, j) === at(i - 1, j) + GAP) {
      found.unshift({ note: x.ordinal, what: 'missing', a: x.pitch, b: 'nothing' });
      i -= 1;
    } else if (y) {
      found.unshift({ note: y.ordinal, what: 'added', a: 'nothing', b: y.pitch });
      j -= 1;
    } else break;
  }
  return found;
}

const GAP = 3;

function changeCost(a: Token, b: Token): number {
  return (
    (a.pitch === b.pitch ? 0 : 2) +
    (a.rhythm === b.rhythm ? 0 : 2) +
    (a.articulation === b.articulation ? 0 : 1) +
    (a.ornament === b.ornament ? 0 : 1) +
    (a.hold === b.hold ? 0 : 1)
  );
}

function editCosts(a: readonly Token[], b: readonly Token[]): number[][] {
  const cost = Array.from({ length: a.length + 1 }, (_, i) =>
    Array.from({ length: b.length + 1 }, (__, j) => (i === 0 ? j * GAP : j === 0 ? i * GAP : 0)),
  );
  a.forEach((x, i) => {
    b.forEach((y, j) => {
      const row = cost[i + 1];
      if (row)
        row[j + 1] = Math.min(
          (cost[i]?.[j] ?? 0) + changeCost(x, y),
          (cost[i]?.[j + 1] ?? 0) + GAP,
          (row[j] ?? 0) + GAP,
        );
    });
  });
  return cost;
}

function differencesOf(a: Token, b: Token): NoteDifference[] {
  const length = (token: Token): string => valueName(Number(token.rhythm.split(':')[1]));
  const differs = (
    what: 'pitch' | 'rhythm' | 'articulation' | 'ornament' | 'hold',
    text: (token: Token) => string = (token) => token[what],
  ): NoteDifference[] => (a[what] === b[what] ? [] : [{ note: b.ordinal, what, a: text(a), b: text(b) }]);
  return [
    ...differs('pitch'),
    ...differs('rhythm', length),
    ...differs('articulation', ({ articulation }) => spoken(articulation)),
    ...differs('ornament'),
    ...differs('hold'),
  ];
}

/** "slurred." is the end of a slur. */
function spoken(articulation: string): string {
  return articulation.endsWith('.') ? `${articulation.slice(0, -1)}, slur ends` : articulation;
}
