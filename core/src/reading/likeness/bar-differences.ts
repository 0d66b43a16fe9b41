import { isSameLevel, type Bar, type Token } from '../line/bars.js';
import { valueName } from '../line/value-names.js';

/** One difference between two measures that are alike. Shape: `note` counts from 1; texts as musicians say them. */
export interface NoteDifference {
  readonly note: number;
  readonly what:
    | 'pitch'
    | 'rhythm'
    | 'articulation'
    | 'ornament'
    | 'hold'
    | 'bowing'
    | 'dynamic'
    | 'grouping'
    | 'added'
    | 'missing';
  readonly a: string;
  readonly b: string;
}

/** Everything in which two measures differ, note by note, their dynamics last. */
export function barDifferences(a: Bar, b: Bar): NoteDifference[] {
  const dynamic = dynamicDifference(a, b);
  const isGrouped = a.grouping !== null && b.grouping !== null && a.grouping !== b.grouping;
  return [
    ...compareMeasures(a.tokens, b.tokens),
    ...(isGrouped ? [{ note: 0, what: 'grouping' as const, a: a.grouping, b: b.grouping }] : []),
    ...(dynamic ? [dynamic] : []),
  ];
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

/**
 * Edits between two measures: where nothing else changes a change of rhythm is one, however many values move with it and
 * whether a note is pushed out or in by it; beside other changes all count note by note, a longer note and the shorter one
 * after it once.
 */
export function editCount(differences: readonly NoteDifference[]): number {
  const isGap = (what: string): boolean => what === 'added' || what === 'missing';
  const moved = new Set(differences.filter(({ what }) => what === 'rhythm').map(({ note }) => note));
  const gaps = differences.filter(({ what }) => isGap(what));
  const others = new Set(
    differences
      .filter(({ note, what }) => note > 0 && what !== 'rhythm' && !isGap(what))
      .map(({ note }) => note),
  );
  const followers = [...moved].filter((note) => moved.has(note - 1) && !others.has(note));
  const plain = new Set([...moved, ...others]).size - followers.length + gaps.length;
  if (others.size > 0) return plain;
  const pushed = gaps.filter(({ note }) => [...moved].some((one) => Math.abs(one - note) <= 1));
  const places = [...new Set([...moved, ...pushed.map(({ note }) => note)])].sort((x, y) => x - y);
  const clusters = places.filter((note, n) => n === 0 || note - (places[n - 1] ?? note) > 1).length;
  // More notes pushed out than one are a change of their own.
  return Math.min(plain, clusters + gaps.length - Math.min(1, pushed.length));
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
    (a.hold === b.hold ? 0 : 1) +
    (isOtherBow(a, b) ? 1 : 0)
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

function isOtherBow(a: Token, b: Token): boolean {
  return a.bowing !== null && b.bowing !== null && a.bowing !== b.bowing;
}

/** How a rhythm is other: another value, a length that no value has, or the same value at another place. */
function rhythmDifference(a: Token, b: Token): NoteDifference[] {
  if (a.rhythm === b.rhythm) return [];
  const [[from = 0, was = 0] = [], [to = 0, is = 0] = []] = [a, b].map(({ rhythm }) =>
    rhythm.split(':').map(Number),
  );
  const base = { note: b.ordinal, what: 'rhythm' as const };
  if (Math.abs(was - is) < 1e-3)
    return [
      {
        ...base,
        a: valueName(was),
        b: `a ${valueName(Math.abs(to - from))} ${to > from ? 'later' : 'earlier'}`,
      },
    ];
  if (isNamed(was) && isNamed(is)) return [{ ...base, a: valueName(was), b: valueName(is) }];
  return [
    {
      ...base,
      a: valueName(was),
      b: `a ${valueName(Math.abs(is - was))} ${is > was ? 'longer' : 'shorter'}`,
    },
  ];
}

function isNamed(length: number): boolean {
  return !valueName(length).endsWith('quarters');
}

function differencesOf(a: Token, b: Token): NoteDifference[] {
  const differs = (
    what: 'pitch' | 'articulation' | 'ornament' | 'hold',
    text: (token: Token) => string = (token) => token[what],
  ): NoteDifference[] => (a[what] === b[what] ? [] : [{ note: b.ordinal, what, a: text(a), b: text(b) }]);
  return [
    ...differs('pitch'),
    ...rhythmDifference(a, b),
    ...differs('articulation', ({ articulation }) => spoken(articulation)),
    ...differs('ornament'),
    ...differs('hold'),
    ...(isOtherBow(a, b)
      ? [{ note: b.ordinal, what: 'bowing' as const, a: a.bowing ?? '', b: b.bowing ?? '' }]
      : []),
  ];
}

/** "slurred." is the end of a slur. */
function spoken(articulation: string): string {
  return articulation.endsWith('.') ? `${articulation.slice(0, -1)}, slur ends` : articulation;
}
