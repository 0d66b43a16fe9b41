import { readToldLine, toldValueWords, type ToldRepeat } from '@vivid-cue/core/paper';
import type { MeasureDigest, ScoreDigest } from '@vivid-cue/core/score';

/** A measure of a line. Shape: what does not change is not said again */
export interface ToldBox {
  readonly index: number;
  readonly number: string;
  readonly quarters: number;
  readonly meter: string;
  readonly letter: string | null;
  /** What was told of its notes; "typed" where they are known. */
  readonly value: string;
  readonly beginsRepeat: boolean;
  readonly endsRepeat: boolean;
  /** "1." over the measures of an ending. */
  readonly ending: string;
}

/** So many measures stand on a line, as on most printed pages. */
const ON_A_LINE = 4;

/** Measures in lines: a letter begins a new one where the line before is not too short. */
export function toldRows({ measures }: Pick<ScoreDigest, 'measures'>, line: string): ToldBox[][] {
  const repeats = readToldLine(line).music?.repeats ?? [];
  const rows: ToldBox[][] = [];
  measures.forEach((measure, index) => {
    const last = rows.at(-1);
    const isPickup = measures[0]?.implicit === true && last?.length === ON_A_LINE && rows.length === 1;
    const isNew =
      last === undefined ||
      (last.length >= ON_A_LINE && !isPickup) ||
      (measure.rehearsal !== null && last.length >= ON_A_LINE / 2);
    if (isNew) rows.push([]);
    rows
      .at(-1)
      ?.push({ ...boxOf(measure, measures[index - 1]), ...signsOf(Number(measure.number), repeats) });
  });
  return rows;
}

type Signs = Pick<ToldBox, 'beginsRepeat' | 'endsRepeat' | 'ending'>;

/** The repeat signs of a measure, by its printed number. */
function signsOf(number: number, repeats: readonly ToldRepeat[]): Signs {
  const own = repeats.filter(({ from, to }) => from <= number && number <= to);
  const ending = own.flatMap(({ endings }) => endings).find(({ from }) => from === number);
  return {
    beginsRepeat: own.some(({ from }) => from === number),
    endsRepeat: own.some(({ to, endings }) =>
      endings.length === 0 ? to === number : endings.slice(0, -1).some((one) => one.to === number),
    ),
    ending: ending ? `${ending.passes.join(', ')}.` : '',
  };
}

function boxOf(measure: MeasureDigest, before: MeasureDigest | undefined): Omit<ToldBox, keyof Signs> {
  const { index, number, quarters, time, rehearsal, source, toldNotes } = measure;
  return {
    ...{ index, quarters },
    number: measure.implicit ? '' : number,
    meter: time === before?.time ? '' : time,
    letter: rehearsal,
    value: source === 'typed' ? 'typed' : (toldValueWords(toldNotes) ?? ''),
  };
}
