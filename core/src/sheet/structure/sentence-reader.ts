import { capital } from '../../base/index.js';
import { readChoice } from '../choices.js';
import { findDivisions } from '../find-divisions.js';
import { findKeys } from '../find-scale.js';
import { playersIn } from '../heading.js';
import { kindOf } from '../labels.js';
import type { PartKind } from '../model.js';
import { readDeadlines } from '../read-deadlines.js';
import { sentencesIn, slice, type Piece } from '../text/piece.js';
import { isPersonName } from '../work-line.js';
import { byMentions, columnHead, itemHead, restOf, type ItemHead } from './items.js';
import type { OpenChoice } from './place.js';
import { chosenItem, isAlternate, isProgram, isScoreList, isUniversal, isWorkLine } from './prose.js';
import { GROUP_LEAD, NO_SECTION, SeedKeeper } from './seed-keeper.js';
import type { Line } from './wrapped.js';

const WORKS: ReadonlySet<PartKind> = new Set(['etude', 'excerpt', 'solo']);

type Items = readonly { readonly piece: Piece; readonly head: ItemHead | null }[];

/** How a sentence stands on its line. */
interface Standing {
  readonly line: Line;
  readonly bullet: string | null;
  readonly isFirst: boolean;
}

/** Sentences of a document: each opens parts, says something of one, or stands for itself. */
export abstract class SentenceReader extends SeedKeeper {
  protected addSentences(piece: Piece, line: Line): void {
    const framed = /\*{2,}\s*(?<note>[^*]{12,}?)\s*\*{2,}/u.exec(piece.plain);
    if (framed?.groups?.note) {
      const at = framed.index + framed[0].indexOf(framed.groups.note);
      this.state(slice(piece, at, at + framed.groups.note.length));
      this.addSentences(slice(piece, 0, framed.index), line);
      this.addSentences(slice(piece, framed.index + framed[0].length), line);
      return;
    }
    let isFirst = piece === line || this.seed === null;
    for (const sentence of sentencesIn(piece)) {
      this.addSentence(sentence, { line, bullet: isFirst ? line.bullet : null, isFirst });
      isFirst = false;
    }
  }

  private addSentence(piece: Piece, standing: Standing): void {
    if (this.standsAlone(piece, standing.line) || this.opensForPlayers(piece, standing)) return;
    if (this.opensChoice(piece, standing.line)) return;
    if (isOnlyChoice(piece)) return this.state(piece);
    if (this.isNumberOfSeed(piece, standing.line)) return this.say(piece, { isHead: true });
    const items = this.itemsOf(piece, standing);
    if (isUniversal(piece.plain) && !items?.some(({ head }) => head?.isNumbered))
      this.state(piece, this.seed);
    else if (items) this.addItems(items, standing);
    else this.addBare(piece, standing);
  }

