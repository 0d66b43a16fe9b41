import { instrumentProfile, soloLine } from '../reading/index.js';
import { midiOf, staffPlace, toNumber } from '../music/index.js';
import { scaleInstrument } from '../scale/index.js';
import { readScore, type Score } from '../score/index.js';
import { bytesOf } from '../score/testing/music-xml.js';
import { concordance, panelResult, SIGHT_LEVELS, sightStudy } from './index.js';

function read(level: number, instrument: string, seed: number): { score: Score; xml: string } {
  const study = sightStudy({ level, instrument, seed });
  if (!study.ok) throw new Error(study.issues[0]?.message);
  const score = readScore(bytesOf(study.value.musicXml));
  if (!score.ok) throw new Error(score.issues[0]?.message);
  return { score: score.value, xml: study.value.musicXml };
}

describe('a sight-reading study', () => {
  const instruments = ['clarinet', 'trombone', 'violin', 'flute', 'horn', 'viola', 'marimba'];

  it('keeps to the tables of its level, over 500 seeds, and no two are alike', () => {
    const seen = new Set<string>();
    for (let seed = 1; seed <= 500; seed += 1) {
      const row = SIGHT_LEVELS[seed % 8];
      const instrument = instruments[seed % instruments.length] ?? 'flute';
      if (!row) continue;
      const { score, xml } = read(row.level, instrument, seed);
      const where = `level ${row.level}, ${instrument}, seed ${seed}`;
      expect(score.measures.length).withContext(where).toBe(row.measures);
      const line = soloLine(score);
      for (const measure of score.measures) {
        expect(Math.abs(measure.fifths)).withContext(where).toBeLessThanOrEqual(row.fifths);
        const meter = `${measure.meter.groups.join('+')}/${measure.meter.beatType}`;
        expect(row.meters as readonly string[])
          .withContext(where)
          .toContain(meter);
        const filled = score.notes.filter(({ measureIndex }) => measureIndex === measure.index);
        expect(filled.reduce((sum, { length }) => sum + toNumber(length), 0))
          .withContext(where)
          .toBeCloseTo(toNumber(measure.length), 9);
      }
      const range = scaleInstrument(instrument);
      const places = line.notes.map(({ written }) => (written ? staffPlace(written) : NaN));
      if (range.ok)
        for (const { midi } of line.notes) {
          expect(midi ?? 0)
            .withContext(where)
            .toBeGreaterThanOrEqual(midiOf(range.value.low));
          expect(midi ?? 0)
            .withContext(where)
            .toBeLessThanOrEqual(midiOf(range.value.high));
        }
      expect(Math.max(...places) - Math.min(...places))
        .withContext(where)
        .toBeLessThanOrEqual(row.compass);
      places.slice(1).forEach((place, n) => {
        expect(Math.abs(place - (places[n] ?? 0)))
          .withContext(where)
          .toBeLessThanOrEqual(row.leap);
      });
      // The same notes under another number would be the same study.
      seen.add(xml.replace(/<work>.*?<\/work>/u, ''));
    }
    expect(seen.size).toBe(500);
  });

  it('closes on the tonic of its key, and is the same for the same seed', () => {
    for (let seed = 1; seed <= 40; seed += 1) {
      const study = sightStudy({ level: 1 + (seed % 8), instrument: 'clarinet', seed });
      if (!study.ok) throw new Error(study.issues[0]?.message);
      const { score, xml } = read(1 + (seed % 8), 'clarinet', seed);
      const last = soloLine(score).notes.at(-1)?.written;
      expect(`${last?.step}${last?.alter === 1 ? '#' : last?.alter === -1 ? 'b' : ''}`).toBe(
        study.value.key.split(' ')[0] ?? '',
      );
      expect(xml).toBe(study.value.musicXml);
    }
  });

  it('for a drum has strokes only, and for what is not known none is written', () => {
    const { score } = read(4, 'snare drum', 3);
    expect(score.notes.every(({ written }) => written === null)).toBeTrue();
    expect(instrumentProfile(score.instrument).family).toBe('drums');
    const unknown = sightStudy({ level: 3, instrument: 'serpent', seed: 1 });
    expect(unknown.ok ? '' : unknown.issues[0]?.code).toBe('sight-instrument');
    const beyond = sightStudy({ level: 9, instrument: 'flute', seed: 1 });
    expect(beyond.ok ? '' : beyond.issues[0]?.code).toBe('sight-level');
  });
});

describe('the agreement of listeners', () => {
  it('is Kendall’s W: 0.16 in the example of three interviewers and six applicants (Siegel, Nonparametric Statistics, 1956, from memory)', () => {
    const interviewers = [
      [1, 6, 3, 2, 5, 4],
      [1, 5, 6, 4, 2, 3],
      [6, 3, 2, 5, 4, 1],
    ];
    // Rank sums 8, 14, 11, 11, 11 and 8 stand 25.5 squares from their mean.
    expect(concordance(interviewers)).toBeCloseTo(25.5 / 157.5, 12);
    expect(
      concordance([
        [1, 2, 3],
        [10, 20, 30],
        [5, 6, 9],
      ]),
    ).toBe(1);
    expect(
      concordance([
        [1, 2, 3],
        [2, 3, 1],
        [3, 1, 2],
      ]),
    ).toBe(0);
    expect(
      concordance([
        [1, 2],
        [2, 1],
      ]),
    ).toBeNull();
    // With ties (Siegel and Castellan's correction): ranks 1.5, 1.5, 3 twice and 1, 2, 3 once; sums 4, 5, 9 from 6: 14 of (9 × 24 - 3 × 12) / 12.
    expect(
      concordance([
        [1, 1, 2],
        [4, 4, 9],
        [1, 2, 3],
      ]),
    ).toBeCloseTo(14 / 15, 12);
  });

  it('drops the highest and the lowest from five listeners on', () => {
    expect(panelResult([60, 70, 80])?.mean).toBe(70);
    const five = panelResult([10, 70, 72, 74, 100]);
    expect([five?.mean, five?.median, five?.hasDropped]).toEqual([72, 72, true]);
    expect(five?.spread).toBeCloseTo(2, 12);
    expect(panelResult([])).toBeNull();
  });
});
