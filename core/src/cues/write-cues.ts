import { fail, ok, type Result } from '../base/index.js';
import { pitchName } from '../music/index.js';
import { soloLine } from '../reading/index.js';
import { readScore, scoreText, xmlText } from '../score/index.js';
import {
  CUE_AUTHORS,
  CUE_INKS,
  CUE_KINDS,
  CUE_STATUSES,
  inkColour,
  lookOf,
  STRING_NAMES,
  type CueAuthor,
  type CueKind,
  type CueStatus,
  type KindLook,
} from '../cue-kinds/index.js';
import { textPlaces, type PlacedNote, type TextPlaces } from './note-places.js';

/** A cue as a file carries it. Shape: half-open measure indexes; `note` from 1 in the first of them, null for the measure */
export interface FileCue {
  readonly kind: CueKind;
  readonly fromIndex: number;
  readonly endIndex: number;
  readonly note: number | null;
  /** The printed beat, from 1, of a cue at none of its notes. */
  readonly beat: number | null;
  readonly sign: string;
  readonly text: string;
  readonly status: CueStatus;
  readonly reason: string;
  readonly author: CueAuthor;
  readonly alternatives: readonly FileAlternative[];
}

/** Another way of a cue that was considered. */
export interface FileAlternative {
  readonly text: string;
  readonly reason: string;
  readonly isSafe: boolean;
}

/** How cues are written into a file. Shape: `partId` null for the first part; `looks` as a studio chose them */
export interface CueWriting {
  readonly cues: readonly FileCue[];
  readonly partId: string | null;
  readonly looks?: readonly KindLook[];
}

/** The field of the file's head that carries cues whole: other programs pass it over. */
const FIELD = 'vivid-cue-cues';

/**
 * Writes cues into a copy of a score: as MusicXML for every program, and whole for our own.
 * Shape:  the file's text with fingerings, breath marks, bows and strings at their notes and words over them; a cue beyond
 *         the last measure is in the field alone
 * Errors: cues-not-partwise for a file whose notes cannot be found part by part; the reader's own
 * Source: MusicXML 4.0: elements fingering, breath-mark, up-bow, down-bow, string, words, miscellaneous-field
 */
export function withCues(
  bytes: Uint8Array,
  { cues, partId, looks = [] }: CueWriting,
): Result<string, string> {
  const read = readScore(bytes, { partId });
  const text = scoreText(bytes);
  if (!read.ok) return read;
  const places = textPlaces(text, read.value.partId);
  if (places.field === null || places.measures.length !== read.value.measures.length)
    return fail(
      'cues-not-partwise',
      'file',
      'Cues are written into scores that go part by part; export the score as partwise MusicXML.',
    );
  const line = soloLine(read.value);
  const inside = cues.filter(({ fromIndex }) => fromIndex < places.measures.length);
  const marks = new Map<PlacedNote, Mark[]>();
  const words: Insert[] = [];
  for (const cue of inside) {
    const own = places.notes.filter(({ measureIndex }) => measureIndex === cue.fromIndex);
    const names = (line.played[cue.fromIndex] ?? []).map(({ written }) =>
      written ? pitchName(written) : 'x',
    );
    const note = cue.note === null ? null : noteAt(own, names, cue.note);
    const colour = inkColour(lookOf(cue.kind, looks).ink);
    const mark = note && markOf(cue.kind, cue.sign, colour);
    if (note && mark) marks.set(note, [...(marks.get(note) ?? []), mark]);
    else words.push({ at: note?.begin ?? firstNote(places, cue.fromIndex), text: wordsOf(cue, colour) });
  }
  const signs = [...marks].flatMap(([note, own]) => notationInserts(note, own));
  const inserts = [...words, ...signs];
  const field = `<miscellaneous-field name="${FIELD}">${xmlText(JSON.stringify(cues))}</miscellaneous-field>`;
  const { at, before, after } = places.field;
  return ok(inserted(text, [...inserts, { at, text: `${before}${field}${after}` }]));
}

/** The note of a measure by its ordinal: the line's notes are found one after the other by their pitch. */
function noteAt(own: readonly PlacedNote[], names: readonly string[], ordinal: number): PlacedNote | null {
  const played = own.filter(({ isGrace, pitch, isTiedOn }) => !isGrace && pitch !== null && !isTiedOn);
  let from = 0;
  let found: PlacedNote | null = null;
  for (const name of names.slice(0, ordinal)) {
    const at = played.findIndex(({ pitch }, n) => n >= from && pitch === name);
    found = played[at] ?? null;
    from = at < 0 ? from : at + 1;
  }
  return found;
}

interface Insert {
  readonly at: number;
  readonly text: string;
}

/** A sign at a note, and the group of notations it stands in. */
interface Mark {
  readonly group: 'articulations' | 'technical';
  readonly xml: string;
}

function wordsOf({ sign, text, beat }: FileCue, colour: string): string {
  const words = [beat === null ? '' : `beat ${beat}:`, sign, text].filter((one) => one !== '');
  const said = xmlText(words.join(' '));
  return `${WORDS_BEGIN}${colour}" font-style="italic">${said}${WORDS_END}`;
}

const WORDS_BEGIN = '<direction placement="above"><direction-type><words color="';
const WORDS_END = '</words></direction-type></direction>';

