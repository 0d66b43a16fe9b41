import { asQuarterBpm } from '../music/index.js';
import { steadyPace } from '../reading/index.js';
import { readScore } from '../score/index.js';
import { bytesOf, head, measure, note, solo } from '../score/testing/music-xml.js';
import { handNotes, ruleAdvice, type HandNote } from './index.js';
import { RULE_BOOK } from './rule-book.data.js';

interface Played {
  readonly notes: string;
  readonly isSlurred?: boolean;
  /** Units: quarter notes a minute; the notes are eighths */
  readonly bpm?: number;
}

/** Eighths, all under one slur where they are slurred. */
function played({ notes, isSlurred = false, bpm = 120 }: Played): HandNote[] {
  const names = notes.split(' ').map((name) => name.replace('b', '-'));
  const marks = (n: number): string => {
    const type = n === 0 ? 'start' : n === names.length - 1 ? 'stop' : '';
    return isSlurred && type !== '' ? `<notations><slur type="${type}"/></notations>` : '';
  };
  const text = solo(measure('1', head(2) + names.map((name, n) => note(name, 1, marks(n))).join('')));
  const score = readScore(bytesOf(text));
  if (!score.ok) throw new Error(score.issues[0]?.message);
  return handNotes(score.value, { fromIndex: 0, endIndex: 1 }, steadyPace(asQuarterBpm(bpm)));
}

// Each rule on a pattern that it is for, and on a neighbour that a teacher would not mark: from memory, no source.
const CASES: Readonly<Record<string, readonly [planted: Played, neighbour: Played]>> = {
  'sax-roll-low': [{ notes: 'B3 Bb3' }, { notes: 'B3 D4' }],
  'sax-low-right': [{ notes: 'Eb4 C4' }, { notes: 'D4 C4' }],
  'sax-side-b-flat': [{ notes: 'A4 Bb4' }, { notes: 'A4 Bb4', bpm: 60 }],
  'sax-bis-off': [{ notes: 'B4 Bb4' }, { notes: 'A4 Bb4' }],
  'sax-side-c': [{ notes: 'B4 C5' }, { notes: 'B4 C5', bpm: 60 }],
  'sax-chromatic-f-sharp': [{ notes: 'F4 F#4' }, { notes: 'E4 F#4' }],
  'sax-break': [{ notes: 'C#5 D5' }, { notes: 'D5 E5' }],
  'flute-trill-f-sharp': [{ notes: 'E5 F#5' }, { notes: 'E5 F#5', bpm: 60 }],
  'flute-first-finger': [{ notes: 'C5 D5' }, { notes: 'D5 E5' }],
  'flute-low-c-sharp': [{ notes: 'C4 Eb4' }, { notes: 'C4 D4' }],
  'flute-thumb-b-flat': [{ notes: 'Bb4 B4' }, { notes: 'Bb4 C5' }],
  'oboe-f': [{ notes: 'D5 F5' }, { notes: 'E5 F5' }],
  'oboe-half-hole': [{ notes: 'C5 D5' }, { notes: 'D5 E5' }],
  'oboe-low': [{ notes: 'C4 C#4' }, { notes: 'C4 D4' }],
  'bassoon-flick': [{ notes: 'F3 A3', isSlurred: true }, { notes: 'F3 A3' }],
  'bassoon-half-hole': [{ notes: 'F#3 E3' }, { notes: 'F3 E3' }],
  'bassoon-thumb': [{ notes: 'E2 F#2' }, { notes: 'E2 F2' }],
  'horn-b-flat-side': [{ notes: 'F#4 G4' }, { notes: 'F#4 G4', bpm: 60 }],
  'horn-low-slur': [
    { notes: 'C4 C5', isSlurred: true },
    { notes: 'C4 G4', isSlurred: true },
  ],
  'euphonium-fourth': [{ notes: 'C3 D3' }, { notes: 'Bb2 D3' }],
  'tuba-fourth': [{ notes: 'F2 G2' }, { notes: 'G2 A2' }],
  'trumpet-third-slide': [
    { notes: 'D4 E4', bpm: 60 },
    { notes: 'D4 E4', bpm: 120 },
  ],
  'violin-fourth-finger': [{ notes: 'G4 A4 B4', isSlurred: true }, { notes: 'G4 A4 B4' }],
  'violin-fifth': [{ notes: 'E4 B4' }, { notes: 'D4 A4' }],
  'viola-fourth-finger': [{ notes: 'C4 D4 E4', isSlurred: true }, { notes: 'C4 D4 E4' }],
  'cello-extension': [{ notes: 'D3 F#3' }, { notes: 'D3 F3' }],
  'bass-shift': [
    { notes: 'E2 A2', isSlurred: true },
    { notes: 'E2 G2', isSlurred: true },
  ],
  'voice-leap': [{ notes: 'C4 A4' }, { notes: 'C4 E4' }],
};

describe('the rule book', () => {
  for (const rule of RULE_BOOK)
    it(`${rule.id} speaks where it should and is silent beside it`, () => {
      const [planted, neighbour] = CASES[rule.id] ?? [{ notes: '' }, { notes: '' }];
      const spoken = (music: Played): string[] =>
        ruleAdvice(played(music), rule.instrument)
          .filter((one) => one.rule.id === rule.id)
          .flatMap(({ places }) => places.map(({ ordinal }) => String(ordinal)));
      expect(spoken(planted).length).toBeGreaterThan(0);
      expect(spoken(neighbour)).toEqual([]);
    });

  it('has no word for other instruments, and takes a studio’s own book', () => {
    const notes = played({ notes: 'B3 Bb3' });
    expect(ruleAdvice(notes, 'Violin')).toEqual([]);
    expect(ruleAdvice(notes, 'Alto Saxophone').map(({ rule }) => rule.id)).toEqual(['sax-roll-low']);
    const own = { id: 'own', instrument: 'violin', kind: 'string', source: 'practice' } as const;
    const book = [{ ...own, pattern: { notes: ['B3'] }, advice: 'On the G string.' }];
    expect(ruleAdvice(notes, 'violin', book)[0]?.places).toEqual([
      { measureIndex: 0, measure: '1', ordinal: 1 },
    ]);
  });
});
