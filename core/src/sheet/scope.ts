import { INSTRUMENTS } from './instruments.data.js';

/**
 * For whom or within what a part holds.
 * Shape:  names as printed; an empty list limits nothing; options are lists, sections and the like
 */
export interface PartScope {
  readonly instruments: readonly string[];
  readonly divisions: readonly string[];
  readonly options: readonly string[];
}

/** A scope that limits nothing. */
export const WHOLE_SCOPE: PartScope = Object.freeze({ instruments: [], divisions: [], options: [] });

const SINGLE_INSTRUMENTS = INSTRUMENTS.map(([pattern, player]) => {
  const names = player === null ? pattern : `${pattern}|${player}`;
  return new RegExp(`^(?:${names})s?$`, 'iu');
});

/** Words that only tell instruments of one name apart by their pitch: every clarinet is a clarinet. */
const PITCH_WORDS =
  /^(?:(?:[a-g](?:[b♭]|-flat|\sflat)?|soprano|treble)\s+(?=clarinet|trumpet|cornet|horn))|\s+in\s+[a-g](?:[b♭]|-flat|\sflat)?$/giu;

/** Names that sheets use for one instrument. */
const ONE_NAME: Readonly<Record<string, string>> = {
  'french horn': 'horn',
  'f horn': 'horn',
  violoncello: 'cello',
  'string bass': 'double bass',
  contrabass: 'double bass',
  'alto sax': 'alto saxophone',
  'tenor sax': 'tenor saxophone',
  'bari sax': 'baritone saxophone',
  'baritone sax': 'baritone saxophone',
  'bari saxophone': 'baritone saxophone',
};

/** An instrument as names are compared: "Clarinet in B♭", "B-flat clarinets" and "clarinet" are one. */
export function instrumentKey(name: string): string {
  const plain = name.trim().toLowerCase().replace(/\s+/gu, ' ').replace(PITCH_WORDS, '');
  const one = ONE_NAME[plain] ?? plain;
  return /s$/u.test(one) && !/(?:brass|bass|timpanis)$/u.test(one) ? one.slice(0, -1) : one;
}

/** Whether a name is one of an instrument, as sheets name them. */
export function isInstrumentName(name: string): boolean {
  const plain = name.trim().toLowerCase();
  const key = instrumentKey(name);
  return SINGLE_INSTRUMENTS.some((pattern) => pattern.test(plain) || pattern.test(key));
}

/** "Flute, Oboe and Bassoon" are three names. */
function namesIn(text: string): string[] {
  return text
    .split(/\s*(?:,|;|\/|&|\band\b)\s*/iu)
    .map((name) => name.trim())
    .filter((name) => name !== '');
}

/**
 * Names that a part stands under, told apart into instruments, divisions and options.
 * Shape:  a name that is neither an instrument nor a division of the sheet is an option
 */
export function scopeOf(names: readonly string[], divisions: readonly (string | null)[]): PartScope {
  const known = new Set(divisions.map((name) => name?.toLowerCase()));
  const isDivision = (name: string): boolean => known.has(name.toLowerCase());
  const isInstruments = (name: string): boolean => namesIn(name).every((one) => isInstrumentName(one));
  return {
    instruments: names.filter((name) => isInstruments(name)).flatMap((name) => namesIn(name)),
    divisions: names.filter((name) => !isInstruments(name) && isDivision(name)),
    options: names.filter((name) => !isInstruments(name) && !isDivision(name)),
  };
}

/** Whether a name is that of a list or group that one piece each is played from: "List A". */
export function isListName(name: string): boolean {
  return /^(?:list|group)\s+(?:[A-F]|\d)$/iu.test(name);
}

/**
 * The list that a part stands in, of those that one piece each is played from.
 * Shape:  as printed, null for a part of none
 */
export function listOf({ options }: PartScope): string | null {
  return options.find(isListName) ?? null;
}

/** All names of a scope, as they are printed beside a part. */
export function scopeNames({ instruments, divisions, options }: PartScope): string[] {
  return [...options, ...divisions, ...instruments];
}

/** Who plays. Shape: null where it is not known. */
export interface PartPlayer {
  readonly instrument: string | null;
  readonly division: string | null;
}

/**
 * The parts that hold for a player.
 * Shape:  in their order; what is not known excludes nothing; parts that name the instrument go before parts that name its
 *         family: "Saxophone" holds for an alto saxophone only on a sheet without parts for alto saxophone
 */
export function partsHolding<Part extends { readonly scope: PartScope }>(
  parts: readonly Part[],
  { instrument, division }: PartPlayer,
): Part[] {
  const inDivision = parts.filter(
    ({ scope: { divisions } }) =>
      division === null ||
      divisions.length === 0 ||
      divisions.some((name) => name.toLowerCase() === division.toLowerCase()),
  );
  if (instrument === null) return inDivision;
  const names = (test: (name: string, instrument: string) => boolean): Part[] =>
    inDivision.filter(
      ({ scope: { instruments } }) =>
        instruments.length === 0 || instruments.some((name) => test(name, instrument)),
    );
  const isNamed = inDivision.some(({ scope }) => scope.instruments.some((name) => isSame(name, instrument)));
  return names(isNamed ? isSame : isFamilyOf);
}

const PERCUSSION: ReadonlySet<string> = new Set([
  'percussion',
  'snare drum',
  'mallet',
  'mallet percussion',
  'marimba',
  'xylophone',
  'timpani',
  'drum set',
]);

function isSame(a: string, b: string): boolean {
  const [one, other] = [instrumentKey(a), instrumentKey(b)];
  if (one === other) return true;
  // A percussionist prepares what any of the drums and mallets is asked, and a sheet for percussion is for all of them.
  return PERCUSSION.has(one) && PERCUSSION.has(other) && (one === 'percussion' || other === 'percussion');
}

function isFamilyOf(family: string, instrument: string): boolean {
  return isSame(family, instrument) || instrumentKey(instrument).endsWith(` ${instrumentKey(family)}`);
}