/** The signs of a note, within the notations that it has: programs read the first of a kind and pass over others. */
function notationInserts({ ends, notationsAt }: PlacedNote, marks: readonly Mark[]): Insert[] {
  const of = (group: Mark['group']): string =>
    marks
      .filter((mark) => mark.group === group)
      .map(({ xml }) => xml)
      .join('');
  const inGroups = (['articulations', 'technical'] as const).map((group) => ({ group, xml: of(group) }));
  const known = inGroups.flatMap(({ group, xml }): Insert[] => {
    const at = ends[group];
    return at === null || xml === '' ? [] : [{ at, text: xml }];
  });
  const fresh = inGroups
    .filter(({ group, xml }) => ends[group] === null && xml !== '')
    .map(({ group, xml }) => `<${group}>${xml}</${group}>`)
    .join('');
  if (fresh === '') return known;
  return ends.notations === null
    ? [...known, { at: notationsAt, text: `<notations>${fresh}</notations>` }]
    : [...known, { at: ends.notations, text: fresh }];
}

function firstNote({ notes, measures }: TextPlaces, index: number): number {
  return notes.find(({ measureIndex }) => measureIndex === index)?.begin ?? measures[index] ?? 0;
}

/** What MusicXML has for a sign. Shape: null where only words say it */
function markOf(kind: CueKind, sign: string, colour: string): Mark | null {
  if (kind === 'breath')
    return { group: 'articulations', xml: `<breath-mark color="${colour}">comma</breath-mark>` };
  const technical = (xml: string): Mark => ({ group: 'technical', xml });
  if (kind === 'bow' && (sign === 'V' || sign === '⊓'))
    return technical(`<${sign === 'V' ? 'up' : 'down'}-bow color="${colour}"/>`);
  const string =
    STRING_NAMES.findIndex((name) => name === sign) + 1 || Number(/^[1-9]$/u.exec(sign)?.[0] ?? 0);
  if (kind === 'string' && string > 0) return technical(`<string color="${colour}">${string}</string>`);
  if (sign !== '' && (kind === 'fingering' || kind === 'slide' || kind === 'stick'))
    return technical(`<fingering color="${colour}">${xmlText(sign)}</fingering>`);
  return null;
}

function inserted(text: string, inserts: readonly Insert[]): string {
  const rising = [...inserts].sort((a, b) => a.at - b.at);
  let [out, from] = ['', 0];
  for (const { at, text: more } of rising) {
    out += text.slice(from, at) + more;
    from = at;
  }
  return out + text.slice(from);
}

const INKS = CUE_INKS.map((ink) => inkColour(ink)).join('|');
/** What `withCues` writes into a file, and what it leaves empty. */
const WRITTEN: readonly RegExp[] = [
  new RegExp(`<(breath-mark|fingering|string) color="(?:${INKS})">[^<]*</\\1>`, 'gu'),
  new RegExp(`<(?:up|down)-bow color="(?:${INKS})"/>`, 'gu'),
  new RegExp(`${WORDS_BEGIN}(?:${INKS})" font-style="italic">[^<]*${WORDS_END}`, 'gu'),
  new RegExp(`<miscellaneous-field name="${FIELD}">[^<]*</miscellaneous-field>`, 'gu'),
  /<(technical|articulations)><\/\1>/gu,
  /<notations><\/notations>/gu,
  /<miscellaneous><\/miscellaneous>/gu,
  /<identification><\/identification>/gu,
];

/**
 * A file without the cues that were written into it, so that they are not printed twice.
 * Shape:  a file that carries none of ours as it came
 */
export function withoutCues(text: string): string {
  if (!text.includes(`name="${FIELD}"`)) return text;
  return WRITTEN.reduce((left, written) => left.replaceAll(written, ''), text);
}

/**
 * The cues that a file carries.
 * Shape:  none for files that we did not write, and for a field that somebody broke
 */
export function cuesIn(text: string): FileCue[] {
  const found = new RegExp(`<miscellaneous-field name="${FIELD}">([^<]*)</miscellaneous-field>`, 'u').exec(
    text,
  );
  if (!found) return [];
  const plain = (found[1] ?? '')
    .replaceAll('&quot;', '"')
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&amp;', '&');
  try {
    const list: unknown = JSON.parse(plain);
    return Array.isArray(list) ? list.flatMap((one: unknown) => fileCueOf(one)) : [];
  } catch {
    return [];
  }
}

/** A cue of a file as ours are; what somebody changed by hand is taken as far as it can be understood. */
function fileCueOf(one: unknown): FileCue[] {
  if (typeof one !== 'object' || one === null) return [];
  const { kind, fromIndex, endIndex, note, beat, sign, text, status, reason, author, alternatives } =
    one as Partial<Record<keyof FileCue, unknown>>;
  const known = CUE_KINDS.find((own) => own === kind);
  if (known === undefined || typeof text !== 'string') return [];
  if (!isIndex(fromIndex) || !isIndex(endIndex) || endIndex <= fromIndex) return [];
  return [
    {
      ...{ kind: known, fromIndex, endIndex, text },
      note: isIndex(note) && note > 0 ? note : null,
      beat: typeof beat === 'number' && beat >= 1 ? beat : null,
      sign: textOf(sign),
      status: CUE_STATUSES.find((own) => own === status) ?? 'settled',
      reason: textOf(reason),
      author: CUE_AUTHORS.find((own) => own === author) ?? 'instructor',
      alternatives: Array.isArray(alternatives) ? alternatives.flatMap(alternativeOf) : [],
    },
  ];
}

function alternativeOf(one: unknown): FileAlternative[] {
  if (typeof one !== 'object' || one === null) return [];
  const { text, reason, isSafe } = one as Partial<Record<keyof FileAlternative, unknown>>;
  return typeof text === 'string' && text !== ''
    ? [{ text, reason: textOf(reason), isSafe: isSafe === true }]
    : [];
}

function textOf(value: unknown): string {
  return typeof value === 'string' ? value : '';
}

function isIndex(value: unknown): value is number {
  return typeof value === 'number' && Number.isInteger(value) && value >= 0;
}
