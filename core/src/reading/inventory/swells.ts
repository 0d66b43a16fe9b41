import { addQuarters, toNumber, type Quarters } from '../../music/index.js';
import type { Score } from '../../score/index.js';

/** A crescendo or diminuendo that is written as a word. Shape: measure indexes, both included. */
export interface WordSwell {
  readonly kind: 'crescendo' | 'diminuendo';
  readonly fromIndex: number;
  readonly lastIndex: number;
}

const CRESCENDO = /(?<![a-z])cresc(?:\.|endo)?(?![a-z])/iu;
const DIMINUENDO = /(?<![a-z])(?:dim(?:\.|inuendo)?|decresc(?:\.|endo)?)(?![a-z])/iu;

/**
 * Finds crescendos and diminuendos that are printed as words: cresc., dim. poco a poco.
 * Shape:  in the order of the music; each holds until a level, a hairpin or another such word is printed, without one to
 *         the end of its measure
 * Units:  measure indexes
 * Source: common practice, no source
 */
export function wordSwells({ measures, marks }: Score): WordSwell[] {
  const placeOf = ({
    measureIndex,
    onset,
  }: {
    readonly measureIndex: number;
    readonly onset: Quarters;
  }): number => toNumber(addQuarters(measures[measureIndex]?.start ?? onset, onset));
  const words = marks.words.flatMap((word) => {
    const kind = CRESCENDO.test(word.text)
      ? ('crescendo' as const)
      : DIMINUENDO.test(word.text)
        ? ('diminuendo' as const)
        : null;
    return kind ? [{ kind, fromIndex: word.measureIndex, at: placeOf(word) }] : [];
  });
  const printed = [...marks.dynamics, ...marks.hairpins.filter(({ type }) => type !== 'stop')];
  const stops = [
    ...printed.map((mark) => ({ index: mark.measureIndex, at: placeOf(mark) })),
    ...words.map((word) => ({ index: word.fromIndex, at: word.at })),
  ].sort((a, b) => a.at - b.at);
  return words.map(({ kind, fromIndex, at }) => {
    const next = stops.find((stop) => stop.at > at);
    const start = toNumber(measures[next?.index ?? 0]?.start ?? { num: 0, den: 1 });
    // What stops it on a bar line ends it with the measure before.
    const lastIndex = next ? (next.at <= start + 1e-9 ? next.index - 1 : next.index) : fromIndex;
    return { kind, fromIndex, lastIndex: Math.max(fromIndex, lastIndex) };
  });
}
