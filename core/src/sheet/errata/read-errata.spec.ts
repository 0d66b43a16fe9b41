import { blankPart, type SheetPart, type StructuredSheet } from '../model.js';
import { readSheet } from '../read-sheet.js';
import { readErrata } from './read-errata.js';

// Sentences as notices have them, written by hand; what each changes is what a person reads in it.
const part = (label: string, change: Partial<SheetPart>): SheetPart => ({
  ...blankPart(label, 'etude', label),
  ...change,
});
const BASE: StructuredSheet = {
  ...readSheet('Skerrin Guild of Winds 2027').sheet,
  parts: [
    part('Etude 1', { tempo: { beatUnit: 'quarter', bpmMin: 96, bpmMax: 96, bound: 'exact', words: null } }),
    part('Etude 2', { measures: [{ from: 1, to: 9, anchorText: null }] }),
  ],
};

describe('readErrata', () => {
  const sentences: readonly (readonly [string, string, unknown])[] = [
    ['Etude 2: measures should be 1–8.', 'measures', 8],
    ['Etude 2: measures should read 1–8, not 1–9.', 'measures', 8],
    ['In Etude 2, play bars 5–20 instead of 1–9.', 'measures', 20],
    ['Etude 2: page 12 should read 14.', 'page', '14'],
    ['Etude 2: the page number is now 15.', 'page', '15'],
    ['Etude 2 is now worth 30 points.', 'points', 30],
  ];
  for (const [sentence, field, wanted] of sentences)
    it(`reads “${sentence}” as a change with its sentence`, () => {
      const { changes } = readErrata(sentence, BASE);
      expect(changes.map((change) => [change.part, change.field, change.text, change.doubt])).toEqual([
        ['Etude 2', field, sentence, null],
      ]);
      const [change] = changes;
      const now = Array.isArray(change?.new) ? (change.new[0] as { to: unknown }).to : change?.new;
      expect(now).toEqual(wanted);
    });

  it('doubts what has no part, and what stood otherwise than the notice says', () => {
    const { changes } = readErrata(
      'Etude 1: the tempo should read ♩ = 100, not ♩ = 92.\nEtude 7: measures should be 1–8.',
      BASE,
    );
    expect(changes.map(({ doubt }) => doubt)).toEqual([
      'The notice says that ♩=92 stood; the sheet has ♩=96.',
      'The sheet has no part called Etude 7.',
    ]);
  });

  it('keeps apart what is said to be unchanged, what stands already, and what it cannot read', () => {
    const { changes, confirmed, standing, unread } = readErrata(
      'Etude 1: the tempo should read ♩ = 96.\nThe measures of Etude 2 are unchanged.\nKestrels, they say, are quicker.',
      BASE,
    );
    expect(changes).toEqual([]);
    expect(standing).toEqual(['Etude 1: the tempo should read ♩ = 96.']);
    expect(confirmed).toEqual(['The measures of Etude 2 are unchanged.']);
    expect(unread).toEqual(['Kestrels, they say, are quicker.']);
  });
});
