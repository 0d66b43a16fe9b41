import { readChoice } from '../choices.js';
import { findDivisions } from '../find-divisions.js';
import { findKeys } from '../find-scale.js';
import { kindOf } from '../labels.js';
import type { PartKind } from '../model.js';
import { readDeadlines } from '../read-deadlines.js';
import { WHOLE_SCOPE } from '../scope.js';
import { sentencesOf } from '../sentences.js';
import { chained, NO_PIECE, slice, type Piece } from '../text/piece.js';
import { readBlocks } from './blocks.js';
import { calm, headingOf, type Heading } from './headings.js';
import { byMentions, itemHead } from './items.js';
import { readKeyedHead } from './keyed-head.js';
import { STRENGTH, type Outline, type Section, type Seed } from './place.js';
import { roleOfWord } from './role-words.js';
import { NO_SECTION } from './seed-keeper.js';
import { SentenceReader } from './sentence-reader.js';
import { partsOfTable, type TablePart } from './table-parts.js';
import { withoutParents, withoutWholes } from './wholes.js';
import type { Line } from './wrapped.js';

/** Kinds that stand on a sheet once: their heading is the part. */
const SINGLE: ReadonlySet<PartKind> = new Set([
  'sight-reading',
  'aural',
  'improvisation',
  'rudiments',
  'chromatic',
]);
const KEYED = /^(?<key>[\p{L}.]+(?: [\p{L}.]+)?)\s*[:\t]\s*(?<value>\S.*)$/u;
const HAS_MUSIC = /["=]|\bmm?\.|\bbars?\b|\bp\.|\bno\.|\bpage\b|\bmajor\b|\bminor\b/iu;
const MOST_HEAD_LINES = 9;
/** Players that a set work is for, in front of it. */

/**
 * The structure of a document: its parts with the words that speak of each, and the sentences that speak of several.
 * Shape:  nothing is read of fields here
 */
export function outlineOf(text: string, newId: () => string): Outline {
  const builder = new Builder(newId, text);
  for (const block of readBlocks(text)) {
    if ('table' in block) builder.addTable(block.table.rows);
    else builder.addLine(block.line);
  }
  return builder.done();
}

class Builder extends SentenceReader {
  private readonly head: Piece[] = [];
  private isSectionOuter = false;
  private isHead = true;
  private asked: Piece | null = null;
  private sectionBullet: string | null = null;
  private choosesLists = false;

  constructor(
    newId: () => string,
    private readonly text: string,
  ) {
    super(newId);
  }

  done(): Outline {
    const { head, statements, choices, instruments, divisions, keyed } = this;
    const { narrowed, seeds } = withoutWholes(withoutParents(this.seeds));
    return {
      head,
      seeds,
      statements: statements.map((one) => ({
        ...one,
        place: narrowed(one.place),
        seed: seeds.find(({ id }) => id === one.seed?.id) ?? one.seed,
      })),
      choices: choices.filter(({ of }) => of.length > 0),
      choosesLists: this.choosesLists,
      items: this.items,
      instruments,
      divisions,
      keyed,
    };
  }

  addTable(rows: Parameters<typeof partsOfTable>[0]): void {
    this.isHead = false;
    const lines = rows.map((row) =>
      chained(
        row.filter((cell) => cell !== null),
        ': ',
      ),
    );
    if (lines.filter(({ plain, text }) => readDeadlines(plain, text).length > 0).length * 2 >= lines.length) {
      for (const piece of lines) this.state(piece);
      return;
    }
    this.retireSectionSeed();
    const found = partsOfTable(rows, { place: this.place, text: this.text });
    for (const name of found.instruments) this.addInstruments([name]);
    this.divisions.push(...found.divisions);
    for (const part of found.parts) this.addTablePart(part);
    this.seed = null;
    this.asked = null;
  }

  private addTablePart({ label, kind, scope, cells, list }: TablePart): void {
    if (list !== null && this.section?.list !== list)
      this.section = this.newSection({ ...NO_SECTION, kind: 'solo', label: list, isPlural: true, list });
    const seed = this.openSeed(
      { label, kind, after: 0, isNumbered: true },
      { scope, indent: 0, group: null },
    );
    const [key] =
      seed.kind === 'scale' && !cells.some(({ role }) => role === 'key')
        ? cells.flatMap(({ piece }) =>
            findKeys(piece.plain).map(({ value }) => ({ piece, value: value.keys[0] })),
          )
        : [];
    if (key) seed.evidence.push({ ...key, role: 'key', strength: STRENGTH.cell, isHead: false });
    for (const { piece, role } of cells)
      seed.evidence.push({
        piece,
        role,
        strength: STRENGTH.cell,
        isHead: role === 'text' || role === 'title',
      });
  }

  addLine(line: Line): void {
    if (this.isHead && !/^books?\s*:/iu.test(line.plain) && this.addHeadLine(line)) return;
    this.isHead = false;
    if (
      this.sectionBullet !== null &&
      line.bullet !== null &&
      bulletSort(line.bullet) === this.sectionBullet
    ) {
      this.openPlace(null, NO_PIECE, line);
      this.sectionBullet = null;
    }
    if (this.openChoice && line.bullet === null && line.indent <= this.openChoice.indent)
      this.openChoice = null;
    if (this.addKeyed(line) || this.addAnswer(line)) return;
    if (this.addFootnote(line)) return;
    const heading = headingOf(line);
    if (heading && this.openHeading(heading, line)) return;
    if (this.seed && line.isAfterBlank && line.indent <= this.seedIndent && line.bullet === null)
      this.seed = this.sectionSeed;
    this.addSentences(line, line);
  }

  /** Lines at the top until the first that asks for something. */
  private addHeadLine(line: Line): boolean {
    if (/^(?:dear|hi|hello)\b/iu.test(line.plain) && line.plain.length < 40) return true;
    if (readKeyedHead(line, this.keyed, (names) => this.addInstruments(names))) return true;
    const isOver =
      this.head.length >= MOST_HEAD_LINES ||
      line.bullet !== null ||
      readDeadlines(line.plain, line.text).some(
        ({ deadline, question }) => deadline.date !== null || question?.candidates.length !== 0,
      ) ||
      readChoice(line.plain, line.text) !== null ||
      (/[.!]$/u.test(line.plain) && line.plain.length > 60) ||
      /^[^:]{3,40}\s+(?:due|by)\s*:|^(?:deadline|results|notification)/iu.test(line.plain);
    if (isOver) return false;
    const heading = headingOf(line);
    if (heading?.type === 'instrument' && heading.rest.text === '' && this.head.length > 0) {
      this.openHeading(heading, line);
      this.head.push(line);
      return true;
    }
    if (heading && heading.type !== 'topic' && heading.type !== 'instrument')
      return heading.type === 'division' && this.addDivisionHead(heading, line);
    for (const { value } of findDivisions(line.plain, line.text))
      if (value.name !== null || value.gradeMin !== null || value.ageMax !== null) this.divisions.push(value);
    if (itemHead(line, null) !== null && (/[:=]/u.test(line.plain) || itemHead(line, null)?.isNumbered))
      return false;
    this.head.push(line);
    return true;
  }

  private addDivisionHead(heading: Heading, line: Line): boolean {
    this.openHeading(heading, line);
    this.head.push(line);
    return true;
  }

  /** "Measures: 1–16": a named field of the part at hand. */
  private addKeyed(line: Line): boolean {
    const match = KEYED.exec(line.plain);
    const role = match ? roleOfWord(match.groups?.key ?? '') : null;
    if (match && /^(?:part|item|component|requirement)$/iu.test(match.groups?.key ?? '')) {
      const value = slice(line, line.plain.length - (match.groups?.value ?? '').length);
      this.openItem(
        { label: calm(value.text), kind: kindOf(value.plain), after: 0, isNumbered: true },
        NO_PIECE,
        { line, bullet: null },
      );
      return true;
    }
    if (match && role === 'book' && !this.seed) {
      this.isHead = false;
      this.statements.push({ piece: line, place: this.place, seed: null, asked: null });
      return true;
    }
    if (!match || !this.seed || role === null || role === 'label' || role === 'text') return false;
    if (role === 'title' && /^\d{1,3}\s*(?:points|marks|pts)/iu.test(match.groups?.value ?? '')) return false;
    if (role === 'points' && !/^\d{1,4}\b/u.test(match.groups?.value ?? '')) return false;
    if (line.indent < this.seedIndent || (line.bullet !== null && line.indent <= this.seedIndent))
      return false;
    if (role === 'instrument' || role === 'division') return false;
    const value = slice(line, line.plain.length - (match.groups?.value ?? '').length);
    this.seed.evidence.push({ piece: value, role, strength: STRENGTH.own, isHead: role === 'title' });
    return true;
  }

  /** A line under the sign that stands behind words above: it speaks of those parts. */
  private addFootnote(line: Line): boolean {
    const own = /^(?<mark>[*†‡]{1,3})\s+/u.exec(line.plain);
    const mark = own?.groups?.mark ?? (/^[*†‡]{1,3}$/u.test(line.bullet ?? '') ? line.bullet : null);
    if (mark === null) return false;
    const isMarked = ({ piece }: { readonly piece: Piece }): boolean => marksIn(piece.text).includes(mark);
    const seeds = this.seeds.filter(({ evidence }) => evidence.some(isMarked));
    if (seeds.length === 0) return false;
    const piece = slice(line, own?.[0].length ?? 0);
    for (const { start, end } of sentencesOf(piece.plain)) {
      const sentence = slice(piece, start, end);
      this.statements.push({ piece: sentence, place: this.place, seed: null, asked: null });
      const own = withoutLead(sentence);
      const role = own === sentence ? ('text' as const) : ('book' as const);
      for (const seed of seeds)
        seed.evidence.push({ piece: own, role, strength: STRENGTH.footnote, isHead: true });
    }
    return true;
  }

  /** A question of the page's own with its answer. */
  private addAnswer(line: Line): boolean {
    const match = /^(?<who>q|question|a|answer)\s*[:.]\s+/iu.exec(line.plain);
    if (!match) return false;
    const own = slice(line, match[0].length);
    if (/^q/iu.test(match.groups?.who ?? '')) this.asked = own;
    else {
      for (const { start, end } of sentencesOf(own.plain))
        this.statements.push({
          piece: slice(own, start, end),
          place: this.place,
          seed: this.named(this.asked),
          asked: this.asked,
        });
    }
    this.seed = null;
    return true;
  }

  private named(piece: Piece | null): Seed | null {
    if (!piece) return null;
    const heads = byMentions(piece).flatMap(({ head }) => (head ? [head] : []));
    return heads.length === 1 && heads[0] ? this.known(heads[0].label) : null;
  }

  private openHeading(heading: Heading, line: Line): boolean {
    const { rest } = heading;
    switch (heading.type) {
      case 'instrument':
        return this.openInstrument(heading.names, rest, line);
      case 'everyone':
        this.scope = { ...this.scope, instruments: [], divisions: [], options: [] };
        return this.openPlace(null, rest, line);
      case 'division':
        return this.openDivision(heading, line);
      case 'option':
        // A line that goes on with music is the option's part, and not its heading.
        if (HAS_MUSIC.test(rest.plain)) return false;
        this.scope = { ...this.scope, options: [heading.name] };
        return this.openPlace(null, NO_PIECE, line);
      case 'list':
        if (/\bone\b/iu.test(rest.plain)) this.choosesLists = true;
        return this.openPlace(
          this.newSection({
            ...NO_SECTION,
            kind: 'solo',
            label: heading.name,
            isPlural: true,
            list: heading.name,
          }),
          rest,
          line,
        );
      case 'section':
        return this.openSection(heading, line);
      case 'topic':
        if (this.scope.instruments.length > 0 && this.isSectionOuter)
          this.scope = { ...this.scope, instruments: [] };
        return this.openPlace(
          heading.topic === null ? null : this.newSection({ ...NO_SECTION, topic: heading.topic }),
          rest,
          line,
        );
    }
  }

  private openDivision({ division, rest }: Extract<Heading, { type: 'division' }>, line: Line): boolean {
    this.divisions.push(division);
    if (this.section?.topic === 'divisions') return true;
    this.scope = { ...WHOLE_SCOPE, divisions: [division.name ?? ''] };
    return this.openPlace(null, /^[[(]/u.test(rest.text) ? NO_PIECE : rest, line);
  }

  private openInstrument(names: readonly string[], rest: Piece, line: Line): boolean {
    this.addInstruments(names);
    this.scope = { ...this.scope, instruments: [...names], options: [] };
    const keeps = this.isSectionOuter && this.section?.kind !== null ? this.section : null;
    const isItem = line.bullet !== null || rest.text !== '';
    this.seed = null;
    this.sectionSeed = null;
    if (keeps !== this.section) this.section = keeps;
    if (isItem && rest.text !== '' && !/^[[(]/u.test(rest.text)) this.addSentences(rest, line);
    return true;
  }

  private openPlace(section: Section | null, rest: Piece, line: Line): boolean {
    this.section = section;
    this.isSectionOuter = this.scope.instruments.length === 0;
    this.seed = null;
    this.sectionSeed = null;
    this.openChoice = null;
    if (rest.text !== '') this.addSentences(rest, { ...line, bullet: null });
    return true;
  }

  private openSection(heading: Extract<Heading, { type: 'section' }>, line: Line): boolean {
    // A heading of the level at which instruments were opened closes them.
    if (this.isSectionOuter && this.section !== null && this.scope.instruments.length > 0)
      this.scope = { ...this.scope, instruments: [] };
    const { kind, label, isPlural, mode, rest } = heading;
    if (/^\d{1,3}\s*(?:points?|pts|marks?)\s+each\.?$/iu.test(rest.plain)) {
      this.statements.push({ piece: line, place: { ...this.place, section: null }, seed: null, asked: null });
      return true;
    }
    this.section = this.newSection({ ...NO_SECTION, kind, label, isPlural, mode });
    this.isSectionOuter = this.scope.instruments.length === 0;
    this.seed = null;
    this.sectionSeed = null;
    if (!isPlural || SINGLE.has(kind)) {
      this.sectionSeed = this.openSeed(
        { label, kind, after: 0, isNumbered: false },
        { scope: this.scope, indent: line.indent, group: null },
      );
      this.seedIndent = line.indent;
    }
    this.sectionBullet = line.bullet === null ? null : bulletSort(line.bullet);
    if (rest.text !== '') this.addSentences(rest, { ...line, bullet: null });
    return true;
  }
}

/** Signs of footnotes in a text: behind a word, never between two. */
function marksIn(text: string): string[] {
  return [...text.matchAll(/(?<=[^\s*†‡])[*†‡]{1,3}(?![*†‡\p{L}])/gu)].map(([mark]) => mark);
}

/** "This one etude is in …": what is said of the part begins behind its name. */
function withoutLead(piece: Piece): Piece {
  const lead = /^(?:this|these|the)\s+(?:one\s+)?[\p{L}]+\s+(?:is|are|comes?)\s+(?:in|from)\s+/iu.exec(
    piece.plain,
  );
  return lead ? slice(piece, lead[0].length) : piece;
}

/** What sort of bullet it is: roman numerals, capitals, letters, numbers, or a sign. */
function bulletSort(bullet: string): string {
  const own = bullet.replace(/[().†*]/gu, '');
  if (/^\d/u.test(own)) return 'number';
  if (/^[IVX]+$/u.test(own)) return 'roman';
  return /^\p{Lu}/u.test(own) ? 'capital' : /^\p{Ll}/u.test(own) ? 'letter' : own;
}
