import { Scale } from 'tonal';
import { head, measure, note, solo } from '../../score/testing/music-xml.js';
import { beamed, plainStudy, scoreOf, type StudyNote } from '../testing/planted-studies.js';
import { reading, scoreOfXml } from '../testing/readings.js';

describe('Runs in studies with planted ones', () => {
  it('names the scale of a run as `tonal` spells it', () => {
    for (const [fifths, tonic] of [
      [0, 'C'],
      [2, 'D'],
      [-3, 'Eb'],
      [4, 'E'],
    ] as const) {
      const study = { ...plainStudy(5, { meter: '6/8' }), fifths };
      const start = 28 + ['C', 'D', 'E', 'F', 'G', 'A', 'B'].indexOf(tonic[0] ?? '');
      study.measures[3] = {
        notes: beamed(
          [0, 1, 2, 3, 4, 5].map((n) => start + n),
          3,
        ),
        hairpinFrom: null,
      };
      study.measures[4] = {
        notes: [6, 7].map((n): StudyNote => ({
          place: start + n,
          off: 0,
          quarters: 1.5,
          articulation: null,
        })),
        hairpinFrom: null,
      };
      const spelled = Scale.get(`${tonic}4 major`).notes;
      const run = reading(scoreOf(study)).runs.find(({ measure }) => measure === '4' || measure === '3');
      expect(run?.scale).toBe(`${tonic} major`);
      expect([run?.from, run?.to].some((end) => end === spelled[0] || end === `${tonic}5`)).toBeTrue();
    }
  });
});

describe('Runs (common practice, no source)', () => {
  const eighths = (...pitches: string[]): string => pitches.map((pitch) => note(pitch, 2)).join('');
  const named = (...bodies: string[]): string[] =>
    reading(
      scoreOfXml(
        solo(bodies.map((body, n) => measure(String(n + 1), (n === 0 ? head(4) : '') + body)).join('')),
      ),
    ).runs.map(({ measure: at, from, to, scale }) => `${at}: ${from} ${to} ${scale}`);

  it('leave out a note before them that lies in their way by chance', () => {
    expect(
      named(
        eighths('C5', 'B4', 'A4', 'C5', 'E5', 'G5', 'C6', 'G5'),
        note('C5', 4) + eighths('G5', 'B5', 'D6', 'G6') + note('D5', 4),
      ),
    ).toEqual(['1: C5 C6 C major arpeggio', '2: G5 G6 G major arpeggio']);
  });

  it('take no semitone before a triad for a chord', () => {
    expect(named(eighths('F#4', 'G4', 'B4', 'D5', 'C5', 'A4', 'C5', 'A4'))).toEqual([]);
  });

  it('keep a seventh chord that is one from its first note', () => {
    expect(named(note('D5', 4) + eighths('D5', 'F#5', 'A5', 'C6') + note('G4', 4))).toEqual([
      '1: D5 C6 D dominant seventh arpeggio',
    ]);
  });
});
