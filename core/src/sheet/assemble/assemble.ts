import { countBy } from '../../base/index.js';
import { distinctTempos, questionOfMark, type TempoMark } from '../../music/index.js';
import type { Claims, ScopeClaim } from '../claims/claims.js';
import { reaches } from '../claims/scope-claims.js';
import { factsOf } from '../facts/facts-of.js';
import type { Fact, FactField } from '../facts/text-facts.js';
import { isBackwards } from '../find-spans.js';
import {
  blankPart,
  NO_TEMPO,
  type PartKind,
  type SheetPart,
  type SheetQuestion,
  type SheetSpan,
} from '../model.js';
import { STRENGTH, type Seed } from '../structure/place.js';
import { placeIn } from '../text/piece.js';

/** A part with what it was read from, and what only a person can say of it. */
export interface AssembledPart {
  readonly part: SheetPart;
  readonly seed: Seed;
  readonly facts: readonly Fact[];
  readonly questions: readonly SheetQuestion[];
}

const WORK_ONLY: ReadonlySet<FactField> = new Set([
  'repeats',
  'accompaniment',
  'book',
  'composer',
  'edition',
  'maxSeconds',
  'minSeconds',
]);
const WORKS: ReadonlySet<PartKind> = new Set(['etude', 'excerpt', 'solo', 'improvisation']);

/** Parts out of seeds: of each field the strongest claim holds. */
export function assembleParts(seeds: readonly Seed[], claims: Claims): AssembledPart[] {
  const labels = countBy(seeds.map(({ label }) => label.toLowerCase()));
  const names = seeds.map((seed) => fullName(seed, labels));
  const counts = countBy(names);
  const groups = countBy(seeds.map(({ group }) => group));
  const seen = new Map<string, number>();
  let book: readonly Fact[] = [];
  let tempo: readonly Fact[] = [];
  return seeds.map((seed, n) => {
    const name = names[n] ?? seed.label;
    const nth = (seen.get(name) ?? 0) + 1;
    seen.set(name, nth);
    const label = (counts.get(name) ?? 0) > 1 ? `${name} (${nth})` : name;
    const siblings = seed.group === null ? 1 : (groups.get(seed.group) ?? 1);
    const facts = factsOfSeed(seed, claims.scopes, { book, tempo, books: claims.books }).filter(
      // Points of an item that was split are of none of its parts alone; of alternatives they are of each.
      ({ field }) => field !== 'points' || siblings === 1 || seed.kind !== 'scale',
    );
    const ownTempo = facts.filter(({ field }) => field === 'tempo');
    if (ownTempo.length > 0) tempo = ownTempo;
    const own = facts.filter(
      ({ field, strength }) => (field === 'book' || field === 'composer') && strength >= 4,
    );
    if (own.some(({ field }) => field === 'book')) book = own;
    const assembler = new Assembler(label, { seed, facts }, claims);
    const part = assembler.part();
    return { part, seed, facts, questions: assembler.questions };
  });
}

/** A label that several parts carry goes with whom each is for: never two parts of one name. */
function fullName({ label, place }: Seed, counts: ReadonlyMap<string, number>): string {
  if ((counts.get(label.toLowerCase()) ?? 0) < 2) return label;
  const { instruments, divisions, options } = place.scope;
  const scope = [...instruments, ...divisions, ...options].join(', ');
  return scope === '' ? label : `${scope} ${label.charAt(0).toLowerCase()}${label.slice(1)}`;
}

function factsOfSeed(
  seed: Seed,
  scopes: readonly ScopeClaim[],
  {
    book,
    tempo,
    books,
  }: { readonly book: readonly Fact[]; readonly tempo: readonly Fact[]; readonly books: Claims['books'] },
): Fact[] {
  const own = [
    ...seed.evidence.flatMap((evidence) => factsOf(evidence, seed.kind)),
    ...abbreviated(seed, books),
  ];
  const shared = scopes
    .filter((claim) => reaches(claim, seed))
    .flatMap(({ facts }) => facts)
    .filter(({ field }) => !WORK_ONLY.has(field) || WORKS.has(seed.kind));
  const facts = [...own, ...shared];
  // "The same book": what was named before, as if it stood here.
  if (own.some(({ field }) => field === 'sameBook')) facts.push(...book);
  if (own.some(({ field }) => field === 'sameTempo')) facts.push(...tempo);
  return facts;
}

