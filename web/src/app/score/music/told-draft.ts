import { measureWord, type BeatUnit, type Bpm, type TempoMark, type Vocabulary } from '@vivid-cue/core/music';
import {
  lineOfFields,
  readToldLine,
  scoreOfTold,
  tempoPhrase,
  toldFields,
  type PaperMusic,
  type ToldFields,
  type ToldIssue,
  type ToldMusic,
} from '@vivid-cue/core/paper';
import { digestScore, type MeasureDigest } from '@vivid-cue/core/score';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { secondsText } from '../../ui/texts';
import type { RibbonMeasure } from '../ribbon/ribbon-model';

/** What is told, as a form and a line have it at once. */
export interface ToldDraft {
  readonly fields: ToldFields;
  readonly line: string;
  readonly music: ToldMusic | null;
  readonly issues: readonly ToldIssue[];
}

const EMPTY: ToldFields = {
  ...{ first: '1', last: '', meter: '', changes: '', pickup: '', letters: '' },
  ...{ repeats: '', keys: '', tempos: '', dense: '', rest: '' },
};

/** What is known of a part before anybody tells: what was told before, else the sheet's measures and its tempo. */
export function draftOf(room: Pick<ScoreRoomView, 'asked' | 'target'>, paper: PaperMusic | null): ToldDraft {
  return paper ? ofLine(paper.line, EMPTY) : ofFields({ ...EMPTY, ...askedFields(room) });
}

function askedFields({
  asked,
  target,
}: Pick<ScoreRoomView, 'asked' | 'target'>): Partial<Pick<ToldFields, 'first' | 'last' | 'tempos'>> {
  const numbers = asked.flatMap(({ from, to }) => [from, to]).filter((one) => typeof one === 'number');
  const tempos = target ? tempoPhrase(markOf(target)) : '';
  // A sheet that begins in the middle says nothing of where the piece begins.
  return numbers.length === 0 || numbers.length < 2 * asked.length
    ? { tempos }
    : { first: String(Math.min(1, ...numbers)), last: String(Math.max(...numbers)), tempos };
}

function markOf({ bpm, beatUnit }: { readonly bpm: Bpm; readonly beatUnit: BeatUnit }): TempoMark {
  return { beatUnit, bpmMin: bpm, bpmMax: bpm, bound: 'exact', words: null };
}

/** The draft of what stands in the fields. */
export function ofFields(fields: ToldFields): ToldDraft {
  const line = lineOfFields(fields);
  return { fields, line, ...readToldLine(line) };
}

/** The draft of what stands in the line. Shape: the fields stay as they were where the line has no measures */
export function ofLine(line: string, before: ToldFields): ToldDraft {
  const { music, issues } = readToldLine(line);
  const rest = issues
    .map(({ start, end }) => line.slice(start, end).trim())
    .filter((text) => text !== line.trim())
    .join('; ');
  return { fields: music ? toldFields(music, rest) : before, line, music, issues };
}

/** The measures of a draft, and how long they last. Shape: null where there are none yet */
export function measuresTold(music: ToldMusic | null): {
  readonly measures: readonly MeasureDigest[];
  readonly seconds: { readonly straight: number | null; readonly unrolled: number | null };
} | null {
  return music && digestScore(scoreOfTold(music));
}

/** What music on paper is called: as before, else as the sheet calls it. */
export function titleOf(
  { workTitle }: Pick<ScoreRoomView, 'workTitle'>,
  paper: PaperMusic | null,
): string | null {
  return paper?.title ?? (workTitle === '' ? null : workTitle);
}

/** Measures that are only told, on the ribbon. */
export function ribbonOf(measures: readonly MeasureDigest[]): RibbonMeasure[] {
  return measures.map(({ index, number, quarters }) => ({ index, number, quarters, isAsked: true }));
}

/** What a draft comes to, in a sentence. Shape: "" where there are no measures yet */
export function toldSummary(told: ReturnType<typeof measuresTold>, vocabulary: Vocabulary): string {
  if (!told) return '';
  const count = told.measures.length;
  const { straight, unrolled } = told.seconds;
  const lasts =
    straight === null
      ? 'without a tempo no seconds are known'
      : unrolled !== null && Math.abs(unrolled - straight) > 0.05
        ? `${secondsText(straight)}, with repeats ${secondsText(unrolled)}`
        : secondsText(straight);
  return `${count} ${measureWord(count, vocabulary)}, ${lasts}.`;
}
