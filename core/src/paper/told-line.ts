import { plainSigns } from '../base/index.js';
import {
  askTempo,
  beatUnitOf,
  meterFrom,
  meterText,
  quarters,
  scaleQuarters,
  type Meter,
  type Quarters,
  type TempoMark,
} from '../music/index.js';
import { tempoPhrase } from './tempo-phrase.js';
import { valueWords } from './told-values.js';
import {
  MOST_TOLD_MEASURES,
  type ToldDensity,
  type ToldEnding,
  type ToldIssue,
  type ToldMusic,
  type ToldRepeat,
  type ToldValue,
} from './told.js';

/** What a told line gives: the music as far as it was told, and what of it cannot be read. */
export interface ToldReading {
  readonly music: ToldMusic | null;
  readonly issues: readonly ToldIssue[];
}

interface Run {
  readonly from: number;
  readonly to: number;
  readonly meter: Meter;
}

/** A line as it is gone through. */
interface Told {
  runs: Run[];
  changes: { from: number; meter: Meter }[];
  pickup: { length: Quarters | null } | null;
  letters: { name: string; at: number }[];
  repeats: ToldRepeat[];
  tempos: { at: number | null; mark: TempoMark }[];
  keys: { at: number | null; fifths: number }[];
  dense: ToldDensity[];
}

/**
 * Reads music as it is told in one line: "1–16 4/4; 17–32 6/8; pickup 1/4; A9 B17; |: 1–8 :| 1. 7 2. 8; ♩=116".
 * Shape:  pieces between semicolons in any order; what cannot be read is told and the rest is read; null where no measures
 *         are told
 * Units:  printed measure numbers; see ToldMusic
 * Errors: none; issues carry a sentence each
 * Source: docs/formats.md
 */
export function readToldLine(line: string): ToldReading {
  const told: Told = {
    ...{ runs: [], changes: [], pickup: null, letters: [] },
    ...{ repeats: [], tempos: [], keys: [], dense: [] },
  };
  const issues: ToldIssue[] = [];
  for (const match of line.matchAll(/[^;\n]+/gu)) {
    const text = match[0].trim();
    if (text === '') continue;
    const start = match.index + match[0].indexOf(text);
    const message = readPiece(plainSigns(text).replace(/\s+/gu, ' '), told);
    if (message !== null) issues.push({ start, end: start + text.length, message });
  }
  return assembled(told, issues, line.length);
}

/** Reads one piece. Shape: null where it was read, else what is wrong with it */
function readPiece(plain: string, told: Told): string | null {
  for (const read of [readRun, readPickup, readRepeat, readDensity, readKey, readTempo, readLetters]) {
    const found = read(plain, told);
    if (found !== undefined) return found;
  }
  return `"${plain}" is not understood. Write measures such as 1–16 4/4, pickup 1/4, letters A9 B17, a repeat |: 1–8 :|, or a tempo ♩=116.`;
}

const METER = '(?<meter>\\d+(?:\\+\\d+)*\\/\\d+)';
const RUN = new RegExp(
  `^(?:mm?\\.? ?|bars? |measures? )?(?<from>\\d{1,5})(?: ?(?:-|to) ?(?<to>\\d{1,5}))?:? (?:in |of )?${METER}$`,
  'iu',
);
const COUNT = new RegExp(`^(?<count>\\d{1,5}) ?(?:x|\\u00d7|(?:measures?|bars?) (?:of|in)) ?${METER}$`, 'iu');
const CHANGE = new RegExp(`^${METER} from (?:mm?\\.? ?|bar |measure )?(?<from>\\d{1,5})$`, 'iu');

function readRun(plain: string, told: Told): string | null | undefined {
  const match = RUN.exec(plain) ?? COUNT.exec(plain) ?? CHANGE.exec(plain);
  if (!match?.groups) return undefined;
  const { from, to, count } = match.groups;
  const meter = meterFrom(match.groups['meter'] ?? '');
  if (!meter || !isMeter(meter)) return `${match.groups['meter']} is no meter; write one such as 4/4 or 6/8.`;
  if (count !== undefined) {
    const next = (told.runs.at(-1)?.to ?? 0) + 1;
    if (Number(count) < 1) return 'A run has at least one measure.';
    told.runs.push({ from: next, to: next + Number(count) - 1, meter });
  } else if (to === undefined && CHANGE.test(plain)) told.changes.push({ from: Number(from), meter });
  else {
    const run = { from: Number(from), to: Number(to ?? from), meter };
    if (run.to < run.from) return `The measures ${run.from}–${run.to} run backwards.`;
    told.runs.push(run);
  }
  return null;
}

