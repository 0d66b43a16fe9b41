import type { BeatUnit } from '../../music/index.js';
import type { ChoiceRead } from '../choices.js';
import type { Fact } from '../facts/text-facts.js';
import type { Deadline, Division, PartKind, SheetNote, SheetQuestion } from '../model.js';
import { isRule, noteKindOf } from '../notes.js';
import type { Place } from '../structure/place.js';
import type { Piece } from '../text/piece.js';

/** A claim on several parts: those of some kinds, in a place, or with a mark of a footnote. Shape: `kinds` null for all */
export interface ScopeClaim {
  readonly kinds: ReadonlySet<PartKind> | null;
  readonly place: Place;
  /** Whether it holds only under its own heading. */
  readonly isLocal: boolean;
  readonly mark: string | null;
  readonly facts: readonly Fact[];
  readonly piece: Piece;
}

/** Points of a kind or of named parts, as a list of them states. */
export interface ScoreLine {
  readonly name: string;
  readonly points: number;
  readonly isEach: boolean;
}

/** What the sentences of a sheet claim beside what stands with each part. */
export interface Claims {
  readonly deadlines: Deadline[];
  readonly divisions: Division[];
  readonly notes: SheetNote[];
  readonly questions: SheetQuestion[];
  readonly scopes: ScopeClaim[];
  readonly choices: { readonly read: ChoiceRead; readonly place: Place }[];
  readonly scores: ScoreLine[];
  readonly program: { minSeconds: number | null; maxSeconds: number | null }[];
  total: number | null;
  /** Points that several parts share. */
  readonly shared: number[];
  /** What scales are where only their letters are printed, and which note gets the beat where only numbers are. */
  mode: string | null;
  beat: BeatUnit | null;
  /** Letters that stand for books. */
  readonly books: { readonly name: string; readonly book: string; readonly composer: string | null }[];
  readonly used: { readonly piece: Piece; readonly about: string }[];
  readonly unread: Piece[];
}

/** Nothing claimed yet. */
export function noClaims(): Claims {
  return {
    deadlines: [],
    divisions: [],
    notes: [],
    questions: [],
    scopes: [],
    choices: [],
    scores: [],
    program: [],
    total: null,
    shared: [],
    mode: null,
    beat: null,
    books: [],
    used: [],
    unread: [],
  };
}

/** Of a text that is read for itself. */
export const NO_CLAIMS: Claims = Object.freeze(noClaims());

/** Says what became of a stretch. Shape: true, for it was read */
export function use(claims: Claims, piece: Piece, about: string): true {
  claims.used.push({ piece, about });
  return true;
}

/** Keeps a sentence as a note; one that lays down nothing stays unread. */
export function keepNote(claims: Claims, piece: Piece): void {
  const kind = noteKindOf(piece.plain) ?? (isRule(piece.plain) || piece.plain.length > 24 ? 'other' : null);
  if (kind === null) {
    claims.unread.push(piece);
    return;
  }
  claims.notes.push({ kind, text: piece.text });
  use(claims, piece, `notes[${claims.notes.length - 1}]`);
}
