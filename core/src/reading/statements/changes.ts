import { capital } from '../../base/index.js';
import {
  beatBpm,
  beatUnitOf,
  isCompound,
  meterText,
  signatureWords,
  tempoText,
  toNumber,
  tonicOf,
} from '../../music/index.js';
import type { Navigation, ScoreMeasure } from '../../score/index.js';
import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import type { RawFinding } from '../findings/finding.js';
import { beatOf, quarterBpmOf } from '../line/pace.js';
import { valueName } from '../line/value-names.js';
import { listed, measuresText, numberAt } from './places.js';

/** From so many places on, a meter or a clef that changes all the time is told once. */
const OFTEN = 3;
/** Units: measures. */
const WAY_BACK = 2;

interface Change {
  readonly index: number;
  readonly number: string;
  /** What changes: key, meter, tempo, clef. */
  readonly what: readonly string[];
  /** How it is from here on. */
  readonly now: readonly string[];
}

/**
 * The map of changes: key, meter and its beat, tempo and clef, one finding for a place, and the way through repeats.
 * Shape:  a meter or a clef alone that changes in three places and more is one finding
 * Source: MusicXML 4.0 for the signs; what is told is common practice, no source
 */
export const changes: Finder = (from) => {
  const all = withoutWaysBack(changesOf(from));
  const alone = (kind: string): Change[] => all.filter(({ what }) => what.length === 1 && what[0] === kind);
  const joined = ['meter', 'clef'].filter((kind) => alone(kind).length >= OFTEN);
  const isJoined = ({ what }: Change): boolean => what.length === 1 && joined.includes(what[0] ?? '');
  return [
    ...all.filter((change) => !isJoined(change)).map((change) => changeFinding(from, change)),
    ...joined.map((kind) => oftenFinding(from, kind, alone(kind))),
    ...wayThrough(from),
  ];
};

function changesOf({ score, line, pace, beatToFeel }: Reading): Change[] {
  const last = line.notes.at(-1)?.measureIndex ?? -1;
  const feelAt = new Map(beatToFeel.map(({ measure, why }) => [measure, why]));
  const known = new Set([...line.notes, ...line.rests].map(({ measureIndex }) => measureIndex));
  return score.measures.flatMap((measure, index): Change[] => {
    const before = score.measures[index - 1];
    // Between two excerpts nothing changes for the player.
    if (!before || index > last || (known.has(index) && !known.has(index - 1) && before.toldNotes === null))
      return [];
    const [what, now]: [string[], string[]] = [[], []];
    const add = (name: string, text: string): void => {
      what.push(name);
      now.push(text);
    };
    if (measure.fifths !== before.fifths) add('key', keyText(measure.fifths));
    if (meterText(measure.meter) !== meterText(before.meter)) add('meter', meterWords(measure, before));
    const tempo = tempoAt({ score, pace }, measure, before);
    if (tempo !== null) add('tempo', tempo);
    if (measure.clef !== null && before.clef !== null && measure.clef !== before.clef)
      add('clef', `${measure.clef} clef`);
    const feel = what.length > 0 ? feelAt.get(measure.number) : undefined;
    if (feel !== undefined) now.push(feel.replace(/\.$/u, ''));
    return what.length > 0 ? [{ index, number: measure.number, what, now }] : [];
  });
}

/** A change that is taken back a measure or two later is one with it. */
function withoutWaysBack(all: readonly Change[]): Change[] {
  const kept: Change[] = [];
  for (const change of all) {
    const last = kept.at(-1);
    const isBack =
      last !== undefined &&
      change.index - last.index <= WAY_BACK &&
      change.what.join() === last.what.join() &&
      change.what.every((what) => what === 'meter' || what === 'key');
    if (isBack)
      kept[kept.length - 1] = { ...last, now: [...last.now, `at ${change.number} ${change.now.join('; ')}`] };
    else kept.push(change);
  }
  return kept;
}

function keyText(fifths: number): string {
  return `${signatureWords(fifths)} (${tonicOf(fifths, 'major')} major or ${tonicOf(fifths, 'minor')} minor)`;
}

