import { readChoice } from '../choices.js';
import { findDivisions, NO_DIVISION } from '../find-divisions.js';
import { instrumentNames } from '../heading.js';
import { findKeys } from '../find-scale.js';
import { kindOf } from '../labels.js';
import { readDeadlines } from '../read-deadlines.js';
import { WHOLE_SCOPE } from '../scope.js';
import { chained, NO_PIECE, sentencesIn, slice, type Piece } from '../text/piece.js';
import { tell, type LineRole, type Told } from '../told/corrections.js';
import { readRawLines } from '../text/raw-lines.js';
import { readBlocks, type ToldTable } from './blocks.js';
import { calm, headingOf, type Heading } from './headings.js';
import { byMentions, columnHead, itemHead, restOf } from './items.js';
import { readKeyedHead } from './keyed-head.js';
import { isUniversal } from './prose.js';
import {
  STRENGTH,
  type HeadRole,
  type Outline,
  type OutlineLine,
  type OutlineTable,
  type Seed,
} from './place.js';
import { roleOfWord } from './role-words.js';
import { NO_SECTION } from './seed-keeper.js';
import { bulletSort, HeadingReader } from './heading-reader.js';
import { partsOfTable, type TablePart } from './table-parts.js';
import { rolesOf } from './table-roles.js';
import { withoutParents, withoutWholes } from './wholes.js';
import type { Line } from './wrapped.js';

const KEYED = /^(?<key>[\p{L}.]+(?: [\p{L}.]+)?)\s*[:\t]\s*(?<value>\S.*)$/u;
const MOST_HEAD_LINES = 9;
/**
 * The structure of a document: its parts with the words that speak of each, and the sentences that speak of several.
 * Shape:  nothing is read of fields here
 */
export function outlineOf(
  text: string,
  newId: () => string,
  told: Told = tell(readRawLines(text), []),
): Outline {
  const builder = new Builder(newId, text);
  for (const block of readBlocks(told)) {
    if ('table' in block) builder.addTable(block.table);
    else if (block.isHeads) builder.addColumnHeads(block.line);
    else builder.addLine(block.line, block.said);
  }
  return builder.done();
}

class Builder extends HeadingReader {
  private readonly head: Piece[] = [];
  private isHead = true;
  private asked: Piece | null = null;
  private readonly lines: OutlineLine[] = [];
  private readonly tables: OutlineTable[] = [];
  /** Parts that the block before opened: a footnote without a sign speaks of them. */
  private before: Seed[] = [];

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
      lines: this.lines,
      tables: this.tables,
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

  addTable(table: ToldTable): void {
    const count = this.seeds.length;
    this.addRows(table);
    this.before = this.seeds.slice(count);
  }

  private addRows({ rows, columns, names, start, end }: ToldTable): void {
    this.isHead = false;
    const lines = rows.map((row) =>
      chained(
        row.filter((cell) => cell !== null),
        ': ',
      ),
    );
    if (lines.filter(({ plain, text }) => readDeadlines(plain, text).length > 0).length * 2 >= lines.length) {
      for (const piece of lines) this.state(piece);
      this.tables.push({ roles: rolesOf(rows, columns), start, end, told: new Set(columns.keys()) });
      return;
    }
    this.retireSectionSeed();
    const found = partsOfTable(rows, { place: this.place, text: this.text, columns, names });
    this.tables.push({ roles: found.roles, start, end, told: new Set(columns.keys()) });
    for (const name of found.instruments) this.addInstruments([name]);
    this.divisions.push(...found.divisions);
    for (const part of found.parts) this.addTablePart(part);
    for (const piece of found.loose) this.state(piece);
    this.seed = null;
    this.asked = null;
  }

