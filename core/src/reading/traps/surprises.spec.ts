import { head, measure, note, solo } from '../../score/testing/music-xml.js';
import { plainStudy, scoreOf } from '../testing/planted-studies.js';
import { reading, recall, scoreOfXml } from '../testing/readings.js';

describe('Surprises in studies with planted ones', () => {
  it('finds the letter that goes back to the key without a sign after an altered one', () => {
    const found = recall((seed) => {
      const study = plainStudy(seed);
      const last = study.measures[10]?.notes.at(-1);
      const next = study.measures[11]?.notes[0];
      if (!last || !next) return false;
      last.off = 1;
      next.place = last.place;
      return reading(scoreOf(study)).surprises.some(
        ({ measure, ordinal }) => measure === '12' && ordinal === 1,
      );
    });
    expect(found).toBeGreaterThanOrEqual(0.95);
  });
});

describe('Surprises', () => {
  it('are the other octave of an altered letter, and a sign far back in the measure (common practice, no source)', () => {
    const sharp = '<accidental>sharp</accidental>';
    const score = scoreOfXml(
      solo(
        measure('1', head(4) + note('F#4', 4, sharp) + note('A4', 4) + note('F5', 4) + note('G5', 4)) +
          measure(
            '2',
            note('G#4', 2, sharp) + note('A4', 2) + note('B4', 4) + note('C5', 4) + note('G#4', 4),
          ),
      ),
    );
    expect(reading(score).surprises.map(({ measure, ordinal }) => [measure, ordinal])).toEqual([
      ['1', 3],
      ['2', 5],
    ]);
  });
});
