import { CUE_TEXT_LIMIT } from '../cues/index.js';
import { levelOf, LEVELS, type DynamicsAdvice, type Level } from '../reading/index.js';
import type { Span } from '../spans/index.js';
import type { CueKind } from '../cue-kinds/index.js';

/** A proposed cue at a measure: a level, or a word about levels. */
export interface DynamicCue {
  readonly kind: CueKind;
  readonly measureIndex: number;
  readonly sign: string;
  readonly text: string;
}

/**
 * The wider reading of the printed dynamics as cues to propose: a level where it changes, the loudest place with room
 * left before it, accents once.
 * Shape:  in the order of the music; `indexOf` finds a measure by its printed number
 * Source: docs/computation.md §3, dynamics; common practice, no source
 */
export function dynamicCues(
  advice: readonly DynamicsAdvice[],
  indexOf: (measure: string) => number | undefined,
): DynamicCue[] {
  const placed = advice.flatMap(({ measure, mark, why }) => {
    const measureIndex = measure === null ? undefined : indexOf(measure);
    return measureIndex === undefined ? [] : [{ measureIndex, mark, why }];
  });
  const cues = placed.map(({ measureIndex, mark, why }): DynamicCue => ({
    ...{ kind: mark === null ? 'articulation' : 'dynamic', measureIndex },
    ...{ sign: mark ?? '', text: why.slice(0, CUE_TEXT_LIMIT) },
  }));
  const loudest = loudestOf(placed);
  const before = loudest === null ? -1 : loudest.measureIndex - 1;
  const room: DynamicCue[] =
    loudest === null || before < 0 || placed.some(({ measureIndex }) => measureIndex === before)
      ? []
      : [
          {
            ...{ kind: 'dynamic', measureIndex: before, sign: softer(loudest.mark) },
            text: `Leave room: the loudest place, ${loudest.mark}, comes next`,
          },
        ];
  const seen = new Map<number, string>();
  return [...cues, ...room]
    .sort((a, b) => a.measureIndex - b.measureIndex)
    .filter(({ measureIndex, kind, sign }) => {
      // Two pieces of advice at one measure: the first stands.
      if (seen.has(measureIndex) && kind === 'dynamic') return false;
      if (kind === 'dynamic') seen.set(measureIndex, sign);
      return true;
    });
}

/** The first place of the loudest level. Shape: null where no level is advised */
function loudestOf(
  placed: readonly { readonly measureIndex: number; readonly mark: string | null }[],
): { readonly measureIndex: number; readonly mark: string } | null {
  let loudest: { readonly measureIndex: number; readonly mark: string } | null = null;
  for (const { measureIndex, mark } of placed)
    if (mark !== null && (loudest === null || levelOf(mark) > levelOf(loudest.mark)))
      loudest = { measureIndex, mark };
  return loudest;
}

function softer(mark: string): Level {
  return LEVELS[Math.max(0, levelOf(mark) - 2)] ?? 'mp';
}

/** A shape to try where nothing is printed. Shape: `levels` one a measure */
export interface PhraseShape {
  readonly name: 'arch' | 'rise' | 'fall' | 'echo';
  readonly why: string;
  readonly levels: readonly Level[];
}

/** Levels at the beginning, at the turn and at the end, and where the turn is, as a share of the stretch. */
const SHAPES: readonly (readonly [
  PhraseShape['name'],
  why: string,
  from: Level,
  turn: Level,
  to: Level,
  at: number,
])[] = [
  ['arch', 'Grow to two thirds of the phrase and let go: for a line with one goal.', 'mp', 'f', 'mp', 2 / 3],
  ['rise', 'Grow to the last measure: for a line that leads into what follows.', 'mp', 'mf', 'f', 1 / 2],
  ['fall', 'Begin full and let go: for a line that comes to rest.', 'f', 'mf', 'mp', 1 / 2],
  [
    'echo',
    'Say it, and say it again from farther away: for a phrase that repeats itself.',
    'mf',
    'mf',
    'p',
    1 / 2,
  ],
];

/**
 * Four shapes for a stretch without printed dynamics.
 * Shape:  a level for every measure; the echo drops at once, the others go step by step
 * Source: common practice, no source
 */
export function phraseShapes({ fromIndex, endIndex }: Span): PhraseShape[] {
  const count = endIndex - fromIndex;
  return SHAPES.map(([name, why, from, turn, to, at]) => ({
    ...{ name, why },
    levels: Array.from({ length: count }, (_, n) => {
      const share = count === 1 ? 0 : n / (count - 1);
      if (name === 'echo') return n < count / 2 ? from : to;
      const [a, b, t] = share <= at ? [from, turn, share / at] : [turn, to, (share - at) / (1 - at)];
      return LEVELS[Math.round(levelOf(a) + (levelOf(b) - levelOf(a)) * t)] ?? from;
    }),
  }));
}

/** A shape as cues to propose: a level where it changes, its reason at the first. */
export function shapeCues({ name, why, levels }: PhraseShape, { fromIndex }: Span): DynamicCue[] {
  return levels.flatMap((level, n): DynamicCue[] =>
    level === levels[n - 1]
      ? []
      : [
          {
            ...{ kind: 'dynamic', measureIndex: fromIndex + n, sign: level },
            text: n === 0 ? why : `${level}, on the way of the ${name}`,
          },
        ],
  );
}
