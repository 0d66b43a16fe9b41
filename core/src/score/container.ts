import { strFromU8, unzipSync, type UnzipFileInfo } from 'fflate';
import { ScoreStop } from './issues.js';
import { SCORE_LIMITS } from './limits.js';

/**
 * The text of a score file, plain or packed, in whatever encoding it came.
 * Shape:  a non-empty string
 * Errors: ScoreStop with score-empty, score-too-large, score-archive, score-hostile or score-encoding
 * Source: MusicXML 4.0, compressed .mxl files; XML 1.0 (Fifth Edition), appendix F, detection of encodings
 */
export function scoreText(bytes: Uint8Array): string {
  if (bytes.length === 0)
    throw new ScoreStop('score-empty', '', 'The file is empty; export the score again.');
  if (bytes.length > SCORE_LIMITS.fileBytes) throw tooLarge(bytes.length);
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b;
  return decode(isZip ? unpack(bytes) : bytes);
}

function tooLarge(length: number): ScoreStop {
  const limit = SCORE_LIMITS.fileBytes / 1048576;
  return new ScoreStop(
    'score-too-large',
    '',
    `A score file has at most ${limit} MB; ${(length / 1048576).toFixed(1)} MB came.`,
  );
}

function unpack(bytes: Uint8Array): Uint8Array {
  let root: string | null = null;
  try {
    root = rootFile(bytes);
  } catch (error) {
    if (error instanceof ScoreStop) throw error;
    throw brokenArchive();
  }
  const found = root === null ? firstScore(bytes) : extract(bytes, (name) => name === root);
  if (!found) {
    throw new ScoreStop(
      'score-archive',
      '',
      'The packed file holds no score; export it again as .mxl or .musicxml.',
    );
  }
  return found;
}

function brokenArchive(): ScoreStop {
  return new ScoreStop(
    'score-archive',
    '',
    'The packed score cannot be opened; it is broken or cut short. Export it again.',
  );
}

function rootFile(bytes: Uint8Array): string | null {
  const container = extract(bytes, (name) => name === 'META-INF/container.xml');
  if (!container) return null;
  return /<rootfile\s[^>]*full-path\s*=\s*["']([^"']+)["']/u.exec(strFromU8(container))?.[1] ?? null;
}

function firstScore(bytes: Uint8Array): Uint8Array | null {
  return extract(bytes, (name) => /\.(musicxml|xml)$/iu.test(name) && !name.startsWith('META-INF/'));
}

function extract(bytes: Uint8Array, wanted: (name: string) => boolean): Uint8Array | null {
  let entries = 0;
  let taken = false;
  const filter = (file: UnzipFileInfo): boolean => {
    entries += 1;
    if (entries > SCORE_LIMITS.archiveEntries) {
      throw new ScoreStop(
        'score-hostile',
        '',
        `A packed score holds a few files; this one holds over ${SCORE_LIMITS.archiveEntries}.`,
      );
    }
    if (taken || !wanted(file.name)) return false;
    const isBomb = file.originalSize > 65536 && file.originalSize > file.size * SCORE_LIMITS.unpackRatio;
    if (isBomb || file.originalSize > SCORE_LIMITS.unpackedBytes) {
      throw new ScoreStop(
        'score-hostile',
        '',
        'The packed file unpacks to far more than a score holds, so it was not opened.',
      );
    }
    taken = true;
    return true;
  };
  try {
    return Object.values(unzipSync(bytes, { filter }))[0] ?? null;
  } catch (error) {
    if (error instanceof ScoreStop) throw error;
    throw brokenArchive();
  }
}

function decode(bytes: Uint8Array): string {
  const encoding = encodingOf(bytes);
  try {
    const text = new TextDecoder(encoding, { fatal: encoding !== 'windows-1252' }).decode(bytes);
    if (text.trim() === '')
      throw new ScoreStop('score-empty', '', 'The file holds no text; export the score again.');
    return text;
  } catch (error) {
    if (error instanceof ScoreStop) throw error;
    throw new ScoreStop(
      'score-encoding',
      '',
      `The file's text is not readable as ${encoding}; export it again as UTF-8.`,
    );
  }
}

function encodingOf(bytes: Uint8Array): string {
  const [a = 0, b = 0, c = 0, d = 0] = bytes;
  if (a === 0xff && b === 0xfe) return 'utf-16le';
  if (a === 0xfe && b === 0xff) return 'utf-16be';
  if (a === 0x3c && b === 0 && d === 0) return 'utf-16le';
  if (a === 0 && b === 0x3c && c === 0) return 'utf-16be';
  const head = strFromU8(bytes.subarray(0, 200), true);
  const declared = /^\s*(?:ï»¿)?<\?xml[^>]*\sencoding\s*=\s*["']([\w.-]+)["']/u
    .exec(head)?.[1]
    ?.toLowerCase();
  // ISO 8859-1 is read as windows-1252, as the WHATWG Encoding standard asks.
  return declared === undefined || /^utf-?(8|16)/u.test(declared) ? 'utf-8' : knownEncoding(declared);
}

function knownEncoding(label: string): string {
  if (/^(iso-?8859-1|latin-?1|us-ascii|ascii|windows-1252|cp1252)$/u.test(label)) return 'windows-1252';
  throw new ScoreStop(
    'score-encoding',
    '',
    `The file says it is written in "${label}", which is not read; export it as UTF-8.`,
  );
}