/** "S, no. 3" where the sheet says which book S stands for. */
function abbreviated({ evidence }: Seed, books: Claims['books']): Fact[] {
  return evidence.flatMap(({ piece, strength }) => {
    const name = /^(?<name>[A-Z]{1,4})(?=,|\s+no\b)/u.exec(piece.plain)?.groups?.name;
    const book = books.find((one) => one.name === name);
    if (!book) return [];
    const place = { ...placeIn(piece, 0, 1), strength };
    return [
      { ...place, field: 'book' as const, value: book.book },
      ...(book.composer === null ? [] : [{ ...place, field: 'composer' as const, value: book.composer }]),
    ];
  });
}

class Assembler {
  readonly questions: SheetQuestion[] = [];

  private readonly seed: Seed;
  private readonly facts: readonly Fact[];

  constructor(
    private readonly label: string,
    { seed, facts }: { readonly seed: Seed; readonly facts: readonly Fact[] },
    private readonly claims: Pick<Claims, 'mode' | 'beat'>,
  ) {
    this.seed = seed;
    this.facts = facts;
  }

  part(): SheetPart {
    const { seed } = this;
    const { instruments, divisions: own, options } = seed.place.scope;
    const list = seed.place.section?.list ?? null;
    const part: SheetPart = {
      ...blankPart(this.first('label') ?? this.label, seed.kind, seed.id),
      scope: { instruments, divisions: own, options: list === null ? options : [...options, list] },
      title: this.title(),
      source: {
        composer: this.first('composer'),
        book: this.first('book'),
        number: this.first('number') ?? this.numberOfLabel(),
        page: this.one('page'),
        edition: this.first('edition'),
      },
      measures: this.spans(),
      tempo: this.tempo(),
      key: this.key(),
      octaves: this.octaves(),
      noteValue: this.one('noteValue'),
      range: this.first('range'),
      articulation: this.first('articulation'),
      memory: this.one('memory'),
      repeats: this.one('repeats') ?? 'unstated',
      accompaniment: this.one('accompaniment'),
      maxSeconds: this.one('maxSeconds'),
      minSeconds: this.one('minSeconds'),
      points: this.one('points') ?? this.first('points each'),
    };
    this.askDuration(part);
    return part;
  }

