import { readChoice } from '../choices.js';
import { findKeys } from '../find-scale.js';
import { findDivisions } from '../find-divisions.js';
import { kindOf, labelKey } from '../labels.js';
import type { Division, PartKind } from '../model.js';
import { readDeadlines } from '../read-deadlines.js';
import { instrumentKey, WHOLE_SCOPE, type PartScope } from '../scope.js';
import { sentencesOf } from '../sentences.js';
import { isPersonName } from '../work-line.js';
import { chained, NO_PIECE, slice, type Piece } from '../text/piece.js';
import { instrumentNames } from '../heading.js';
import { readBlocks } from './blocks.js';
import { calm, headingOf, type Heading } from './headings.js';
import { byMentions, itemHead, type ItemHead } from './items.js';
import {
  STRENGTH,
  type Evidence,
  type OpenChoice,
  type Outline,
  type Place,
  type Section,
  type Seed,
  type Statement,
} from './place.js';
import { chosenItem, isAlternate, isProgram, isUniversal, isWorkLine } from './prose.js';
import { roleOfWord } from './role-words.js';
import { scaleClauses, type ScalePart } from './scale-clauses.js';
import { partsOfTable, type TablePart } from './table-parts.js';
import { readKeyedHead, type KeyedHead } from './keyed-head.js';
import type { Line } from './wrapped.js';

/** Kinds that stand on a sheet once: their heading is the part. */
const SINGLE: ReadonlySet<PartKind> = new Set([
  'sight-reading',
  'aural',
  'improvisation',
  'rudiments',
  'chromatic',
]);
const WORKS: ReadonlySet<PartKind> = new Set(['etude', 'excerpt', 'solo']);
const KEYED = /^(?<key>[\p{L}.]+(?: [\p{L}.]+)?)\s*[:\t]\s*(?<value>\S.*)$/u;
const MOST_HEAD_LINES = 9;
/** Players that a set work is for, in front of it. */
const GROUP_LEAD =
  /^(?<who>strings|winds|woodwinds?|brass|percussion|voices|keyboards?|guitars?|any\s+(?:ensemble|instrument))\s*:\s*/iu;

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

class Builder {
  private readonly head: Piece[] = [];
  private readonly seeds: (Seed & { kind: PartKind })[] = [];
  private readonly statements: Statement[] = [];
  private readonly choices: OpenChoice[] = [];
  private readonly instruments: string[] = [];
  private readonly divisions: Division[] = [];
  private readonly keyed: KeyedHead = { body: null, year: null };
  private scope: PartScope = WHOLE_SCOPE;
  private section: Section | null = null;
  private isSectionOuter = false;
  private sections = 0;
  private seed: (Seed & { kind: PartKind }) | null = null;
  private seedIndent = 0;
  private sectionSeed: (Seed & { kind: PartKind }) | null = null;
  private openChoice: { readonly choice: OpenChoice; readonly indent: number } | null = null;
  private isHead = true;
  private asked: Piece | null = null;
  private sectionBullet: string | null = null;
  private choosesLists = false;
  private readonly items = new Map<string, string>();

  constructor(
    private readonly newId: () => string,
    private readonly text: string,
  ) {}

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

