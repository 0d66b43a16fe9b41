import { head, measure, note, solo } from '../../score/testing/music-xml.js';
import { copyOf, plainStudy, scoreOf } from '../testing/planted-studies.js';
import { reading, recall, scoreOfXml } from '../testing/readings.js';

describe('Odd ones out in studies with planted ones', () => {
  it('finds the downbeat that lacks the accent of its section, and the crescendo that begins on another note', () => {
    const found = recall((seed) => {
      const study = plainStudy(seed);
      const lacking = 9 + (seed % 6);
      for (let n = 7; n <= 16; n += 1) {
        const downbeat = study.measures[n]?.notes[0];
        if (downbeat && n !== lacking) downbeat.articulation = 'accent';
      }
      const like = study.measures[20];
      if (!like) return false;
      for (let n = 20; n <= 25; n += 1)
        study.measures[n] = {
          notes: copyOf(like).notes.map((one) => ({ ...one, place: one.place + n - 20 })),
          hairpinFrom: n === 23 ? 2 : 1,
        };
      const odd = reading(scoreOf(study)).oddOnesOut;
      return (
        odd.some(
          ({ measure, note: at, what }) => measure === String(lacking + 1) && at === 1 && what === 'accent',
        ) &&
        odd.some(({ measure, note: at, what }) => measure === '24' && at === 2 && what === 'crescendo') &&
        odd.length === 2
      );
    });
    expect(found).toBeGreaterThanOrEqual(0.95);
  });
});

describe('A series (common practice, no source)', () => {
  const accent = '<notations><articulations><accent/></articulations></notations>';
  const letter = '<direction><direction-type><rehearsal>A</rehearsal></direction-type></direction>';
  const bar = (first: string, signs = ''): string =>
    note(first, 4, signs) + note('D5', 4) + note('E5', 4) + note('F5', 4);

  it('misses its sign in the measure beside it, but not across a rehearsal mark', () => {
    const odd = (mark: string): string[] =>
      reading(
        scoreOfXml(
          solo(
            measure('1', head(4) + note('C5', 16)) +
              measure('2', bar('G5')) +
              measure('3', mark + bar('C5', accent)) +
              measure('4', bar('A4', accent)) +
              measure('5', bar('B4', accent)) +
              measure('6', bar('G4', accent)),
          ),
        ),
      ).oddOnesOut.map(({ measure: at, what }) => `${at} ${what}`);
    expect(odd('')).toEqual(['2 accent']);
    expect(odd(letter)).toEqual([]);
  });
});
