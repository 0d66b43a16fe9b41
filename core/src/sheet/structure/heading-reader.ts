import { WHOLE_SCOPE } from '../scope.js';
import { NO_PIECE, type Piece } from '../text/piece.js';
import type { Heading } from './headings.js';
import type { PartKind } from '../model.js';
import type { Section } from './place.js';
import { NO_SECTION } from './seed-keeper.js';
import { SentenceReader } from './sentence-reader.js';
import type { Line } from './wrapped.js';

/** Kinds that stand on a sheet once: their heading is the part. */
const SINGLE: ReadonlySet<PartKind> = new Set([
  'sight-reading',
  'aural',
  'improvisation',
  'rudiments',
  'chromatic',
]);
const HAS_MUSIC = /["=]|\bmm?\.|\bbars?\b|\bp\.|\bno\.|\bpage\b|\bmajor\b|\bminor\b/iu;

/** Headings of a document: whom and what the lines below them are for. */
export abstract class HeadingReader extends SentenceReader {
  protected choosesLists = false;
  protected sectionBullet: string | null = null;
  private isSectionOuter = false;

  protected openHeading(heading: Heading, line: Line): boolean {
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

  protected openDivision({ division, rest }: Extract<Heading, { type: 'division' }>, line: Line): boolean {
    this.divisions.push(division);
    if (this.section?.topic === 'divisions') return true;
    this.scope = { ...WHOLE_SCOPE, divisions: [division.name ?? ''] };
    return this.openPlace(null, /^[[(]/u.test(rest.text) ? NO_PIECE : rest, line);
  }

  protected openInstrument(names: readonly string[], rest: Piece, line: Line): boolean {
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

  protected openPlace(section: Section | null, rest: Piece, line: Line): boolean {
    this.section = section;
    this.isSectionOuter = this.scope.instruments.length === 0;
    this.seed = null;
    this.sectionSeed = null;
    this.openChoice = null;
    if (rest.text !== '') this.addSentences(rest, { ...line, bullet: null });
    return true;
  }

  protected openSection(heading: Extract<Heading, { type: 'section' }>, line: Line): boolean {
    // A heading of the level at which instruments were opened closes them.
    if (this.isSectionOuter && this.section !== null && this.scope.instruments.length > 0)
      this.scope = { ...this.scope, instruments: [] };
    if (/^[^:.]*\((?:all|everyone|everybody|both|all instruments)\)/iu.test(line.plain))
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

/** What sort of bullet it is: roman numerals, capitals, letters, numbers, or a sign. */
export function bulletSort(bullet: string): string {
  const own = bullet.replace(/[().†*]/gu, '');
  if (/^\d/u.test(own)) return 'number';
  if (/^[IVX]+$/u.test(own)) return 'roman';
  return /^\p{Lu}/u.test(own) ? 'capital' : /^\p{Ll}/u.test(own) ? 'letter' : own;
}