  private addTablePart({ label, kind, scope, cells, list, at }: TablePart): void {
    this.at = at;
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

  /** A line that only names the columns of later tables. */
  addColumnHeads(line: Line): void {
    this.isHead = false;
    this.lines.push({ line, role: 'heading', isTold: false });
  }

  /** A line, as it reads or as a person said it is. */
  addLine(line: Line, said: LineRole | null = null): void {
    this.at = line.at[0] ?? this.at;
    const count = this.seeds.length;
    const read = said === null ? this.addUntold(line) : this.addSaid(line, said);
    const isPart = this.seeds.length > count;
    if (isPart) this.before = this.seeds.slice(count);
    this.lines.push({ line, role: read ?? (isPart ? 'part' : null), isTold: said !== null });
  }

  private addUntold(line: Line): HeadRole | null {
    const head = this.isHead && !/^books?\s*:/iu.test(line.plain) ? this.addHeadLine(line) : null;
    if (head) return head;
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
    if (this.addKeyed(line) || this.addAnswer(line)) return null;
    if (this.addFootnote(line)) return 'footnote';
    if (this.addInstrumentKeys(line)) return null;
    const heading = headingOf(line);
    if (heading && this.openHeading(heading, line)) return HEADING_ROLE[heading.type];
    if (this.seed && line.isAfterBlank && line.indent <= this.seedIndent && line.bullet === null)
      this.seed = this.sectionSeed;
    this.addSentences(line, line);
    return null;
  }

  /** A line of which a person said what it is. */
  private addSaid(line: Line, said: LineRole): LineRole {
    if (said !== 'nothing') this.isHead = false;
    switch (said) {
      case 'nothing':
        break;
      case 'instrument': {
        const names = instrumentNames(line.text);
        this.openInstrument(names.length > 0 ? names : [nameOfLine(line)], NO_PIECE, line);
        break;
      }
      case 'division':
        this.openSaidDivision(line);
        break;
      case 'list':
        this.openSaidList(line);
        break;
      case 'part':
        this.openSaid(line);
        break;
      case 'more':
        this.seed ??= this.seeds.at(-1) ?? null;
        for (const sentence of sentencesIn(line)) this.say(sentence, { isHead: false });
        break;
      case 'footnote':
        if (!this.addFootnote(line))
          for (const seed of this.before)
            seed.evidence.push({ piece: line, role: 'text', strength: STRENGTH.footnote, isHead: true });
        break;
      case 'rule':
      case 'scoring':
      case 'dates':
        this.stateSaid(line, said);
    }
    return said;
  }

  private openSaidDivision(line: Line): void {
    const [found] = findDivisions(line.plain, line.text);
    const division = { ...NO_DIVISION, ...found?.value, text: line.text };
    const name = division.name ?? nameOfLine(line);
    this.openDivision({ type: 'division', division: { ...division, name }, rest: NO_PIECE }, line);
  }

  private openSaidList(line: Line): void {
    const label = nameOfLine(line);
    const section = { ...NO_SECTION, kind: 'solo' as const, label, isPlural: true, list: label };
    this.openPlace(this.newSection(section), NO_PIECE, line);
  }

  /** Sentences of a line that a person said is a rule for all, a list of points, or one of dates. */
  private stateSaid(line: Line, said: 'rule' | 'scoring' | 'dates'): void {
    const topic = said === 'rule' ? null : said;
    const section = topic && this.newSection({ ...NO_SECTION, topic });
    const place = { scope: said === 'rule' ? WHOLE_SCOPE : this.scope, section };
    for (const piece of sentencesIn(line))
      this.statements.push({ piece, place, seed: null, asked: null, said });
  }

  /** A part that a person saw in a line: it is called by what stands in front. */
  private openSaid(line: Line): void {
    const name = /^[^:,;="“(]{2,40}?(?=\s*(?:[:,;="“(]|\s[–—-]\s|$))/u.exec(line.text)?.[0] ?? '';
    const label = line.gap > 0 ? line.text.slice(0, line.gap) : name;
    const head = itemHead(line, line.bullet) ?? {
      label: label === '' ? 'Part' : calm(label),
      kind: kindOf(line.plain),
      after: label.length,
      isNumbered: true,
    };
    const rest = restOf(line, head);
    this.openItem(head, rest, { line, bullet: null });
    sentencesIn(rest).forEach((sentence, n) => this.say(sentence, { isHead: n === 0 }));
  }

