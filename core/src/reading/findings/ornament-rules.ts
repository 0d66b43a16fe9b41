import { letterName, parsePitch } from '../../music/index.js';

/**
 * What a sheet says about ornaments.
 * Shape:  `note` and `neighbour` are letter names ("Bb", "F#"), null where the rule names none: it holds for all then
 */
export interface OrnamentRule {
  readonly text: string;
  readonly note: string | null;
  readonly neighbour: string | null;
}

const NAME = /([A-G])(?:[ -]?(flat|sharp|natural|[♭♯♮#b]))?(?![a-z])/u.source;
const PAIR = new RegExp(
  `\\b(?:on|from|over|trill|the)\\s+(?:the\\s+|a\\s+|every\\s+|each\\s+)?${NAME}(?:\\d)?\\s*` +
    `(?:[:=–—-]|,?\\s*(?:to|with|and|uses?|takes?|is|means|goes\\s+to))\\s*` +
    `(?:the\\s+|an?\\s+|upper\\s+|neighbou?r\\s+|note\\s+)*${NAME}`,
  'u',
);
const SIGNS: Readonly<Record<string, string>> = {
  flat: 'b',
  '♭': 'b',
  b: 'b',
  sharp: '#',
  '♯': '#',
  '#': '#',
};

/**
 * Reads an ornament rule of a sheet: "Trill on B: C natural", "trill the E with F".
 * Shape:  see OrnamentRule
 * Source: phrases of common practice, no source
 */
export function readOrnamentRule(text: string): OrnamentRule {
  const [, note, noteSign, neighbour, neighbourSign] = PAIR.exec(text) ?? [];
  if (note === undefined || neighbour === undefined) return { text, note: null, neighbour: null };
  return {
    text,
    note: note + (SIGNS[noteSign ?? ''] ?? ''),
    neighbour: neighbour + (SIGNS[neighbourSign ?? ''] ?? ''),
  };
}

/**
 * The rule that holds for an ornament: one that names its note before one for all of its kind.
 * Shape:  null where no rule speaks of it
 */
export function ruleFor(
  { kind, note }: { readonly kind: string; readonly note: string },
  rules: readonly OrnamentRule[],
): OrnamentRule | null {
  const pitch = parsePitch(note);
  const name = pitch && letterName(pitch);
  const word = kind.split('-').at(-1) ?? kind;
  const own = rules.filter(({ text }) => new RegExp(`\\b(?:${word}|ornament)`, 'iu').test(text));
  return own.find((rule) => rule.note === name) ?? own.find((rule) => rule.note === null) ?? null;
}
