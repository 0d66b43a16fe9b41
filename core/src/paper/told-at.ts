import { meterText } from '../music/index.js';
import {
  keyText,
  lineOfFields,
  readToldLine,
  toldFields,
  writeToldLine,
  type ToldFields,
} from './told-line.js';
import { tempoPhrase } from './tempo-phrase.js';
import type { ToldMusic, ToldRepeat } from './told.js';

/** What may be told of one measure. */
export type ToldAtKind = 'meter' | 'key' | 'letter' | 'tempo' | 'ending';

/** What is told of one measure, as somebody would type it. Shape: "" where nothing is told there */
export type ToldAt = Readonly<Record<ToldAtKind, string>>;

/** What is told to begin at a measure. Units: printed numbers */
export function toldAt(fields: ToldFields, number: number): ToldAt {
  const { music } = readToldLine(lineOfFields(fields));
  if (!music) return { meter: fields.meter, key: '', letter: '', tempo: '', ending: '' };
  const { meters, keys, letters, tempos, repeats } = music;
  const at = <One extends { readonly at: number }>(all: readonly One[]): One | undefined =>
    all.find((one) => one.at === number);
  const [meter, key, tempo] = [meters.find(({ from }) => from === number), at(keys), at(tempos)];
  const ending = repeats.flatMap(({ endings }) => endings).find(({ from }) => from === number);
  return {
    meter: meter ? meterText(meter.meter) : '',
    key: key ? keyText(key.fifths) : '',
    letter: at(letters)?.name ?? '',
    tempo: tempo ? tempoPhrase(tempo.mark) : '',
    ending: ending ? ending.passes.join(',') : '',
  };
}

/** Told fields after a change, or why it cannot be. */
export type ToldChange = { readonly fields: ToldFields } | { readonly issue: string };

/**
 * Tells something of one measure, or nothing any more where the text is empty.
 * Units:  printed numbers
 * Errors: an issue with a sentence; nothing is changed then
 */
export function withToldAt(
  fields: ToldFields,
  number: number,
  { kind, text }: { readonly kind: ToldAtKind; readonly text: string },
): ToldChange {
  const own = text.trim();
  const { music } = readToldLine(lineOfFields(fields));
  if (!music) {
    if (kind !== 'meter') return { issue: 'Tell the meter of the first measure before this.' };
    return checked({ ...fields, meter: own }, fields);
  }
  if (kind === 'ending') return withEnding(fields, music, { number, text: own });
  if (kind === 'meter' && number <= music.first) return checked({ ...fields, meter: own }, fields);
  const piece = own === '' ? '' : pieceOf(kind, number, own);
  const line = [writeToldLine(without(music, kind, number)), piece].filter((one) => one !== '').join('; ');
  const read = readToldLine(line);
  const [issue] = read.issues;
  return issue || !read.music
    ? { issue: issue?.message ?? 'This is not understood.' }
    : { fields: toldFields(read.music, fields.rest) };
}

function checked(next: ToldFields, before: ToldFields): ToldChange {
  const { music, issues } = readToldLine(lineOfFields({ ...next, rest: '' }));
  if (next.meter === '' && before.meter !== '')
    return { issue: 'The first measure has a meter; write one such as 4/4.' };
  return music || next.last === ''
    ? { fields: next }
    : { issue: issues[0]?.message ?? 'This is not understood.' };
}

function pieceOf(kind: Exclude<ToldAtKind, 'ending'>, number: number, text: string): string {
  if (kind === 'meter') return `${text} from ${number}`;
  return kind === 'letter' ? `${text.toUpperCase()}${number}` : `${number} ${text}`;
}

function without(music: ToldMusic, kind: ToldAtKind, number: number): ToldMusic {
  const isOther = ({ at }: { readonly at: number }): boolean => at !== number;
  if (kind === 'meter') return { ...music, meters: music.meters.filter(({ from }) => from !== number) };
  if (kind === 'key') return { ...music, keys: music.keys.filter(isOther) };
  if (kind === 'tempo') return { ...music, tempos: music.tempos.filter(isOther) };
  return { ...music, letters: music.letters.filter(isOther) };
}

/** An ending at a measure of a repeat, or right behind it; where the first is told, the second follows it. */
function withEnding(
  fields: ToldFields,
  music: ToldMusic,
  { number, text }: { readonly number: number; readonly text: string },
): ToldChange {
  const at = music.repeats.findIndex(({ from, to }) => from <= number && number <= to + 1);
  const repeat = music.repeats[at];
  if (!repeat) return { issue: `No repeat reaches measure ${number}; set its repeat signs first.` };
  const passes = text
    .split(/[\s,.]+/u)
    .filter((one) => one !== '')
    .map(Number);
  if (passes.some((one) => !Number.isInteger(one) || one < 1 || one > 9))
    return { issue: 'An ending is played on passes such as 1 or 1,2.' };
  const next =
    passes.length === 0 ? withoutEnding(repeat, number) : added(repeat, { number, passes, last: music.last });
  const repeats = music.repeats.map((one, n) => (n === at ? next : one));
  return { fields: toldFields({ ...music, repeats }, fields.rest) };
}

function withoutEnding(repeat: ToldRepeat, number: number): ToldRepeat {
  const endings = repeat.endings.filter(({ from, to }) => !(from <= number && number <= to));
  // One ending alone is none.
  return endings.length > 1 ? { ...repeat, endings } : { ...repeat, endings: [], times: 2 };
}

function added(
  repeat: ToldRepeat,
  {
    number,
    passes,
    last,
  }: { readonly number: number; readonly passes: readonly number[]; readonly last: number },
): ToldRepeat {
  const own = { passes, from: number, to: number };
  const others = repeat.endings.filter(({ from }) => from !== number);
  const followed = Math.max(...passes) + 1;
  const isLone = others.length === 0 && number < last;
  const more = isLone ? [{ passes: [followed], from: number + 1, to: number + 1 }] : [];
  const endings = [...others, own, ...more].sort((a, b) => a.from - b.from);
  return {
    ...repeat,
    endings,
    to: Math.max(repeat.to, ...endings.map(({ to }) => to)),
    times: Math.max(2, ...endings.flatMap((one) => one.passes)),
  };
}
