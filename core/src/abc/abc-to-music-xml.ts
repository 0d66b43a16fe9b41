import { fail, ok, type Result } from '../base/index.js';
import { parseAbc, type AbcElement, type AbcStaff } from './abc-elements.js';
import { xmlText } from '../score/index.js';
import { PartWriter } from './part-writer.js';

/** Why a text is refused. */
export type AbcCode = 'abc-too-long' | 'abc-no-music' | 'abc-odd' | 'abc-broken';

/** The longest text that is read. Units: characters. */
export const ABC_LIMIT = 200_000;

/** Whether a text looks like ABC notation: a reference number and a key field. */
export function isAbc(text: string): boolean {
  return /^\s*(?:%[^\n]*\n\s*)*X:\s*\d+/u.test(text) && /^K:/mu.test(text);
}

/**
 * The first tune of an ABC text as MusicXML, so that it is read, engraved and kept like every other score.
 * Shape:  a partwise file, one part a voice
 * Errors: abc-too-long, abc-no-music, abc-odd, abc-broken
 * Source: the ABC notation standard 2.1 (parsed by the library abcjs), MusicXML 4.0
 */
export function abcToMusicXml(text: string): Result<string, AbcCode> {
  if (text.length > ABC_LIMIT)
    return fail('abc-too-long', '', `This ABC text is longer than ${ABC_LIMIT / 1000} thousand characters.`);
  const odd = oddLine(text);
  if (odd !== null) return fail('abc-odd', odd.where, odd.message);
  try {
    return written(text);
  } catch {
    return fail('abc-broken', '', 'This ABC text cannot be read; check its K: field and its bar lines.');
  }
}

/**
 * A score file with ABC notation turned into MusicXML; every other file as it came.
 * Shape:  the bytes of a file
 * Errors: as abcToMusicXml
 */
export function withoutAbc(bytes: Uint8Array): Result<Uint8Array, AbcCode> {
  const text = new TextDecoder().decode(bytes.subarray(0, ABC_LIMIT + 1));
  if (!isAbc(text)) return ok(bytes);
  const xml = abcToMusicXml(text);
  return xml.ok ? ok(new TextEncoder().encode(xml.value)) : xml;
}

/** What no tune has, and what keeps the parser busy for minutes: our own bounds, with room for the longest lines. */
const LINE_LIMIT = 1500;
const OVERLAYS_IN_LINE = 8;
const OVERLAYS_IN_TUNE = 200;
const OPEN_SLURS = 64;
const REPEATED_SIGN = /([^\w\s|z])\1{31}/iu;

/** The first line that is no music, and why; null where all may be. */
function oddLine(text: string): { readonly where: string; readonly message: string } | null {
  let overlays = 0;
  let slurs = 0;
  for (const [n, line] of text.split(/\r?\n/u).entries()) {
    const where = `line ${n + 1}`;
    if (line.length > LINE_LIMIT)
      return {
        where,
        message: `Line ${n + 1} of this ABC text has ${line.length} characters; lines of up to ${LINE_LIMIT} are read. Break it at a bar line.`,
      };
    const sign = REPEATED_SIGN.exec(line)?.[1];
    if (sign !== undefined)
      return {
        where,
        message: `Line ${n + 1} of this ABC text repeats “${sign}” without end; that is no music.`,
      };
    const own = line.split('&').length - 1;
    overlays += own;
    slurs += (line.match(/\((?!\d)/gu)?.length ?? 0) - (line.split(')').length - 1);
    if (slurs > OPEN_SLURS)
      return {
        where,
        message: `Up to line ${n + 1} this ABC text opens ${slurs} slurs that it never closes; close them with “)”.`,
      };
    if (own > OVERLAYS_IN_LINE || overlays > OVERLAYS_IN_TUNE)
      return {
        where,
        message: `Line ${n + 1} of this ABC text lays too many voices over each other with “&”; write them as voices of their own (V:).`,
      };
  }
  return null;
}

function written(text: string): Result<string, AbcCode> {
  const { lines, metaText } = parseAbc(text);
  const tempo: AbcElement | null = metaText.tempo ? { el_type: 'tempo', ...metaText.tempo } : null;
  const parts = new Map<string, { readonly writer: PartWriter; readonly name: string; notes: number }>();
  for (const { staff = [] } of lines)
    staff.forEach((one, staffAt) =>
      one.voices.forEach((voice, voiceAt) => {
        const id = `P${staffAt + 1}${voiceAt > 0 ? `v${voiceAt + 1}` : ''}`;
        parts.get(id)?.writer.goOn(one);
        const known = parts.get(id) ?? begin(one, { id, tempo: parts.size === 0 ? tempo : null });
        parts.set(id, known);
        for (const element of voice) {
          known.writer.take(element);
          if (element.pitches) known.notes += 1;
        }
      }),
    );
  const played = [...parts].filter(([, { notes }]) => notes > 0);
  if (played.length === 0) return fail('abc-no-music', '', 'This ABC text holds no notes.');
  const list = played.map(
    ([id, { name }]) => `<score-part id="${id}"><part-name>${xmlText(name)}</part-name></score-part>`,
  );
  const bodies = played.map(([id, { writer }]) => `<part id="${id}">${writer.finish()}</part>`);
  const title = metaText.title ? `<work><work-title>${xmlText(metaText.title)}</work-title></work>` : '';
  return ok(
    `<?xml version="1.0" encoding="UTF-8"?><score-partwise version="4.0">${title}<part-list>${list.join('')}</part-list>${bodies.join('')}</score-partwise>`,
  );
}

function begin(
  staff: AbcStaff,
  { id, tempo }: { readonly id: string; readonly tempo: AbcElement | null },
): { writer: PartWriter; name: string; notes: number } {
  const writer = new PartWriter();
  writer.start(staff, tempo);
  return { writer, name: staff.title?.[0] ?? `Voice ${id.slice(1)}`, notes: 0 };
}