function isMeter({ groups, beatType }: Meter): boolean {
  return groups.every((beats) => beats >= 1 && beats <= 64) && isNoteValue(beatType);
}

/** Whether a number under a meter is a note value: 4 is a quarter. */
function isNoteValue(den: number): boolean {
  return [1, 2, 4, 8, 16, 32].includes(den);
}

function readPickup(plain: string, told: Told): string | null | undefined {
  const match =
    /^(?:pickup|pick-up|upbeat|anacrusis)(?: of)?(?: (?<num>\d{1,2})\/(?<den>\d{1,2})| (?<one>one|a beat|1))?$/iu.exec(
      plain,
    );
  if (!match?.groups) return undefined;
  const { num, den } = match.groups;
  if (num !== undefined && !isNoteValue(Number(den)))
    return `A pickup of ${num}/${den} has no note value; write one such as 1/4.`;
  if (Number(num) === 0) return 'A pickup has a length; write one such as 1/4.';
  told.pickup = { length: num === undefined ? null : quarters(Number(num) * 4, Number(den)) };
  return null;
}

const LETTER = /(?<name>[A-Z]{1,2})(?<at>\d{1,5})/gu;

function readLetters(plain: string, told: Told): string | null | undefined {
  const own = plain.replace(/^(?:letters?|rehearsal marks?):? /iu, '');
  if (!/^(?:[A-Z]{1,2} ?\d{1,5}[ ,]*)+$/u.test(own)) return undefined;
  for (const { groups } of own.replace(/([A-Z]) (\d)/gu, '$1$2').matchAll(LETTER))
    told.letters.push({ name: groups?.['name'] ?? '', at: Number(groups?.['at']) });
  return null;
}

const REPEAT =
  /^(?:\|: ?|repeat )(?<from>\d{1,5}) ?(?:-|to) ?(?<to>\d{1,5})(?: ?:\|)?(?: ?x ?(?<times>\d{1,2}))?(?<endings>(?: \d(?:,\d)*\. ?\d{1,5}(?:-\d{1,5})?)*)$/iu;

function readRepeat(plain: string, told: Told): string | null | undefined {
  const match = REPEAT.exec(plain);
  if (!match?.groups) return undefined;
  const [from, to] = [Number(match.groups['from']), Number(match.groups['to'])];
  if (to < from) return `The repeat ${from}–${to} runs backwards.`;
  const endings = [
    ...(match.groups['endings'] ?? '').matchAll(
      /(?<passes>\d(?:,\d)*)\. ?(?<from>\d{1,5})(?:-(?<to>\d{1,5}))?/gu,
    ),
  ].map(({ groups }): ToldEnding => ({
    passes: (groups?.['passes'] ?? '').split(',').map(Number),
    from: Number(groups?.['from']),
    to: Number(groups?.['to'] ?? groups?.['from']),
  }));
  const wrong = endings.find((one) => one.from < from || one.to > to || one.to < one.from);
  if (wrong) return `The ending ${wrong.passes.join(',')}. lies outside of the repeat ${from}–${to}.`;
  const passes = Math.max(2, ...endings.flatMap((one) => one.passes));
  const times = match.groups['times'] === undefined ? passes : Number(match.groups['times']);
  if (times < 2 || times > 20) return `A repeat is played 2 to 20 times; ${times} came.`;
  told.repeats.push({ from, to, times, endings });
  return null;
}

const VALUES: readonly (readonly [RegExp, ToldValue])[] = [
  [/^(?:thirty-?seconds?|32nds?|demisemiquavers?)$/iu, 'thirty-second'],
  [/^(?:sixteenths?|16ths?|semiquavers?)$/iu, 'sixteenth'],
  [/^(?:(?:eighth[- ]?)?triplets?)$/iu, 'triplet'],
  [/^(?:eighths?|8ths?|quavers?)$/iu, 'eighth'],
  [/^(?:quarters?|crotchets?)$/iu, 'quarter'],
];

function readDensity(plain: string, told: Told): string | null | undefined {
  const match = /^(?:densest in )?(?<from>\d{1,5})(?: ?- ?(?<to>\d{1,5}))?:? (?<value>[\p{L}\d -]+)$/iu.exec(
    plain,
  );
  const value = VALUES.find(([words]) => words.test(match?.groups?.['value'] ?? ''))?.[1];
  if (!match?.groups || value === undefined) return undefined;
  const { from, to } = match.groups;
  const stretch = { from: Number(from), to: Number(to ?? from), value };
  if (stretch.to < stretch.from) return `The measures ${stretch.from}–${stretch.to} run backwards.`;
  told.dense.push(stretch);
  return null;
}

