import type { Division, PartKind } from '../model.js';
import type { PartScope } from '../scope.js';
import type { Piece } from '../text/piece.js';
import type { LineRole, WordField } from '../told/corrections.js';
import type { Role } from './role-words.js';
import type { TableRoles } from './table-roles.js';
import type { Line } from './wrapped.js';

/** What a heading of kinds opens. Shape: `id` counts sections; `mode` where it says that its scales are major or minor */
export interface Section {
  readonly id: number;
  readonly kind: PartKind | null;
  readonly label: string;
  readonly isPlural: boolean;
  readonly mode: string | null;
  readonly list: string | null;
  readonly topic: Topic | null;
}

/** What a heading that names no kind speaks of. */
export type Topic = 'dates' | 'scoring' | 'divisions' | 'answers' | 'notes';

/** Where a line stands: for whom it holds, and under which heading. */
export interface Place {
  readonly scope: PartScope;
  readonly section: Section | null;
}

/** How much a claim weighs: what is said of one part outweighs what is said of all, and a person outweighs the text (our own order). */
export const STRENGTH = Object.freeze({
  told: 9,
  footnote: 6,
  own: 5,
  cell: 5,
  group: 3,
  section: 2,
  document: 1,
});

/** Words that say something of a part, and by which road they came to it. */
export interface Evidence {
  readonly piece: Piece;
  readonly role: Role;
  readonly strength: number;
  /** Whether the part's work may stand in it without quotation marks. */
  readonly isHead: boolean;
  /** The value, where the structure alone gives it. */
  readonly value?: unknown;
  /** The field that a person gave these words to. */
  readonly field?: WordField;
}

/** A part as the document's structure shows it, before any field is read. */
export interface Seed {
  readonly id: string;
  readonly label: string;
  readonly kind: PartKind;
  readonly place: Place;
  /** Where its first words stand. Units: characters of the sheet's text */
  readonly at: number;
  readonly evidence: Evidence[];
  /** The item that it was split from: points and choices of the item hold for all of its parts. */
  readonly group: string | null;
  /** Whether it stands in place of another: what the sheet does not say of it is asked. */
  readonly isAlternate?: boolean;
}

/** A sentence that belongs to no one part. */
export interface Statement {
  readonly piece: Piece;
  readonly place: Place;
  /** The part in whose lines it stands. */
  readonly seed: Seed | null;
  /** The question that it answers, on a page of questions and answers. */
  readonly asked: Piece | null;
  /** What a person said that its line is. */
  readonly said?: LineRole | null;
}

/** Parts that a sentence offers to choose from, in the order in which they are opened. */
export interface OpenChoice {
  readonly rule: 'all' | 'oneOf' | 'nOf';
  readonly n: number | null;
  readonly of: string[];
  /** Whether parts of one item stand against each other in it. */
  readonly isApart?: boolean;
}

/** What the structure takes a line for; what only its words tell is told later. */
export type HeadRole = LineRole | 'head' | 'section' | 'option' | 'heading';

/** A line of sense as the document was gone through. */
export interface OutlineLine {
  readonly line: Line;
  readonly role: HeadRole | null;
  readonly isTold: boolean;
}

/** A table as the document was gone through. Units: `start` to before `end` of the sheet's text */
export interface OutlineTable {
  readonly roles: TableRoles;
  readonly start: number;
  readonly end: number;
  /** Columns that a person named, by their place. */
  readonly told: ReadonlySet<number>;
}

/** A document as its structure shows it. */
export interface Outline {
  readonly lines: readonly OutlineLine[];
  readonly tables: readonly OutlineTable[];
  readonly head: readonly Piece[];
  readonly seeds: readonly Seed[];
  readonly statements: readonly Statement[];
  readonly choices: readonly OpenChoice[];
  /** Whether the headings of lists say that one piece of each is chosen. */
  readonly choosesLists: boolean;
  /** Names of the items that were split into several parts. Shape: by the identifier of the item */
  readonly items: ReadonlyMap<string, string>;
  readonly instruments: readonly string[];
  readonly divisions: readonly Division[];
  readonly keyed: { readonly body: string | null; readonly year: string | null };
}
