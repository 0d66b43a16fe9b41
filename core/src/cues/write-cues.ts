import { fail, ok, type Result } from '../base/index.js';
import { pitchName } from '../music/index.js';
import { soloLine } from '../reading/index.js';
import { readScore, scoreText, xmlText } from '../score/index.js';
import type { CueKind, CueStatus } from './kinds.js';
import { textPlaces, type PlacedNote, type TextPlaces } from './note-places.js';

/** A cue as a file carries it. Shape: half-open measure indexes; `note` from 1 in the first of them, null for the measure */
export interface FileCue {
  readonly kind: CueKind;
  readonly fromIndex: number;
  readonly endIndex: number;
  readonly note: number | null;
  readonly sign: string;
  readonly text: string;
  readonly status: CueStatus;
  readonly reason: string;
}

/** The field of the file's head that carries cues whole: other programs pass it over. */
const FIELD = 'vivid-cue-cues';
/** Words are written in this colour, so that they are told from what is printed. */
const COLOUR = '#0F5E63';

/**
 * Writes cues into a copy of a score: as MusicXML for every program, and whole for our own.
 * Shape:  the file's text with fingerings, breath marks, bows and strings at their notes and words over them
 * Errors: cues-not-partwise for a file whose notes cannot be found part by part; the reader's own
 * Source: MusicXML 4.0: elements fingering, breath-mark, up-bow, down-bow, string, words, miscellaneous-field
 */
export function withCues(
  bytes: Uint8Array,
  partId: string | null,
  cues: readonly FileCue[],
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
  const inserts = cues.flatMap((cue) => {
    const own = places.notes.filter(({ measureIndex }) => measureIndex === cue.fromIndex);
    const names = (line.played[cue.fromIndex] ?? []).map(({ written }) =>
      written ? pitchName(written) : 'x',
    );
    return insertsOf(cue, { places, note: cue.note === null ? null : noteAt(own, names, cue.note) });
  });
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

function insertsOf(
  { kind, sign, text, fromIndex }: FileCue,
  { places, note }: { readonly places: TextPlaces; readonly note: PlacedNote | null },
): Insert[] {
  const element = note && elementOf(kind, sign);
  if (note && element !== null) return [{ at: note.notationsAt, text: `<notations>${element}</notations>` }];
  const at = note?.begin ?? firstNote(places, fromIndex);
  const words = `<words color="${COLOUR}" font-style="italic">${xmlText(sign === '' ? text : `${sign} ${text}`)}</words>`;
  return [
    {
      at,
      text: `<direction placement="above"><direction-type>${words}</direction-type></direction>`,
    },
  ];
}

function firstNote({ notes, measures }: TextPlaces, index: number): number {
  return notes.find(({ measureIndex }) => measureIndex === index)?.begin ?? measures[index] ?? 0;
}

/** What MusicXML has for a sign. Shape: null where only words say it */
function elementOf(kind: CueKind, sign: string): string | null {
  if (kind === 'breath') return '<articulations><breath-mark>comma</breath-mark></articulations>';
  if (sign === '') return null;
  if (kind === 'bow' && (sign === 'V' || sign === '⊓'))
    return `<technical><${sign === 'V' ? 'up' : 'down'}-bow/></technical>`;
  if (kind === 'string' && /^[1-9]$/u.test(sign)) return `<technical><string>${sign}</string></technical>`;
  if (kind === 'fingering' || kind === 'slide' || kind === 'stick')
    return `<technical><fingering>${xmlText(sign)}</fingering></technical>`;
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
    return Array.isArray(list) ? list.filter(isFileCue) : [];
  } catch {
    return [];
  }
}

function isFileCue(one: unknown): one is FileCue {
  const { kind, fromIndex, endIndex, text } = one as Partial<FileCue>;
  return (
    typeof one === 'object' &&
    one !== null &&
    typeof kind === 'string' &&
    typeof text === 'string' &&
    Number.isInteger(fromIndex) &&
    Number.isInteger(endIndex)
  );
}