  /** "Etude #14, page 21": where a page is named, the number is that of the book. */
  private numberOfLabel(): string | null {
    const isInBook = this.first('page') !== null && this.first('book') !== null;
    return isInBook
      ? (/^(?:[eé]tude|study)\s*(?:#|no\.?)\s*(?<n>\d{1,3}[a-z]?)$/iu.exec(this.seed.label)?.groups?.n ??
          null)
      : null;
  }

  /** The facts of a field that outweigh the others. */
  private strongest(field: FactField): readonly Fact[] {
    const all = this.facts.filter((fact) => fact.field === field);
    const most = Math.max(...all.map(({ strength }) => strength), 0);
    return all.filter(({ strength }) => strength === most);
  }

  private first<Value>(field: FactField): Value | null {
    return (this.strongest(field)[0]?.value as Value | undefined) ?? null;
  }

  private one<Value>(field: FactField): Value | null {
    const values = distinct(this.strongest(field).map(({ value }) => value));
    if (values.length <= 1) return (values[0] as Value | undefined) ?? null;
    this.ask(
      field,
      `The sheet gives ${values.length} answers for ${field} of ${this.label}: ${values.map(String).join(', ')}. Which one holds?`,
      values,
    );
    return null;
  }

  private ask(field: string, ask: string, candidates: readonly unknown[]): void {
    this.questions.push({ partId: this.seed.id, about: `${this.label}/${field}`, ask, candidates });
  }

  private title(): string | null {
    const quoted = this.strongest('title').map(({ value }) => value as string);
    const [title] = quoted;
    if (title !== undefined) return title;
    const isArpeggio = this.seed.kind === 'scale' && /^arpeggio\b/iu.test(this.seed.label);
    return isArpeggio ? 'arpeggio' : null;
  }

  private key(): string | null {
    const key = this.first<string>('key');
    if (key === null || / /u.test(key.replace(/^concert /u, ''))) return key;
    const mode = this.seed.place.section?.mode ?? this.claims.mode;
    if (mode === null && /^(?:concert )?[A-G][b#]?$/u.test(key))
      this.ask('key', `Is ${this.label} a major or a minor scale?`, [`${key} major`, `${key} minor`]);
    return mode === null ? key : `${key} ${mode}`;
  }

  private octaves(): number | null {
    const counts = distinct(this.strongest('octaves').flatMap(({ value }) => value as readonly number[]));
    if (counts.length <= 1) return counts[0] ?? null;
    this.ask(
      'octaves',
      `${this.label} is asked over ${counts.join(' and ')} octaves. Which one holds?`,
      counts,
    );
    return null;
  }

  private tempo(): TempoMark {
    const all = this.facts.filter(({ field }) => field === 'tempo');
    const said = all.find(({ strength }) => strength === STRENGTH.told)?.value as TempoMark | undefined;
    if (said?.bound === 'words') return said;
    const words = all.map(({ value }) => (value as TempoMark).words).find((own) => own !== null) ?? null;
    const numbered = all.filter(({ value }) => (value as TempoMark).bound !== 'words');
    const most = Math.max(...numbered.map(({ strength }) => strength), 0);
    const marks = distinctTempos(
      numbered.filter(({ strength }) => strength === most).map(({ value }) => value as TempoMark),
    );
    if (marks.length > 1) {
      this.ask('tempo', `The sheet gives ${marks.length} tempos for ${this.label}. Which one holds?`, marks);
      return words === null ? NO_TEMPO : { ...NO_TEMPO, bound: 'words', words };
    }
    const [found] = marks;
    const mark =
      found?.beatUnit === null && this.claims.beat !== null
        ? { ...found, beatUnit: this.claims.beat }
        : found;
    if (mark) {
      const question = questionOfMark(mark, String(mark.bpmMin ?? mark.bpmMax));
      if (question)
        this.ask(mark.beatUnit === null ? 'tempo.beatUnit' : 'tempo', question.question, question.candidates);
      return { ...mark, words: mark.words ?? words };
    }
    if (words !== null) {
      this.ask('tempo', `"${words}" has no number. What is the target tempo of ${this.label}?`, []);
      return { ...NO_TEMPO, bound: 'words', words };
    }
    if (this.first('asMarked') !== null)
      this.ask('tempo', `${this.label} is to be played as marked. What tempo does the score give?`, []);
    return NO_TEMPO;
  }

  private spans(): readonly SheetSpan[] {
    const lists = distinct(this.strongest('measures').map(({ value }) => value as readonly SheetSpan[]));
    // A single measure named besides is a remark on it, not another span to play.
    const runs = lists.length > 1 ? lists.filter((list) => list.some(({ from, to }) => from !== to)) : lists;
    if (runs.length > 1) {
      this.ask('measures', `The sheet names different measures for ${this.label}. Which ones hold?`, runs);
      return [];
    }
    const spans = runs[0] ?? lists[0] ?? [];
    const backwards = spans.find(({ from, to }) => isBackwards(from, to));
    if (backwards)
      this.ask(
        'measures',
        `${this.label} runs backwards, from ${backwards.from} to ${backwards.to}. Which measures are meant?`,
        [],
      );
    return spans;
  }

  private askDuration({ minSeconds, maxSeconds }: SheetPart): void {
    if (minSeconds !== null && maxSeconds !== null && minSeconds > maxSeconds)
      this.ask(
        'maxSeconds',
        `${this.label} must last at least ${minSeconds} s and at most ${maxSeconds} s. Which one holds?`,
        [minSeconds, maxSeconds],
      );
  }
}

function distinct<Value>(values: readonly Value[]): Value[] {
  return [...new Map(values.map((value) => [JSON.stringify(value), value])).values()];
}