  private get place(): Place {
    return { scope: this.scope, section: this.section };
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
      for (const piece of lines) this.statements.push({ piece, place: this.place, seed: null, asked: null });
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
      this.section = this.newSection({
        kind: 'solo',
        label: list,
        isPlural: true,
        mode: null,
        list,
        topic: null,
      });
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

  private addInstruments(names: readonly string[]): void {
    for (const name of names)
      if (!this.instruments.some((other) => other.toLowerCase() === name.toLowerCase()))
        this.instruments.push(name);
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
    switch (heading.type) {
      case 'instrument':
        return this.openInstrument(heading.names, heading.rest, line);
      case 'everyone':
        this.scope = { ...this.scope, instruments: [], divisions: [], options: [] };
        return this.openPlace(null, heading.rest, line);
      case 'division':
        this.divisions.push(heading.division);
        if (this.section?.topic === 'divisions') return true;
        this.scope = { ...WHOLE_SCOPE, divisions: [heading.division.name ?? ''] };
        return this.openPlace(null, /^[[(]/u.test(heading.rest.text) ? NO_PIECE : heading.rest, line);
      case 'option':
        if (/["=]|\bmm?\.|\bbars?\b|\bp\.|\bno\.|\bpage\b|\bmajor\b|\bminor\b/iu.test(heading.rest.plain))
          return false;
        this.scope = { ...this.scope, options: [heading.name] };
        return this.openPlace(null, slice(line, line.text.length), line);
      case 'list':
        if (/\bone\b/iu.test(heading.rest.plain)) this.choosesLists = true;
        return this.openPlace(
          this.newSection({
            kind: 'solo',
            label: heading.name,
            isPlural: true,
            mode: null,
            list: heading.name,
            topic: null,
          }),
          heading.rest,
          line,
        );
      case 'section':
        return this.openSection(heading, line);
      case 'topic':
        if (this.scope.instruments.length > 0 && this.isSectionOuter)
          this.scope = { ...this.scope, instruments: [] };
        return this.openPlace(
          heading.topic === null
            ? null
            : this.newSection({
                kind: null,
                label: '',
                isPlural: false,
                mode: null,
                list: null,
                topic: heading.topic,
              }),
          heading.rest,
          line,
        );
    }
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

  private newSection(section: Omit<Section, 'id'>): Section {
    this.sections += 1;
    return { ...section, id: this.sections };
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
    this.section = this.newSection({ kind, label, isPlural, mode, list: null, topic: null });
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

  /** A heading that turns out to stand over several parts is no part. */
  private retireSectionSeed(): void {
    const seed = this.sectionSeed;
    if (!seed || seed.kind !== this.section?.kind) return;
    this.sectionSeed = null;
    const at = this.seeds.indexOf(seed);
    if (at >= 0) this.seeds.splice(at, 1);
    for (const choice of this.choices) if (choice.of.at(-1) === seed.id) choice.of.pop();
    for (const { piece } of seed.evidence)
      this.statements.push({ piece, place: this.place, seed: null, asked: null });
  }

  private known(label: string): (Seed & { kind: PartKind }) | null {
    const key = labelKey(label);
    const sameScope = (seed: Seed): boolean =>
      JSON.stringify(seed.place.scope) === JSON.stringify(this.scope);
    const own = this.seeds.filter((seed) => labelKey(seed.label) === key);
    return (
      own.find((seed) => sameScope(seed)) ??
      (own.length === 1 && JSON.stringify(this.scope) === JSON.stringify(WHOLE_SCOPE)
        ? (own[0] ?? null)
        : null)
    );
  }

  private openSeed(
    head: ItemHead,
    {
      scope,
      indent,
      group,
    }: { readonly scope: PartScope; readonly indent: number; readonly group: string | null },
  ): Seed & { kind: PartKind } {
    const seed = {
      id: this.newId(),
      label: head.label,
      kind: head.kind ?? this.section?.kind ?? 'other',
      place: { scope, section: this.section },
      evidence: [] as Evidence[],
      group,
    };
    this.seeds.push(seed);
    this.seed = seed;
    this.seedIndent = indent;
    if (this.openChoice) this.openChoice.choice.of.push(seed.id);
    return seed;
  }

  private addSentences(piece: Piece, line: Line): void {
    const framed = /\*{2,}\s*(?<note>[^*]{12,}?)\s*\*{2,}/u.exec(piece.plain);
    if (framed?.groups?.note) {
      const at = framed.index + framed[0].indexOf(framed.groups.note);
      this.statements.push({
        piece: slice(piece, at, at + framed.groups.note.length),
        place: this.place,
        seed: null,
        asked: null,
      });
      this.addSentences(slice(piece, 0, framed.index), line);
      this.addSentences(slice(piece, framed.index + framed[0].length), line);
      return;
    }
    let isFirst = piece === line || this.seed === null;
    for (const { start, end } of sentencesOf(piece.plain)) {
      this.addSentence(slice(piece, start, end), line, isFirst);
      isFirst = false;
    }
  }

  private addSentence(piece: Piece, line: Line, isFirst: boolean): void {
    const state = (seed: Seed | null): void =>
      void this.statements.push({ piece, place: this.place, seed, asked: null });
    const isDates = readDeadlines(piece.plain, piece.text).length > 0 || this.section?.topic === 'dates';
    const isRule =
      findDivisions(piece.plain, piece.text).some(
        ({ value }) => value.ageMin !== null || value.ageMax !== null,
      ) && !/[="]/u.test(piece.plain);
    if (isRule) return state(null);
    if (isAlternate(piece.plain)) return state(this.seed);
    if (isProgram(piece.plain)) return state(null);
    const isScores = /^(?:scoring|marks|points|marking|weighting)\s*[:.]\s/iu.test(piece.plain);
    const isTopic = isScores || (this.section?.topic != null && this.section.topic !== 'notes');
    if (isDates || isTopic) {
      if (line.bullet === null) this.seed = this.sectionSeed;
      return state(null);
    }
    if (this.opensChoice(piece, line) || isOnlyChoice(piece)) {
      if (isOnlyChoice(piece)) state(null);
      return;
    }
    const bullet = isFirst ? line.bullet : null;
    const isOfSeed =
      this.seed !== null &&
      this.seed.kind === 'etude' &&
      line.bullet === null &&
      line.indent > this.seedIndent &&
      /^(?:study|[eé]tude)\s+(?:no\.?|number|#)/iu.test(piece.plain);
    if (isOfSeed) return this.say(piece, { isHead: true });
    const heads = byMentions(piece);
    const isCounted =
      /^(?:a|an|one|two|three|four)\s/iu.test(piece.plain) && !/^[^.;]{3,40}:/u.test(piece.plain);
    const first =
      isFirst || this.seed === null ? (itemHead(piece, bullet) ?? heads[0]?.head) : heads[0]?.head;
    const isLater =
      !isFirst &&
      this.seed !== null &&
      first?.isNumbered === false &&
      first.kind === this.seed.kind &&
      piece.plain[first.after] !== ':';
    const own = first?.isNumbered !== true && (isCounted || isLater) ? null : first;
    if (isUniversal(piece.plain) && !own?.isNumbered) return state(this.seed);
    if (
      own ||
      heads.some(
        ({ head }) =>
          head?.isNumbered === true ||
          (head !== null && heads[0]?.head !== head) ||
          (head !== null && !isCounted && !isLater),
      )
    )
      return this.addItems(own ? withHead(heads, own, piece) : heads, line, bullet);
    this.addBare(piece, line, { bullet, isFirst });
  }

  private opensChoice(piece: Piece, line: Line): boolean {
    const bare = /^[[(](?<in>[^\])]+)[\])][.:]?$/u.exec(piece.plain)?.groups?.in ?? piece.plain;
    const read = readChoice(bare, bare);
    if (!read?.follows) return false;
    const { rule, n } = read.choice;
    const choice: OpenChoice = { rule: rule === 'oneFromEach' ? 'oneOf' : rule, n, of: [] };
    this.choices.push(choice);
    this.openChoice = { choice, indent: line.indent };
    const kind = kindOf(piece.plain);
    if (kind && this.section === null)
      this.section = this.newSection({
        kind,
        label: '',
        isPlural: true,
        mode: null,
        list: null,
        topic: null,
      });
    this.seed = null;
    this.statements.push({ piece, place: this.place, seed: null, asked: null });
    return true;
  }

  private addItems(
    items: readonly { readonly piece: Piece; readonly head: ItemHead | null }[],
    line: Line,
    bullet: string | null,
  ): void {
    for (const { piece, head } of items) {
      if (!head) {
        this.statements.push({ piece, place: this.place, seed: this.seed, asked: null });
        continue;
      }
      const isHeading =
        !head.isNumbered &&
        /s$/iu.test(head.label) &&
        /^[.\s]*$/u.test(piece.plain.slice(head.after)) &&
        bullet === null &&
        kindOf(head.label) === 'scale';
      if (isHeading) {
        this.statements.push({ piece, place: this.place, seed: null, asked: null });
        continue;
      }
      const rest = slice(
        piece,
        head.after + (/^[\s:.–—|-]*/u.exec(piece.plain.slice(head.after))?.[0].length ?? 0),
      );
      const known = this.known(head.label);
      const isKnown = known !== null && (head.isNumbered || known === this.sectionSeed || bullet === null);
      if (isKnown) this.seed = known;
      else this.openItem(head, rest, { line, bullet });
      if (this.seed) this.say(rest, { isHead: !isKnown || known === this.sectionSeed });
    }
  }

  private openItem(
    head: ItemHead,
    rest: Piece,
    { line, bullet }: { readonly line: Line; readonly bullet: string | null },
  ): void {
    if (this.sectionSeed && (head.isNumbered || bullet !== null)) this.retireSectionSeed();
    const code = /^[a-z\d]{1,2}$/iu.exec((bullet ?? '').replace(/[().†*]/gu, ''))?.[0];
    const list = this.section?.list;
    const label = list && code ? `${list.slice(-1)}${code}` : head.label;
    // "The second" of what the first was.
    const before = /^(?:second|third|fourth)$/iu.test(head.label) ? (this.seeds.at(-1)?.kind ?? null) : null;
    const kind = head.kind ?? before ?? kindOf(rest.plain) ?? this.section?.kind ?? 'other';
    this.openSeed(
      { ...head, label, kind },
      { scope: this.scopeSaid(rest), indent: line.indent, group: null },
    );
  }

  /** "(Senior only)", "Strings: …": for whom an item is, where it says so first. */
  private scopeSaid(rest: Piece): PartScope {
    const only = /^[[(](?<who>[^\])]{3,40}?)s?\s+only[\])]/iu.exec(rest.plain)?.groups?.who ?? null;
    const lead = GROUP_LEAD.exec(rest.plain)?.groups?.who ?? null;
    const group = lead === null || /^any\s/iu.test(lead) ? null : lead;
    const who = only ?? group;
    if (who === null) return this.scope;
    const names = instrumentNames(who);
    if (names.length > 0 || group !== null)
      return { ...this.scope, instruments: names.length > 0 ? names : [who] };
    return { ...this.scope, divisions: [who] };
  }

  /** What is said of the part at hand; of scales, every key is a part of its own. */
  private say(piece: Piece, { isHead }: { readonly isHead: boolean }): void {
    const { seed } = this;
    if (!seed || piece.text === '') return;
    const told = seed.evidence.every(({ role }) => role === 'label') ? kindOf(piece.plain) : null;
    if (seed.kind === 'other') seed.kind = told ?? (isWorkLine(piece.plain) ? 'solo' : 'other');
    // "PART B: BALLAD (30 points)": what stands in capitals names the part, not its music.
    const loud = /^(?<name>[\p{Lu}\s-]{4,40}?)(?=\s*[[(]|$)/u.exec(piece.text)?.groups?.name ?? '';
    if (isHead && loud !== '' && /^(?:part|item|requirement|section)\b/iu.test(seed.label)) {
      seed.evidence.push({
        piece: slice(piece, 0, loud.length),
        role: 'label',
        strength: STRENGTH.own,
        isHead: false,
      });
      return this.say(slice(piece, loud.length), { isHead: false });
    }
    if (seed.kind !== 'scale') {
      seed.evidence.push({ piece, role: 'text', strength: STRENGTH.own, isHead });
      return;
    }
    this.addScales(seed, piece);
  }

  private addScales(seed: Seed, piece: Piece): void {
    const split = scaleClauses(piece, {
      mode: this.section?.mode ?? null,
      label: seed.label,
      isOne: seed === this.sectionSeed || !/s$/iu.test(seed.label),
    });
    const isSplit =
      split.parts.length > 1 ||
      (split.parts.length === 1 && seed.evidence.some(({ role }) => role === 'key'));
    for (const shared of split.shared)
      if (split.parts.length > 0 || seed.group === null)
        seed.evidence.push({
          piece: shared,
          role: 'text',
          strength: split.parts.length > 1 ? STRENGTH.group : STRENGTH.own,
          isHead: false,
        });
    if (!isSplit) {
      const [one] = split.parts;
      if (one) seed.evidence.push(...evidenceOf(one));
      return;
    }
    for (const part of split.parts) {
      this.items.set(seed.id, seed.label);
      const own = this.openSeed(
        { label: part.label, kind: part.kind, after: 0, isNumbered: true },
        { scope: seed.place.scope, indent: this.seedIndent, group: seed.id },
      );
      own.evidence.push(...evidenceOf(part));
    }
    this.offer(piece, split.parts.length);
    this.seed = seed;
  }

  private addBare(
    piece: Piece,
    line: Line,
    { bullet, isFirst }: { readonly bullet: string | null; readonly isFirst: boolean },
  ): void {
    const kind = this.section?.kind ?? null;
    const isDeeper = this.seed !== null && line.indent > this.seedIndent && bullet === null;
    if (kind === 'scale' && this.sectionSeed === null && (isFirst || !this.seed) && !isDeeper)
      return this.addScaleLine(piece, line, bullet);
    const isItem =
      isFirst &&
      !isDeeper &&
      (bullet !== null
        ? kind !== null || /["=]/u.test(piece.plain) || kindOf(piece.plain) !== null
        : kind !== null && WORKS.has(kind) && this.section?.isPlural === true && isWorkLine(piece.plain));
    if (
      isFirst &&
      kind === null &&
      !isDeeper &&
      findKeys(piece.plain).length > 0 &&
      /\bscales?\b/iu.test(piece.plain)
    )
      return this.addScaleLine(piece, line, bullet);
    const chosen = chosenItem(piece);
    const isNumberLine =
      isFirst &&
      kind === null &&
      bullet === null &&
      !isDeeper &&
      /\bno\.?\s*\d/iu.test(piece.plain) &&
      /\bp\.?\s*\d|=|\bmm?\.\s*\d/iu.test(piece.plain);
    if (isNumberLine) {
      this.openItem({ label: 'Etude', kind: 'etude', after: 0, isNumbered: true }, piece, {
        line,
        bullet: null,
      });
      return this.say(piece, { isHead: true });
    }
    if (isItem && !(chosen && this.section === null && bullet !== null)) {
      const label = this.itemLabel(piece, bullet);
      this.openItem(
        { label, kind: kind ?? kindOf(piece.plain.replace(/"[^"]*"/gu, '')), after: 0, isNumbered: true },
        piece,
        { line, bullet },
      );
      return this.say(slice(piece, GROUP_LEAD.exec(piece.plain)?.[0].length ?? 0), { isHead: true });
    }
    if (
      chosen &&
      (this.seed === null ||
        bullet !== null ||
        (this.seed === this.sectionSeed && this.seed.evidence.length > 0 && this.seed.kind === chosen.kind))
    ) {
      for (const one of chosen.parts) {
        this.openItem({ label: one.label, kind: one.kind, after: 0, isNumbered: false }, one.piece, {
          line,
          bullet: null,
        });
        this.say(one.piece, { isHead: true });
      }
      return;
    }
    if (this.seed) return this.say(piece, { isHead: this.seed.evidence.length === 0 });
    this.statements.push({ piece, place: this.place, seed: null, asked: null });
  }

  private itemLabel(piece: Piece, bullet: string | null): string {
    const code = (bullet ?? '').replace(/[().†*]/gu, '');
    const word =
      this.section?.kind === null || this.section?.kind === undefined ? '' : `${this.section.kind} `;
    if (/^[a-z\d]{1,2}$/iu.test(code)) return `${word.charAt(0).toUpperCase()}${word.slice(1)}${code}`;
    const work = /^(?<who>[^:,]{3,40})[:,]\s+(?<what>[^:,;(]{3,60})/u.exec(piece.text);
    if (work?.groups?.what && isPersonName(work.groups.who ?? '')) return work.groups.what.trim();
    const title = /"([^"]{2,60})"/u.exec(piece.plain);
    return title
      ? piece.text.slice(title.index + 1, title.index + 1 + (title[1] ?? '').length)
      : (/^[^,;:(]{3,50}/u.exec(piece.text)?.[0] ?? piece.text.slice(0, 50)).trim();
  }

  /** A line under the heading of scales: its keys are parts, the rest holds for all of them. */
  private addScaleLine(piece: Piece, line: Line, bullet: string | null): void {
    const split = scaleClauses(piece, {
      mode: this.section?.mode ?? null,
      label: this.section?.label ?? 'Scale',
      isOne: bullet !== null,
    });
    if (split.parts.length === 0) {
      const holds = this.seed && bullet === null ? this.seed : null;
      this.statements.push({ piece, place: this.place, seed: holds, asked: null });
      return;
    }
    const group = this.newId();
    for (const part of split.parts) {
      const seed = this.openSeed(
        { label: part.label, kind: part.kind, after: 0, isNumbered: true },
        { scope: this.scope, indent: line.indent, group },
      );
      seed.evidence.push(...evidenceOf(part));
      for (const text of split.shared)
        seed.evidence.push({ piece: text, role: 'text', strength: STRENGTH.group, isHead: false });
    }
    this.offer(piece, split.parts.length);
    this.seed = null;
  }

  /** "… or another scale of your choice": the parts that were opened last stand against each other. */
  private offer(piece: Piece, count: number): void {
    if (count < 2 || !/\bor\s+(?:another|one|any)\b/iu.test(piece.plain)) return;
    this.choices.push({
      rule: 'oneOf',
      n: 1,
      of: this.seeds.slice(-count).map(({ id }) => id),
      isApart: true,
    });
  }
}

function evidenceOf({ name, key, title, pieces }: ScalePart): Evidence[] {
  const own = { strength: STRENGTH.own, isHead: false };
  return [
    ...(key === null ? [] : [{ ...own, piece: name, role: 'key' as const, value: key }]),
    ...(title === null ? [] : [{ ...own, piece: name, role: 'title' as const, value: title }]),
    ...pieces.map((piece) => ({ ...own, piece, role: 'text' as const })),
  ];
}

/** An item that was split into its keys is no part beside them: what it says holds for each of them. */
function withoutParents(seeds: readonly Seed[]): Seed[] {
  const parents = new Map(
    seeds.filter(({ id }) => seeds.some(({ group }) => group === id)).map((seed) => [seed.id, seed]),
  );
  return seeds.flatMap((seed) => {
    if (parents.has(seed.id)) return [];
    const said = parents.get(seed.group ?? '')?.evidence ?? [];
    return [
      { ...seed, evidence: [...seed.evidence, ...said.map((one) => ({ ...one, strength: STRENGTH.group }))] },
    ];
  });
}

/** An instrument or division that is the only one on the sheet limits nothing. */
function withoutWholes(seeds: readonly Seed[]): {
  readonly narrowed: (place: Place) => Place;
  readonly seeds: Seed[];
} {
  const names = (of: (scope: PartScope) => readonly string[]): Set<string> =>
    new Set(seeds.flatMap(({ place }) => of(place.scope).map((name) => instrumentKey(name))));
  const isOne = {
    instruments: names(({ instruments }) => instruments).size === 1,
    divisions:
      names(({ divisions }) => divisions).size === 1 &&
      seeds.every(({ place }) => place.scope.divisions.length > 0),
  };
  const narrowed = (place: Place): Place => ({
    ...place,
    scope: {
      ...place.scope,
      ...(isOne.instruments && { instruments: [] }),
      ...(isOne.divisions && { divisions: [] }),
    },
  });
  return { narrowed, seeds: seeds.map((seed) => ({ ...seed, place: narrowed(seed.place) })) };
}

/** "Choose two of Etude A, B and C" says nothing else; "either Etude 1 (“Ebb”, mm. 1–8) or Etude 2 (…)" opens parts. */
function isOnlyChoice(piece: Piece): boolean {
  const read = readChoice(piece.plain, piece.text);
  if (!read || read.follows) return /^every\s+\p{L}+\s+(?:plays|prepares)\s+\(/iu.test(piece.plain);
  if (read.choice.rule === 'oneFromEach') return true;
  return !/["\u266a\u2669=]|\bmm?\.|\bmeasures?\b|\bbars?\b|\bpage\b|\bp\.|\bmajor\b|\bminor\b/iu.test(
    piece.plain,
  );
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

function withHead(
  items: readonly { readonly piece: Piece; readonly head: ItemHead | null }[],
  head: ItemHead,
  piece: Piece,
): readonly { readonly piece: Piece; readonly head: ItemHead | null }[] {
  const [first, ...rest] = items;
  if (first?.head && first.piece.at[0] === piece.at[0]) return items;
  return first ? [{ piece: first.piece, head }, ...rest] : [{ piece, head }];
}