  /** "Saxes, trumpets and trombones: play “Low Tide” (…) and “Pier Lights” (…)": each work is a part of theirs. */
  private opensForPlayers(piece: Piece, { line }: Standing): boolean {
    const lead = /^(?<who>[^:."]{3,70}):\s*(?:please\s+)?(?:play|prepare|perform|learn)\s+(?=["“])/iu.exec(
      piece.plain,
    );
    const names = lead ? playersIn(lead.groups?.who ?? '') : [];
    if (!lead || names.length === 0) return false;
    const works = [...piece.plain.matchAll(/"[^"]{2,60}"/gu)].map(({ index }) => index);
    const outer = this.scope;
    this.addInstruments(names);
    this.scope = { ...outer, instruments: names };
    works.forEach((start, n) => {
      const own = slice(piece, start, works[n + 1] ?? piece.plain.length);
      const title = /"([^"]+)"/u.exec(own.plain)?.[1] ?? '';
      const head = { label: title.replace(/[,.]$/u, ''), kind: null, after: 0, isNumbered: true };
      this.openItem(head, own, { line, bullet: null });
      if (this.seed?.kind === 'other') this.seed.kind = 'etude';
      this.say(own, { isHead: true });
    });
    this.scope = outer;
    return true;
  }

  /** Dates, rules of ages, lists of points and the like belong to no part. */
  private standsAlone(piece: Piece, { bullet }: Line): boolean {
    const ages = findDivisions(piece.plain, piece.text).filter(
      ({ value }) => value.ageMin !== null || value.ageMax !== null,
    );
    const isRule = ages.length > 0 && !/[="]/u.test(piece.plain);
    if (isRule || isAlternate(piece.plain) || isProgram(piece.plain)) {
      this.state(piece, isAlternate(piece.plain) ? this.seed : null);
      return true;
    }
    const topic = this.section?.topic ?? null;
    const isScores =
      /^(?:studies|[eé]tudes|excerpts|items|pieces)\s+[\dA-H](?:\s*(?:,|and|&|to|-)\s*[\dA-H])*\s+(?:carry|are\s+worth|count)\s/iu.test(
        piece.plain,
      ) ||
      isScoreList(piece.plain) ||
      /^(?:scoring|marks|points|marking|weighting)\s*[:.]\s/iu.test(piece.plain);
    const isTopic = isScores || (topic !== null && topic !== 'notes');
    if (!isTopic && readDeadlines(piece.plain, piece.text).length === 0) return false;
    if (bullet === null) this.seed = this.sectionSeed;
    this.state(piece);
    return true;
  }

  /** "Study No. 14, “Evening over Skerry”" below "1. LYRICAL ETUDE" is the etude's music. */
  private isNumberOfSeed(piece: Piece, line: Line): boolean {
    const isDeeper = this.seed?.kind === 'etude' && line.bullet === null && line.indent > this.seedIndent;
    return isDeeper && /^(?:study|[eé]tude)\s+(?:no\.?|number|#)/iu.test(piece.plain);
  }

  /** The parts that a sentence names. Shape: null where it names none */
  private itemsOf(piece: Piece, { line, bullet, isFirst }: Standing): Items | null {
    const column = isFirst && piece.at[0] === line.at[0] ? columnHead(line) : null;
    if (column) return [{ piece, head: column }];
    const items = byMentions(piece);
    const [first] = items;
    const named =
      isFirst || this.seed === null
        ? (itemHead(piece, bullet) ?? first?.head ?? null)
        : (first?.head ?? null);
    if (named?.isNumbered === true) return withHead(items, named, piece);
    const isCounted =
      /^(?:a|an|one|two|three|four)\s/iu.test(piece.plain) && !/^[^.;]{3,40}:/u.test(piece.plain);
    // Within a part "etude" speaks of it, and opens another only with a colon.
    const isOfSeed =
      !isFirst && named !== null && named.kind === this.seed?.kind && piece.plain[named.after] !== ':';
    if (named && !isCounted && !isOfSeed) return withHead(items, named, piece);
    return items.slice(1).some(({ head }) => head !== null) ? items : null;
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
      this.section = this.newSection({ ...NO_SECTION, kind, isPlural: true });
    this.seed = null;
    this.state(piece);
    return true;
  }

  private addItems(items: Items, { line, bullet }: Standing): void {
    for (const { piece, head } of items) {
      const rest = restOf(piece, head);
      const isHeading =
        head?.isNumbered === false &&
        /s$/iu.test(head.label) &&
        rest.text === '' &&
        bullet === null &&
        kindOf(head.label) === 'scale';
      if (!head || isHeading) {
        this.state(piece, head ? null : this.seed);
        continue;
      }
      const known = this.known(head.label);
      const isKnown = known !== null && (head.isNumbered || known === this.sectionSeed || bullet === null);
      if (isKnown) this.seed = known;
      else this.openItem(head, rest, { line, bullet });
      if (this.seed) this.say(rest, { isHead: !isKnown || known === this.sectionSeed });
    }
  }

  protected openItem(
    head: ItemHead,
    rest: Piece,
    { line, bullet }: { readonly line: Line; readonly bullet: string | null },
  ): void {
    if (this.sectionSeed && (head.isNumbered || bullet !== null)) this.retireSectionSeed();
    const code = /^[a-z\d]{1,2}$/iu.exec((bullet ?? '').replace(/[().†*]/gu, ''))?.[0];
    // What is no piece stands in no list of pieces.
    const isPiece = head.kind === null || WORKS.has(head.kind);
    if (this.section?.list != null && code === undefined && !isPiece) this.section = null;
    const list = this.section?.list;
    const label = list && code ? listLabel(list, code) : head.label;
    // "The second" of what the first was.
    const before = /^(?:second|third|fourth)$/iu.test(head.label) ? (this.seeds.at(-1)?.kind ?? null) : null;
    const kind = head.kind ?? before ?? kindOf(rest.plain) ?? this.section?.kind ?? 'other';
    this.openSeed(
      { ...head, label, kind },
      { scope: this.scopeSaid(rest), indent: line.indent, group: null },
    );
  }

  /** A sentence that names no part: a line of a list, a part asked for in words, more of the part at hand, or nobody's. */
  private addBare(piece: Piece, standing: Standing): void {
    const { line, bullet, isFirst } = standing;
    const isDeeper = this.seed !== null && line.indent > this.seedIndent && bullet === null;
    if (!isDeeper && this.isScaleLine(piece, isFirst)) return this.addScaleLine(piece, line.indent, bullet);
    const chosen = isCount(piece.plain) ? null : chosenItem(piece);
    const kind = isFirst && !isDeeper ? this.listKind(piece, bullet) : null;
    const isChosen = chosen !== null && this.section === null && bullet !== null;
    if (kind !== null && !isChosen) return this.addListItem(piece, kind, standing);
    const isMore =
      this.seed === this.sectionSeed &&
      (this.seed?.evidence.length ?? 0) > 0 &&
      this.seed?.kind === chosen?.kind;
    if (chosen && (this.seed === null || bullet !== null || isMore))
      for (const one of chosen.parts) {
        const head = { label: one.label, kind: one.kind, after: 0, isNumbered: false };
        this.openItem(head, one.piece, { line, bullet: null });
        this.say(one.piece, { isHead: true });
      }
    else if (this.namesSightReading(piece.plain))
      this.openItem({ label: 'Sight-reading', kind: 'sight-reading', after: 0, isNumbered: false }, piece, {
        line,
        bullet: null,
      });
    else if (this.seed) this.say(piece, { isHead: this.seed.evidence.length === 0 });
    else this.state(piece);
  }

  /** "You will also be given a piece of sight-reading", where no line of its own has said so. */
  private namesSightReading(plain: string): boolean {
    return (
      /\bsight[- ]?(?:reading|singing)\b/iu.test(plain) &&
      !/\b(?:no|not|without)\b/iu.test(plain) &&
      !this.seeds.some(({ kind }) => kind === 'sight-reading')
    );
  }

  /** Whether a line asks for scales by their keys. */
  private isScaleLine({ plain }: Piece, isFirst: boolean): boolean {
    const kind = this.section?.kind ?? null;
    if (kind === 'scale') return this.sectionSeed === null && (isFirst || this.seed === null);
    return isFirst && kind === null && findKeys(plain).length > 0 && /\bscales?\b/iu.test(plain);
  }

  /** What a line of a list is: by its heading, by its own words, or by the number of a study. Shape: null where it is no item */
  private listKind({ plain }: Piece, bullet: string | null): PartKind | null {
    const kind = this.section?.kind ?? null;
    const own = kindOf(plain.replace(/"[^"]*"/gu, ''));
    if (bullet !== null) return kind ?? own ?? (/["=]/u.test(plain) ? 'other' : null);
    if (kind !== null)
      return WORKS.has(kind) && this.section?.isPlural === true && isWorkLine(plain) ? kind : null;
    const isStudy = /\bno\.?\s*\d/iu.test(plain) && /\bp\.?\s*\d|=|\bmm?\.\s*\d/iu.test(plain);
    return isStudy ? 'etude' : null;
  }

  private addListItem(piece: Piece, kind: PartKind, { line, bullet }: Standing): void {
    const label = bullet === null && this.section === null ? 'Etude' : this.itemLabel(piece, kind, bullet);
    this.openItem({ label, kind, after: 0, isNumbered: true }, piece, { line, bullet });
    this.say(slice(piece, GROUP_LEAD.exec(piece.plain)?.[0].length ?? 0), { isHead: true });
  }

  private itemLabel(piece: Piece, kind: PartKind, bullet: string | null): string {
    const code = (bullet ?? '').replace(/[().†*]/gu, '');
    const word = `${kind === 'other' ? 'item' : kind} `;
    if (/^[a-z\d]{1,2}$/iu.test(code)) return `${capital(word)}${code}`;
    const work = /^(?<who>[^:,]{3,40})[:,]\s+(?<what>[^:,;(]{3,60})/u.exec(piece.text);
    if (work?.groups?.what && isPersonName(work.groups.who ?? '')) return work.groups.what.trim();
    const title = /"([^"]{2,60})"/u.exec(piece.plain);
    return title
      ? piece.text.slice(title.index + 1, title.index + 1 + (title[1] ?? '').length)
      : (/^[^,;:(]{3,50}/u.exec(piece.text)?.[0] ?? piece.text.slice(0, 50)).trim();
  }
}

/** A piece of a list by its number: A2 of list A, 1.2 of list 1. */
export function listLabel(list: string, code: string): string {
  const own = list.slice(-1);
  return /\d/u.test(own) && /^\d/u.test(code) ? `${own}.${code}` : `${own}${code}`;
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

/** "One snare drum study and one tuned study": how many of what there are, before they are named. */
function isCount(plain: string): boolean {
  const counted =
    plain.match(
      /\b(?:one|two|three|four|a|an)\s+(?:[\p{L}-]+\s+){0,3}?(?:[eé]tudes?|stud(?:y|ies)|excerpts?|scales?|solos?|pieces?)\b/giu,
    ) ?? [];
  return counted.length >= 2 && !/[="]|choice|\bfrom\b|minutes|\bmajor\b|\bminor\b|octave/iu.test(plain);
}

function withHead(items: Items, head: ItemHead, piece: Piece): Items {
  const [first, ...rest] = items;
  if (first?.head && first.piece.at[0] === piece.at[0]) return items;
  return first ? [{ piece: first.piece, head }, ...rest] : [{ piece, head }];
}