  /** Lines at the top until the first that asks for something. */
  private addHeadLine(line: Line): HeadRole | null {
    if (/^(?:dear|hi|hello)\b/iu.test(line.plain) && line.plain.length < 40) return 'head';
    if (readKeyedHead(line, this.keyed, (names) => this.addInstruments(names))) return 'head';
    const isOver =
      this.head.length >= MOST_HEAD_LINES ||
      line.bullet !== null ||
      (isUniversal(line.plain) && /[.]$/u.test(line.plain)) ||
      columnHead(line) !== null ||
      readDeadlines(line.plain, line.text).some(
        ({ deadline, question }) => deadline.date !== null || question?.candidates.length !== 0,
      ) ||
      readChoice(line.plain, line.text) !== null ||
      (/[.!]$/u.test(line.plain) && line.plain.length > 60) ||
      /^[^:]{3,40}\s+(?:due|by)\s*:|^(?:deadline|results|notification)/iu.test(line.plain);
    if (isOver) return null;
    const heading = headingOf(line);
    if (heading?.type === 'instrument' && heading.rest.text === '' && this.head.length > 0) {
      this.openHeading(heading, line);
      this.head.push(line);
      return 'instrument';
    }
    if (heading && heading.type !== 'topic' && heading.type !== 'instrument')
      return heading.type === 'division' ? this.addDivisionHead(heading, line) : null;
    for (const { value } of findDivisions(line.plain, line.text))
      if (value.name !== null || value.gradeMin !== null || value.ageMax !== null) this.divisions.push(value);
    if (itemHead(line, null) !== null && (/[:=]/u.test(line.plain) || itemHead(line, null)?.isNumbered))
      return null;
    this.head.push(line);
    return 'head';
  }

  private addDivisionHead(heading: Heading, line: Line): HeadRole {
    this.openHeading(heading, line);
    this.head.push(line);
    return 'division';
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
    this.leaveInstrument(seeds);
    const piece = slice(line, own?.[0].length ?? 0);
    for (const sentence of sentencesIn(piece)) {
      this.statements.push({ piece: sentence, place: this.place, seed: null, asked: null });
      const own = withoutLead(sentence);
      const role = own === sentence ? ('text' as const) : ('book' as const);
      for (const seed of seeds)
        seed.evidence.push({ piece: own, role, strength: STRENGTH.footnote, isHead: true });
    }
    return true;
  }

  /** "Violin - A major     Viola - D major": the scale of each instrument. */
  private addInstrumentKeys(line: Line): boolean {
    const found = [...line.plain.matchAll(INSTRUMENT_KEY)].filter(
      ({ groups }) => instrumentNames(groups?.who ?? '').length === 1,
    );
    if (found.length < 2) return false;
    const { scope } = this;
    for (const { index, 0: text, groups } of found) {
      this.scope = { ...scope, instruments: instrumentNames(groups?.who ?? '') };
      this.addInstruments(this.scope.instruments);
      const from = index + text.length - (groups?.key?.length ?? 0);
      this.addScaleLine(slice(line, from, index + text.length), line.indent, '•');
    }
    this.scope = scope;
    this.seed = null;
    return true;
  }

  /** A footnote to parts of another instrument stands at the foot of them all: what follows is for everybody. */
  private leaveInstrument(seeds: readonly Seed[]): void {
    const { instruments } = this.scope;
    const isForeign = seeds.some(({ place }) => place.scope.instruments.join() !== instruments.join());
    if (instruments.length > 0 && isForeign) this.scope = { ...this.scope, instruments: [] };
  }

  /** A question of the page's own with its answer. */
  private addAnswer(line: Line): boolean {
    const match = /^(?<who>q|question|a|answer)\s*[:.]\s+/iu.exec(line.plain);
    if (!match) return false;
    const own = slice(line, match[0].length);
    if (/^q/iu.test(match.groups?.who ?? '')) this.asked = own;
    else {
      for (const piece of sentencesIn(own))
        this.statements.push({
          piece,
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
}

const INSTRUMENT_KEY =
  /(?<who>\p{Lu}[\p{L}♭. -]{2,24}?)\s*(?:[:–—]|\s-)\s*(?<key>[A-G](?:[b#♭♯]|[- ](?:flat|sharp))?\s+(?:(?:harmonic|melodic|natural)\s+)?(?:major|minor))(?![\p{L}])/gu;

const HEADING_ROLE = {
  instrument: 'instrument',
  everyone: 'instrument',
  division: 'division',
  option: 'option',
  list: 'list',
  section: 'section',
  topic: 'heading',
} as const satisfies Readonly<Record<Heading['type'], HeadRole>>;

/** What a line names, without the sign behind it. */
function nameOfLine({ text }: Line): string {
  return calm(text.replace(/[\s:.–—-]+$/u, '').slice(0, 60));
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