function readKey(plain: string, told: Told): string | null | undefined {
  const match =
    /^(?:(?<at>\d{1,5}):? )?(?:key(?: of)? )?(?:(?<count>\d) ?(?<sign>flats?|sharps?|b|#)|(?<none>no (?:flats|sharps|accidentals)))$/iu.exec(
      plain,
    );
  if (!match?.groups) return undefined;
  const { at, count, sign, none } = match.groups;
  const fifths = none === undefined ? Number(count) * (/^(?:f|b)/iu.test(sign ?? '') ? -1 : 1) : 0;
  if (Math.abs(fifths) > 7) return `A key has at most seven ${sign}; ${count} came.`;
  told.keys.push({ at: at === undefined ? null : Number(at), fifths: fifths === 0 ? 0 : fifths });
  return null;
}

function readTempo(plain: string, told: Told): string | null | undefined {
  const match = /^(?:(?<at>\d{1,5}):? )?(?<mark>.*(?:=|\bbpm\b|\u2669).*)$/iu.exec(plain);
  if (!match?.groups) return undefined;
  const read = askTempo(match.groups['mark'] ?? '');
  if (!('mark' in read)) return read.question;
  const { at } = match.groups;
  told.tempos.push({ at: at === undefined ? null : Number(at), mark: read.mark });
  return null;
}

function assembled(told: Told, issues: ToldIssue[], length: number): ToldReading {
  const runs = [...told.runs].sort((a, b) => a.from - b.from);
  const [opening] = runs;
  const say = (message: string): void => {
    issues.push({ start: 0, end: length, message });
  };
  if (!opening) {
    if (issues.length === 0) say('Tell the measures first, such as 1–32 4/4.');
    return { music: null, issues };
  }
  const first = opening.from;
  const last = Math.max(...runs.map(({ to }) => to), ...told.changes.map(({ from }) => from));
  if (last - first + 1 > MOST_TOLD_MEASURES) {
    say(`A piece has at most ${MOST_TOLD_MEASURES} measures; ${last - first + 1} were told.`);
    return { music: null, issues };
  }
  const isWithin = (from: number, to = from): boolean => from >= first && to <= last;
  for (const [name, at] of placesOf(told))
    if (!isWithin(at)) say(`${name} stands at ${at}, outside of the measures ${first}–${last}.`);
  const placed = <One extends { readonly at: number | null }>(all: readonly One[]) =>
    all
      .map((one) => ({ ...one, at: one.at ?? first }))
      .filter((one) => isWithin(one.at))
      .sort((a, b) => a.at - b.at);
  const music: ToldMusic = {
    ...{ first, last },
    meters: metersOf(runs, told.changes),
    pickup: told.pickup && (told.pickup.length ?? oneBeat(opening.meter)),
    letters: placed(told.letters),
    repeats: told.repeats.filter(({ from, to }) => isWithin(from, to)).sort((a, b) => a.from - b.from),
    tempos: placed(told.tempos),
    keys: placed(told.keys),
    dense: told.dense.filter(({ from, to }) => isWithin(from, to)),
  };
  return { music, issues };
}

/** Everything that stands at a measure, by what it is. */
function placesOf({ letters, repeats, tempos, keys, dense }: Told): [string, number][] {
  return [
    ...letters.map(({ name, at }): [string, number] => [`Letter ${name}`, at]),
    ...repeats.flatMap(({ from, to }): [string, number][] => [
      ['A repeat', from],
      ['A repeat', to],
    ]),
    ...tempos.flatMap(({ at }): [string, number][] => (at === null ? [] : [['A tempo', at]])),
    ...keys.flatMap(({ at }): [string, number][] => (at === null ? [] : [['A key', at]])),
    ...dense.map(({ to }): [string, number] => ['A dense place', to]),
  ];
}

/** "Pickup of one": one beat as the meter counts it. */
function oneBeat(meter: Meter): Quarters {
  const unit = beatUnitOf(meter);
  return unit === 'dotted-quarter' ? quarters(3, 2) : quarters(4, meter.beatType);
}

/** Where the meter changes; a gap between runs goes on in the meter before it. */
function metersOf(
  runs: readonly Run[],
  changes: readonly { readonly from: number; readonly meter: Meter }[],
): { from: number; meter: Meter }[] {
  const all = [...runs.map(({ from, meter }) => ({ from, meter })), ...changes].sort(
    (a, b) => a.from - b.from,
  );
  return all.filter(
    ({ meter, from }, n) =>
      all[n + 1]?.from !== from && (n === 0 || meterText(all[n - 1]?.meter ?? meter) !== meterText(meter)),
  );
}

/** Music as one line, which reads back to the same. Source: docs/formats.md */
export function writeToldLine(music: ToldMusic): string {
  const { last, meters } = music;
  const runs = meters.map(
    ({ from, meter }, n) => `${run(from, (meters[n + 1]?.from ?? last + 1) - 1)} ${meterText(meter)}`,
  );
  return joined([...runs, ...Object.values(besides(music))]);
}

/**
 * What was told, in the fields of a form, each as it stands in the line.
 * Shape:  "" where nothing was told; `changes` are meters after the first, `rest` is what nobody could read
 */
export interface ToldFields {
  readonly first: string;
  readonly last: string;
  readonly meter: string;
  readonly changes: string;
  readonly pickup: string;
  readonly letters: string;
  readonly repeats: string;
  readonly keys: string;
  readonly tempos: string;
  readonly dense: string;
  readonly rest: string;
}

/** Told music in fields. Shape: `rest` as it is given */
export function toldFields(music: ToldMusic, rest = ''): ToldFields {
  const [opening, ...later] = music.meters;
  return {
    first: String(music.first),
    last: String(music.last),
    meter: opening ? meterText(opening.meter) : '',
    changes: later.map(({ from, meter }) => `${meterText(meter)} from ${from}`).join('; '),
    ...besides(music),
    rest,
  };
}

/** The line of what stands in fields. Shape: reads back to the music that the fields were made of */
export function lineOfFields({ first, last, meter, changes, pickup, ...others }: ToldFields): string {
  const own = pickup.trim();
  const { letters, repeats, keys, tempos, dense, rest } = others;
  return joined([
    first.trim() === '' && last.trim() === '' ? '' : `${first.trim()}–${last.trim()} ${meter.trim()}`.trim(),
    ...[changes, own === '' || /^pick-?up/iu.test(own) ? own : `pickup ${own}`],
    ...[letters, repeats, keys, tempos, dense, rest],
  ]);
}

function joined(pieces: readonly string[]): string {
  return pieces
    .map((piece) => piece.trim())
    .filter((piece) => piece !== '')
    .join('; ');
}

function run(from: number, to: number): string {
  return from === to ? String(from) : `${from}–${to}`;
}

/** What is told besides the measures, each as it stands in the line. */
function besides({
  first,
  pickup,
  letters,
  repeats,
  tempos,
  keys,
  dense,
}: ToldMusic): Pick<ToldFields, 'pickup' | 'letters' | 'repeats' | 'keys' | 'tempos' | 'dense'> {
  const at = (place: number): string => (place === first ? '' : `${place} `);
  return {
    pickup: pickup ? `pickup ${fraction(pickup)}` : '',
    letters: letters.map((one) => `${one.name}${one.at}`).join(' '),
    repeats: joined(repeats.map((one) => repeatText(one))),
    keys: joined(keys.map((one) => `${at(one.at)}${keyText(one.fifths)}`)),
    tempos: joined(tempos.map((one) => `${at(one.at)}${tempoPhrase(one.mark)}`)),
    dense: joined(dense.map((one) => `${run(one.from, one.to)} ${valueWords(one.value)}`)),
  };
}

function repeatText({ from, to, times, endings }: ToldRepeat): string {
  const passes = Math.max(2, ...endings.flatMap((one) => one.passes));
  const own = endings.map((one) => ` ${one.passes.join(',')}. ${run(one.from, one.to)}`).join('');
  return `|: ${from}–${to} :|${times === passes ? '' : ` x${times}`}${own}`;
}

/** A key as it is told: "2 flats". */
export function keyText(fifths: number): string {
  const count = Math.abs(fifths);
  if (count === 0) return 'no sharps';
  return `${count} ${fifths < 0 ? 'flat' : 'sharp'}${count === 1 ? '' : 's'}`;
}

/** A length as a fraction of a whole note: a quarter is 1/4. */
function fraction(length: Quarters): string {
  const { num, den } = scaleQuarters(length, 1, 4);
  return `${num}/${den}`;
}
