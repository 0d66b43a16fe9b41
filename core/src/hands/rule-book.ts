import { midiOf, parsePitch, type Semitones } from '../music/index.js';
import { instrumentProfile } from '../reading/index.js';
import type { HandNote } from './hand-notes.js';
import type { HandRule, RulePattern } from './hand-rule.js';
import { RULE_BOOK } from './rule-book.data.js';

/** A rule with the notes at which it speaks: of a pair the second. */
export interface RuleAdvice {
  readonly rule: HandRule;
  readonly places: readonly {
    readonly measureIndex: number;
    readonly measure: string;
    readonly ordinal: number;
  }[];
}

/** Two notes this close are quick. Units: seconds (our own) */
const QUICK_SECONDS = 0.25;

/**
 * What a rule book says of some notes.
 * Shape:  rules that speak, in the order of the book; a rule of "saxophone" holds for every one of them
 * Source: see rule-book.data.ts
 */
export function ruleAdvice(
  notes: readonly HandNote[],
  instrument: string,
  book: readonly HandRule[] = RULE_BOOK,
): RuleAdvice[] {
  const name = instrument.toLowerCase();
  const known = instrumentProfile(instrument).name;
  return book
    .filter((rule) => name.includes(rule.instrument) || known === rule.instrument)
    .flatMap((rule) => {
      const speaks = matcher(rule.pattern);
      const places = notes
        .filter((note, n) => speaks(note, notes[n - 1]))
        .map(({ measureIndex, measure, ordinal }) => ({ measureIndex, measure, ordinal }));
      return places.length === 0 ? [] : [{ rule, places }];
    });
}

/**
 * The book that a studio goes by: its own rules first, without the shipped ones that it silenced.
 * Shape:  `pattern` names its notes in one of the three ways
 */
export function studioBook({
  rules,
  silenced,
}: {
  readonly rules: readonly Omit<HandRule, 'source'>[];
  readonly silenced: readonly string[];
}): HandRule[] {
  const off = new Set(silenced);
  return [
    ...rules.map((rule): HandRule => ({
      ...rule,
      instrument: rule.instrument.toLowerCase(),
      source: 'studio',
    })),
    ...RULE_BOOK.filter(({ id }) => !off.has(id)),
  ];
}

function matcher(pattern: RulePattern): (note: HandNote, before: HandNote | undefined) => boolean {
  const pairs = new Set((pattern.pairs ?? []).flatMap(bothWays));
  const single = new Set((pattern.notes ?? []).map(midiNamed));
  const risen = new Set((pattern.intoFromBelow ?? []).map(midiNamed));
  return (note, before) => {
    const { written } = note;
    if (written === null) return false;
    if (pattern.isSlurred === true && !note.isSlurred) return false;
    if (pattern.longerThan !== undefined && note.seconds <= pattern.longerThan) return false;
    if (pattern.notes) return single.has(written);
    if (before?.written == null || !note.isJoined) return false;
    if (pattern.isQuick === true && (note.gap ?? 1) > QUICK_SECONDS) return false;
    if (pattern.pairs) return pairs.has(`${before.written} ${written}`);
    if (pattern.intoFromBelow) return risen.has(written) && before.written < written;
    return pattern.leapFrom !== undefined && Math.abs(written - before.written) >= pattern.leapFrom;
  };
}

function bothWays(pair: string): string[] {
  const [a = 0, b = 0] = pair.split(' ').map(midiNamed);
  return [`${a} ${b}`, `${b} ${a}`];
}

function midiNamed(name: string): Semitones {
  const pitch = parsePitch(name);
  return pitch ? midiOf(pitch) : -1;
}
