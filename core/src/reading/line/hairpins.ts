import type { Score } from '../../score/index.js';
import { noteFrom, type SoloLine } from './solo-line.js';

/** A printed hairpin. Shape: measure indexes, both included; `startNote` the ordinal of the note it begins on, from 1. */
export interface HairpinRange {
  readonly kind: 'crescendo' | 'diminuendo';
  readonly fromIndex: number;
  readonly startNote: number;
  readonly lastIndex: number;
}

type Begun = Omit<HairpinRange, 'lastIndex'>;

/**
 * The hairpins of a part from where they begin to where they end.
 * Shape:  in the order in which they end; one that stops on a bar line ends with the measure before it, one that an export
 *         never stops where the next of its number begins, else in its own measure
 * Units:  measure indexes
 * Source: MusicXML 4.0, element wedge
 */
export function hairpinRanges(score: Score, line: SoloLine): HairpinRange[] {
  const open = new Map<string, Begun>();
  const found: HairpinRange[] = [];
  const end = (begun: Begun | undefined, lastIndex: number): void => {
    if (begun) found.push({ ...begun, lastIndex });
  };
  for (const { measureIndex, onset, type, number } of score.marks.hairpins) {
    if (type !== 'stop') {
      end(open.get(number), measureIndex);
      open.set(number, {
        kind: type,
        fromIndex: measureIndex,
        startNote: noteFrom(line, measureIndex, onset),
      });
      continue;
    }
    const begun = open.get(number);
    open.delete(number);
    const isOnBarLine = onset.num === 0 && begun !== undefined && begun.fromIndex < measureIndex;
    end(begun, isOnBarLine ? measureIndex - 1 : measureIndex);
  }
  for (const begun of open.values()) end(begun, begun.fromIndex);
  return found;
}
