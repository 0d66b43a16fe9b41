import { head, measure, note, solo } from '../../score/testing/music-xml.js';
import { findingsOf, soloLine } from '../index.js';
import { copyOf, plainStudy, scoreOf } from '../testing/planted-studies.js';
import { reading, recall, scoreOfXml } from '../testing/readings.js';

describe('Repeats in studies with planted ones', () => {
  it('finds a measure that comes again with one note moved, and names the note', () => {
    const found = recall((seed) => {
      const study = plainStudy(seed);
      const copy = copyOf(study.measures[4] ?? { notes: [], hairpinFrom: null });
      const changed = seed % copy.notes.length;
      const target = copy.notes[changed];
      if (target) target.place += 2;
      study.measures[17] = copy;
      return reading(scoreOf(study)).nearRepeats.some(
        ({ a, b, differences }) =>
          a === '5' &&
          b === '18' &&
          differences.length === 1 &&
          differences[0]?.note === changed + 1 &&
          differences[0].what === 'pitch',
      );
    });
    expect(found).toBeGreaterThanOrEqual(0.95);
  });

  it('finds an exact return of two measures as one repeat, and a lost articulation in a third copy', () => {
    const found = recall((seed) => {
      const study = plainStudy(seed);
      const [first, second] = [study.measures[2], study.measures[3]];
      if (!first || !second) return false;
      first.notes.forEach((one) => (one.articulation = 'staccato'));
      study.measures[20] = copyOf(first);
      study.measures[21] = copyOf(second);
      const third = copyOf(first);
      if (third.notes[1]) third.notes[1].articulation = null;
      study.measures[28] = third;
      const read = reading(scoreOf(study));
      return (
        read.exactRepeats.some(({ a, b }) => a === '3-4' && b === '21-22') &&
        read.nearRepeats.some(
          ({ a, b, differences }) =>
            a === '3' && b === '29' && differences[0]?.note === 2 && differences[0].what === 'articulation',
        )
      );
    });
    expect(found).toBeGreaterThanOrEqual(0.95);
  });
});

describe('Near-repeats', () => {
  it('of a phrase take its cadence along, though it has but a note or two', () => {
    const phrase = (cadence: string): string[] => [
      ['C5', 'E5', 'G5', 'E5'].map((pitch) => note(pitch, 4)).join(''),
      ['D5', 'F5', 'A5', 'F5'].map((pitch) => note(pitch, 4)).join(''),
      cadence,
    ];
    const bodies = [
      ...phrase(note('G5', 8) + note('E5', 8)),
      note('B4', 16),
      ...phrase(note('G5', 8) + note('D5', 8)),
      // Alike too, but nothing before it is.
      ['A4', 'B4', 'A4', 'G4'].map((pitch) => note(pitch, 4)).join(''),
      note('G5', 8) + note('C5', 8),
    ];
    const { nearRepeats, exactRepeats } = reading(
      scoreOfXml(
        solo(bodies.map((body, n) => measure(String(n + 1), (n === 0 ? head(4) : '') + body)).join('')),
      ),
    );
    expect(exactRepeats).toEqual([{ a: '1-2', b: '5-6' }]);
    expect(nearRepeats).toEqual([
      { a: '3', b: '7', differences: [{ note: 2, what: 'pitch', a: 'E5', b: 'D5' }] },
    ]);
  });

  it('take a dot moved from one note to the next as one change, in both notes', () => {
    const score = scoreOfXml(
      solo(
        measure('1', head(4) + note('C5', 6) + note('D5', 2) + note('E5', 4) + note('F5', 4)) +
          measure('2', note('A4', 16)) +
          measure('3', note('C5', 4) + note('D5', 4) + note('E5', 4) + note('F5', 4)),
      ),
    );
    expect(reading(score).nearRepeats).toEqual([
      {
        a: '1',
        b: '3',
        differences: [
          { note: 1, what: 'rhythm', a: 'dotted quarter', b: 'quarter' },
          { note: 2, what: 'rhythm', a: 'eighth', b: 'quarter' },
        ],
      },
    ]);
  });
});

describe('Hairpins (common practice, no source)', () => {
  const wedge = (type: string): string =>
    `<direction><direction-type><wedge type="${type}"/></direction-type></direction>`;
  const notes = ['C5', 'E5', 'G5', 'A5'].map((pitch) => note(pitch, 4));
  const grows = (from: number): string =>
    [...notes.slice(0, from - 1), wedge('crescendo'), ...notes.slice(from - 1), wedge('stop')].join('');

  it('that begin on another note in a measure of the same notes make it no exact repeat, and stand out', () => {
    const score = scoreOfXml(
      solo(measure('1', head(4) + grows(3)) + measure('2', note('D5', 16)) + measure('3', grows(2))),
    );
    const { nearRepeats, exactRepeats, oddOnesOut } = reading(score);
    expect(exactRepeats).toEqual([]);
    expect(nearRepeats.map(({ a, b, differences }) => [a, b, differences.map(({ what }) => what)])).toEqual([
      ['1', '3', ['dynamic']],
    ]);
    expect(oddOnesOut.map(({ measure: at, note: own, what }) => [at, own, what])).toEqual([
      ['3', 2, 'crescendo'],
    ]);
    const found = findingsOf(score, soloLine(score), { reading: reading(score) });
    expect(found.map(({ sentence }) => sentence).join(' ')).toContain(
      'The crescendo begins on note 2, not on note 3.',
    );
  });

  it('that an export never stops end where the next one begins', () => {
    const score = scoreOfXml(
      solo(
        measure('1', head(4) + wedge('crescendo') + notes.join('')) +
          measure('2', notes.join('')) +
          measure('3', wedge('diminuendo') + notes.join('')),
      ),
    );
    expect(reading(score).hairpins).toEqual([
      { kind: 'crescendo', measure: '1', startNote: 1, endMeasure: '3' },
      { kind: 'diminuendo', measure: '3', startNote: 1, endMeasure: '3' },
    ]);
  });
});
