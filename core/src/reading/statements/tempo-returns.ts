import { capital } from '../../base/index.js';
import { beatBpm, beatUnitOf, tempoText, toNumber } from '../../music/index.js';
import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import { quarterBpmOf } from '../line/pace.js';
import { firstOf, numberAt } from './places.js';

const SLOWER =
  /(?<![a-z])(?:rit(?:\.|ard|enuto|$|\s)|rall|allarg|slarg|slentando|calando|morendo|smorz|meno mosso|poco meno|slow(?:er|ing)|broaden)/iu;
const FASTER = /(?<![a-z])(?:accel|string(?:\.|endo)|più mosso|piu mosso|poco più|faster|hurry)/iu;
const BACK = /(?<![a-z])(?:a tempo|tempo (?:i|1|primo)\b|in tempo|tempo giusto)/iu;
/** The end slows where something slows in so many last measures. */
const LAST_MEASURES = 3;

interface Step {
  readonly index: number;
  readonly at: number;
  readonly kind: 'slower' | 'faster' | 'hold' | 'back';
  readonly text: string;
}

/**
 * Where the tempo is left by a word or a hold, to what it comes back, and whether the end slows at all.
 * Shape:  one finding; none where the tempo is never left before the end
 * Source: common practice, no source
 */
export const tempoReturns: Finder = (from) => {
  const { score, line } = from;
  const last = line.notes.at(-1)?.measureIndex ?? 0;
  const all = stepsOf(from);
  const steps = all.filter(({ index, kind }) => kind === 'back' || index < last);
  if (!steps.some(({ kind }) => kind !== 'back')) return [];
  const left = steps.at(-1);
  const isOpen = left !== undefined && left.kind !== 'back' && last - left.index > LAST_MEASURES;
  const endSlows = all.some(({ index, kind }) => kind !== 'back' && index > last - LAST_MEASURES);
  const end = endSlows ? '' : ' At the end nothing slows in print.';
  return [
    raw('tempo', {
      title: 'Leave the tempo, and find it again.',
      sentence: `${capital(
        firstOf(
          steps.map(({ text }) => text),
          8,
        ),
      )}.${isOpen ? ` After ${numberAt(score, left.index)} no return is printed: settle it.` : ''}${end}`,
      places: [...new Set(steps.map(({ index }) => index))],
      detail: steps.map(({ kind }) => kind).join(' '),
    }),
  ];
};

function stepsOf(from: Reading): Step[] {
  const { score, line } = from;
  const ofWords = score.marks.words.flatMap(({ measureIndex: index, onset, text }): Step[] => {
    const at = toNumber(score.measures[index]?.start ?? onset) + toNumber(onset);
    const kind = BACK.test(text)
      ? 'back'
      : SLOWER.test(text)
        ? 'slower'
        : FASTER.test(text)
          ? 'faster'
          : null;
    if (kind === null) return [];
    const tempo = kind === 'back' ? tempoAt(from, index, at) : '';
    const word =
      kind === 'back'
        ? `in tempo in ${numberAt(score, index)}${tempo}`
        : `${kind} in ${numberAt(score, index)}`;
    return [{ index, at, kind, text: word }];
  });
  const holds = line.notes
    .filter(({ signs }) => signs.hasFermata)
    .map(({ measureIndex: index, start }): Step => ({
      index,
      at: start,
      kind: 'hold',
      text: `a hold in ${numberAt(score, index)}`,
    }));
  return [...ofWords, ...holds].sort((a, b) => a.at - b.at);
}

function tempoAt({ score, pace }: Reading, index: number, at: number): string {
  const measure = score.measures[index];
  const tempo = quarterBpmOf(pace, at);
  if (!measure || tempo === null) return '';
  const unit =
    score.tempos.findLast((one) => toNumber(one.at) <= at + 1e-9)?.unit ?? beatUnitOf(measure.meter);
  return ` (${tempoText(beatBpm(tempo, unit), unit)})`;
}
