import { head, measure, note, solo } from '../score/testing/music-xml.js';
import { plainStudy, scoreOf } from './testing/planted-studies.js';
import { fileOf, reading, scoreOfXml, SEEDS } from './testing/readings.js';

describe('Reading of plain studies', () => {
  it('raises at most one false alarm per 16 measures in plain studies, and none but measures alike by chance', () => {
    const alarms = SEEDS.map((seed) => {
      const found = reading(scoreOf(plainStudy(seed)));
      return [found.surprises, found.oddOnesOut, found.meterTraps, found.nearRepeats, found.exactRepeats];
    });
    const each = alarms[0]?.map((_, kind) => alarms.reduce((sum, one) => sum + (one[kind]?.length ?? 0), 0));
    const total = each?.reduce((sum, count) => sum + count, 0) ?? Infinity;
    expect(total)
      .withContext(`surprises, odd, meter, near, exact: ${each?.join(', ')}`)
      .toBeLessThanOrEqual((SEEDS.length * 32) / 16);
    expect(each?.slice(0, 3)).toEqual([0, 0, 0]);
  });
});

describe('Reading of the two exports', () => {
  it('finds what the note beside them says is in them', () => {
    const walk = reading(fileOf('lantern-walk.musicxml'));
    expect(walk.exactRepeats).toEqual([{ a: '1-2', b: '5-6' }]);
    expect(walk.nearRepeats).toEqual([
      {
        a: '3',
        b: '7',
        differences: [
          { note: 2, what: 'pitch', a: 'Bb4', b: 'B4' },
          { note: 3, what: 'pitch', a: 'C5', b: 'C#5' },
        ],
      },
    ]);
    expect(walk.articulations.find(({ measure }) => measure === '14')?.kind).toBe('accent+staccato');
    const ebb = reading(fileOf('ebb-and-return.musicxml'), null);
    expect(ebb.meterTraps).toEqual([{ measures: ['7'], reads: '6/8', sounds: '3/4' }]);
  });
});

describe('Ornaments', () => {
  it('take the upper neighbour of the key: on B in G major C, on E in B♭ major F (common practice, no source)', () => {
    for (const [pitch, fifths, neighbour] of [
      ['B4', 1, 'C'],
      ['E5', -2, 'F'],
      ['A4', -2, 'Bb'],
      ['E4', 2, 'F#'],
    ] as const) {
      const trill = '<notations><ornaments><trill-mark/></ornaments></notations>';
      const start = head(4).replace('<fifths>0<', `<fifths>${fifths}<`);
      const score = scoreOfXml(solo(measure('1', start + note(pitch, 16, trill))));
      expect(reading(score).ornaments).toEqual([
        { measure: '1', kind: 'trill', note: pitch, neighbour, other: null, by: 'key' },
      ]);
    }
  });

  it('take the accidental at the sign before the one earlier in the measure, and that before the key', () => {
    const trill = (sign: string): string =>
      `<notations><ornaments><trill-mark/>${sign}</ornaments></notations>`;
    const score = scoreOfXml(
      solo(
        measure(
          '1',
          head(4) +
            note('C#5', 4, '<accidental>sharp</accidental>') +
            note('B4', 4, trill('')) +
            note('B4', 8, trill('<accidental-mark>natural</accidental-mark>')),
        ) + measure('2', note('B4', 16, trill(''))),
      ),
    );
    expect(reading(score).ornaments.map(({ neighbour, by }) => `${neighbour} ${by}`)).toEqual([
      'C# measure',
      'C sign',
      'C key',
    ]);
  });
});