function meterWords({ meter }: ScoreMeasure, before: ScoreMeasure): string {
  const beat = beatOf(meter);
  const isOther = beat !== beatOf(before.meter);
  return `${meterText(meter)}${isOther ? `, the ${valueName(beat)} has the beat` : ''}`;
}

/** The tempo that begins in a measure, if it is another one or another beat counts. */
function tempoAt(
  { score, pace }: Pick<Reading, 'score' | 'pace'>,
  measure: ScoreMeasure,
  before: ScoreMeasure,
): string | null {
  const [start, end] = [toNumber(measure.start), toNumber(measure.start) + toNumber(measure.length)];
  const last = quarterBpmOf(pace, start - 1e-6);
  const here = score.tempos.findIndex(({ at }) => toNumber(at) >= start - 1e-9 && toNumber(at) < end - 1e-9);
  const now = pace.segments[here];
  if (here <= 0 || !now || last === null) return null;
  const unit = score.tempos[here]?.unit ?? beatUnitOf(measure.meter);
  const isSame = Math.abs(now.quarterBpm - last) < 1e-6;
  const isSameBeat = isCompound(measure.meter) === isCompound(before.meter);
  return isSame && isSameBeat ? null : tempoText(beatBpm(now.quarterBpm, unit), unit);
}

function changeFinding({ score }: Reading, { index, what, now }: Change): RawFinding {
  return raw('change', {
    title: `${capital(what.length === 1 ? `another ${what[0] ?? ''}` : `${listed(what)} change`)} at ${numberAt(score, index)}.`,
    sentence: `From measure ${numberAt(score, index)}: ${now.join('; ')}.`,
    places: [index],
    detail: now.join(),
  });
}

function oftenFinding({ score }: Reading, kind: string, all: readonly Change[]): RawFinding {
  const places = all.map(({ index }) => index);
  const texts = all.slice(0, 6).map(({ index, now }) => `${now[0] ?? ''} at ${numberAt(score, index)}`);
  return raw('change', {
    title: `The ${kind} changes ${all.length} times.`,
    sentence: `${capital(texts.join('; '))}${all.length > 6 ? ' …' : ''}: mark each in ${measuresText(score, places)} before the first run.`,
    places,
    detail: texts.join(),
  });
}

const SIGNS: readonly (readonly [name: string, is: (one: Navigation) => boolean])[] = [
  ['the sign', ({ segno }) => segno !== null],
  ['to the coda', ({ toCoda }) => toCoda !== null],
  ['fine', ({ fine }) => fine],
  ['da capo', ({ daCapo }) => daCapo],
  ['dal segno', ({ dalSegno }) => dalSegno !== null],
  ['the coda', ({ coda }) => coda !== null],
];

/** Jumps and endings as the player goes through them. */
function wayThrough({ score, line }: Reading): RawFinding[] {
  const asked = new Set(line.notes.map(({ measureIndex }) => measureIndex));
  const own = score.measures.filter(({ index, navigation }) => navigation !== null && asked.has(index));
  const signs = own.flatMap((measure) =>
    SIGNS.filter(([, is]) => measure.navigation && is(measure.navigation)).map(([name]) => ({
      index: measure.index,
      text: `${name} at ${measure.number}`,
    })),
  );
  const endings = own
    .filter(({ navigation, index }) => navigation?.endings && !score.measures[index - 1]?.navigation?.endings)
    .map(({ index, number }) => ({ index, text: `another ending at ${number}` }));
  const all = [...signs, ...endings].sort((a, b) => a.index - b.index);
  if (signs.length === 0 && endings.length === 0) return [];
  return [
    raw('change', {
      importance: 0.7,
      title: 'The way through the repeats.',
      sentence: `${capital(all.map(({ text }) => text).join(', '))}: play the way once without the instrument.`,
      places: [...new Set(all.map(({ index }) => index))],
      detail: all.map(({ text }) => text).join(),
    }),
  ];
}
