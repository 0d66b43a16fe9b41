import { head, measure, note, rest, solo } from '../../score/testing/music-xml.js';
import { measureFacts, soloLine } from '../index.js';
import { reading, scoreOfXml } from '../testing/readings.js';

describe('Inventory', () => {
  const wedge = (type: string, offset = ''): string =>
    `<direction><direction-type><wedge type="${type}"/></direction-type>${offset === '' ? '' : `<offset>${offset}</offset>`}</direction>`;
  const sign = (name: string): string => `<notations><articulations><${name}/></articulations></notations>`;

  it('places dynamics and hairpins by cursor, by offset and at a note (MusicXML 4.0, offset and notations)', () => {
    const score = scoreOfXml(
      solo(
        measure(
          '1',
          head(4) +
            note('C5', 4, '<notations><dynamics><p/></dynamics></notations>') +
            wedge('crescendo', '4') +
            note('D5', 4) +
            note('E5', 4) +
            note('F5', 4),
        ) +
          measure('2', wedge('stop') + note('G5', 16)) +
          measure('2A', note('G5', 8) + wedge('diminuendo') + note('A5', 8) + wedge('stop')),
      ),
    );
    const { dynamics, hairpins } = reading(score);
    expect(dynamics).toEqual([{ measure: '1', mark: 'p' }]);
    expect(hairpins).toEqual([
      { kind: 'crescendo', measure: '1', startNote: 3, endMeasure: '1' },
      { kind: 'diminuendo', measure: '2A', startNote: 2, endMeasure: '2A' },
    ]);
  });

  it('counts articulations by kind, printed accidentals, names, ties and range', () => {
    const slurred = '<notations><slur type="start"/></notations>';
    const ended = '<notations><slur type="stop"/></notations>';
    const both = '<notations><articulations><staccato/><accent/></articulations></notations>';
    const score = scoreOfXml(
      solo(
        measure(
          '1',
          head(4) +
            note('C5', 4, slurred) +
            note('D5', 4, ended) +
            note('E5', 4, sign('staccato')) +
            note('F#5', 4, `<accidental>sharp</accidental>${both}`),
        ) +
          measure('2', note('G4', 2) + note('A4', 2) + note('C6', 12, '<tie type="start"/>')) +
          measure('3', note('C6', 2, '<tie type="stop"/>') + rest(14)),
      ),
    );
    const read = reading(score);
    expect(read.articulations).toEqual([
      { kind: 'slurred', measure: '1', count: 2 },
      { kind: 'staccato', measure: '1', count: 1 },
      { kind: 'accent+staccato', measure: '1', count: 1 },
      { kind: 'tongued', measure: '2', count: 3 },
    ]);
    expect(read.accidentals).toEqual([{ measure: '1', name: 'F#', count: 1 }]);
    expect(read.names.find(({ name }) => name === 'C')).toEqual({
      name: 'C',
      count: 2,
      measures: ['1', '2'],
    });
    expect(read.range.written).toEqual({ low: 'G4', high: 'C6' });
    expect(read.ties).toEqual([
      { measure: '2', note: 'C6', quarters: 3.5, subdivisions: 7, subdivision: 'eighth' },
    ]);
    expect(read.breathingPlaces).toEqual([{ measure: '3', beat: 1.5, kind: 'rest' }]);
    expect(read.longestWithoutRest).toEqual({ from: '1', to: '3', quarters: 8.5, seconds: null });
    // Under cue notes the player is silent though no rest is printed.
    const cued = scoreOfXml(
      solo(
        measure('1', head(4) + note('C5', 16)) +
          measure('2', note('C5', 16).replace('<note>', '<note><cue/>')) +
          measure('3', note('C5', 16)),
      ),
    );
    expect(reading(cued).longestWithoutRest).toEqual({ from: '1', to: '1', quarters: 4, seconds: null });
  });
});

describe('Crescendos in words (common practice, no source)', () => {
  it('are counted level by level until the next printed level, and stand among the dynamics of their measure', () => {
    const says = (words: string): string =>
      `<direction><direction-type><words>${words}</words></direction-type></direction>`;
    const level = (mark: string): string =>
      `<direction><direction-type><dynamics><${mark}/></dynamics></direction-type></direction>`;
    const score = scoreOfXml(
      solo(
        measure('1', head(4) + level('p') + note('C5', 16)) +
          measure('2', says('cresc. poco a poco') + note('D5', 16)) +
          measure('3', note('E5', 16)) +
          measure('4', note('F5', 16)) +
          measure('5', level('f') + note('G5', 16) + says('crescent')),
      ),
    );
    const own = reading(score);
    const steps = own.dynamicsAdvice.filter(({ why }) => why.startsWith('Step'));
    expect(steps.map(({ measure: at, mark }) => [at, mark])).toEqual([
      ['2', 'mp'],
      ['3', 'mf'],
      ['4', 'f'],
    ]);
    expect(own.hairpins).toEqual([]);
    const facts = measureFacts(score, soloLine(score), { reading: own, bpm: null });
    expect(facts.map(({ dynamics }) => dynamics)).toEqual([['p'], ['crescendo'], [], [], ['f']]);
  });
});
