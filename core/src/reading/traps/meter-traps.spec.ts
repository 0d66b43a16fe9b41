import { head, measure, note, solo } from '../../score/testing/music-xml.js';
import { beamed, plainStudy, scoreOf, type Study } from '../testing/planted-studies.js';
import { reading, scoreOfXml } from '../testing/readings.js';

describe('Meter traps in studies with planted ones', () => {
  it('finds six eighths beamed in pairs and three quarters beamed in threes, and leaves the usual beams alone', () => {
    const walk = [36, 37, 36, 38, 37, 36];
    for (const [meter, size, reads, sounds] of [
      ['6/8', 2, '6/8', '3/4'],
      ['3/4', 3, '3/4', '6/8'],
    ] as const) {
      const study: Study = plainStudy(3, { meter });
      study.measures[6] = { notes: beamed(walk, size), hairpinFrom: null };
      study.measures[9] = { notes: beamed(walk, size === 2 ? 3 : 2), hairpinFrom: null };
      expect(reading(scoreOf(study)).meterTraps).toEqual([{ measures: ['7'], reads, sounds }]);
    }
  });
});

describe('Meter traps written out by hand (hemiola and groupings are common practice, no source)', () => {
  const beam = (type: string): string => `<beam number="1">${type}</beam>`;
  const groups = (...sizes: readonly number[]): string =>
    sizes
      .map((size) =>
        Array.from({ length: size }, (_, n) =>
          note('C5', 1, beam(n === 0 ? 'begin' : n === size - 1 ? 'end' : 'continue')),
        ).join(''),
      )
      .join('');

  it('are two measures of three that sound as three of two', () => {
    const score = scoreOfXml(
      solo(
        measure('1', head(2, '3', '4') + note('C5', 2) + note('D5', 2) + note('E5', 2)) +
          measure('2', note('C5', 4) + note('D5', 2, '<tie type="start"/>')) +
          measure('3', note('D5', 2, '<tie type="stop"/>') + note('E5', 4)) +
          measure('4', note('C5', 6)),
      ),
    );
    expect(reading(score).meterTraps).toEqual([{ measures: ['2', '3'], reads: '3/4', sounds: '3/2' }]);
  });

  it('are seven eighths grouped in another way than the rest', () => {
    const score = scoreOfXml(
      solo(
        measure('1', head(2, '7', '8') + groups(2, 2, 3)) +
          measure('2', groups(2, 2, 3)) +
          measure('3', groups(3, 2, 2)),
      ),
    );
    expect(reading(score).meterTraps).toEqual([{ measures: ['3'], reads: '7/8 as 2+2+3', sounds: '3+2+2' }]);
  });

  it('are beats of four and six notes in turn', () => {
    const beat = (count: number): string =>
      Array.from({ length: count }, () => note('C5', 12 / count)).join('');
    const score = scoreOfXml(solo(measure('1', head(12) + beat(4) + beat(6) + beat(4) + beat(6))));
    expect(reading(score).meterTraps).toEqual([
      { measures: ['1'], reads: '4/4', sounds: 'groups of 4, 6, 4, 6' },
    ]);
  });
});
