import type { InstrumentProfile } from '../demands/profiles.js';

/** How a note is begun that no slur leads into. */
type Attack = 'tongued' | 'bowed' | 'plucked' | 'struck' | 'drummed' | 'pressed' | 'sung';

const STRUCK: readonly (readonly [string, string])[] = [
  ['tongued notes', 'strokes'],
  ['tongued', 'plain'],
  ['settle where to breathe or let go', 'settle where the hands let go'],
  ['keep breaths and fingerings the same', 'keep stickings the same'],
  ['held or breathed', 'held or lifted'],
];

/** What readings say of a player who tongues and breathes, and what others do instead: common practice, no source. */
const WORDS: Readonly<Record<Attack, readonly (readonly [string, string])[]>> = {
  tongued: [],
  bowed: [
    ['tongued', 'bowed'],
    ['settle where to breathe or let go', 'settle where the bow lifts'],
    ['keep breaths and fingerings the same', 'keep bowings and fingerings the same'],
    ['held or breathed', 'held or lifted'],
  ],
  plucked: [
    ['tongued', 'plucked'],
    ['settle where to breathe or let go', 'settle where the hands let go'],
    ['keep breaths and fingerings the same', 'keep fingerings the same'],
    ['held or breathed', 'held or lifted'],
  ],
  struck: STRUCK,
  drummed: [
    ...STRUCK,
    ['Learn it on one pitch first', 'Count it aloud first'],
    ['slashed grace', 'grace'],
    ['grace note, grace note, grace note', 'ruff'],
    ['grace note, grace note', 'drag'],
    ['grace note', 'flam'],
  ],
  pressed: [
    ['tongued notes', 'separate notes'],
    ['tongued', 'plain'],
    ['settle where to breathe or let go', 'settle where the hands let go'],
    ['keep breaths and fingerings the same', 'keep fingerings the same'],
    ['held or breathed', 'held or lifted'],
  ],
  sung: [
    ['tongued notes', 'notes sung apart'],
    ['tongued', 'sung apart'],
    ['keep breaths and fingerings the same', 'keep breaths the same'],
  ],
};

const PLUCKED: ReadonlySet<string> = new Set(['guitar', 'ukulele', 'harp']);

function attackOf({ family, name }: Pick<InstrumentProfile, 'family' | 'name'>): Attack {
  switch (family) {
    case 'strings':
      return PLUCKED.has(name) ? 'plucked' : 'bowed';
    case 'mallets':
      return 'struck';
    case 'drums':
      return 'drummed';
    case 'keys':
      return 'pressed';
    case 'voice':
      return 'sung';
    case 'woodwind':
    case 'brass':
      return 'tongued';
  }
}

/** Whether a bow is drawn. */
export function isBowed(profile: Pick<InstrumentProfile, 'family' | 'name'>): boolean {
  return attackOf(profile) === 'bowed';
}

/**
 * A text of a reading in the words of its instrument: a violinist's notes are bowed, a drummer's stickings are kept.
 * Shape:  the text, changed only in such words
 * Source: common practice, no source
 */
export function inFamilyWords(text: string, profile: Pick<InstrumentProfile, 'family' | 'name'>): string {
  return WORDS[attackOf(profile)].reduce((said, [from, to]) => said.replaceAll(from, to), text);
}
