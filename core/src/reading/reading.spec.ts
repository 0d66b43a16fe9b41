import { isDeepStrictEqual } from 'node:util';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { Scale } from 'tonal';
import { readScore, type Score } from '../score/index.js';
import { bytesOf, head, measure, note, rest, solo } from '../score/testing/music-xml.js';
import { findingsOf, measureFacts, readMusic, soloLine, type MusicReading } from './index.js';
import {
  beamed,
  copyOf,
  plainStudy,
  scoreOf,
  type Study,
  type StudyNote,
} from './testing/planted-studies.js';

const SEEDS = Array.from({ length: 40 }, (_, n) => n + 1);

function reading(
  score: Score,
  instrument: string | null = 'clarinet',
  bpm: number | null = null,
): MusicReading {
  return readMusic(score, { instrument, bpm });
}

function fileOf(name: string): Score {
  const read = readScore(readFileSync(new URL(`../../testdata/${name}`, import.meta.url)), { partId: null });
  if (!read.ok) throw new Error(name);
  return read.value;
}

function scoreOfXml(xml: string): Score {
  const read = readScore(bytesOf(xml), { partId: null });
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join(' '));
  return read.value;
}

/** Share of seeds on which a plant was found. */
function recall(find: (seed: number) => boolean): number {
  return SEEDS.filter((seed) => find(seed)).length / SEEDS.length;
}

describe('Reading of studies with planted traps', () => {
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

describe('Demands', () => {
  it('change by transposition only in what depends on the instrument', () => {
    const same = fc.property(fc.integer({ min: 1, max: 500 }), fc.constantFrom(-2, 2), (seed, fifths) => {
      const study = plainStudy(seed, { measures: 8 });
      // Two fifths up is a whole tone: one letter up in a key of two more sharps.
      const shift = fifths === 2 ? 1 : -1;
      const moved: Study = {
        ...study,
        fifths: study.fifths + fifths,
        measures: study.measures.map(({ notes, hairpinFrom }) => ({
          notes: notes.map((one) => ({ ...one, place: one.place + shift })),
          hairpinFrom,
        })),
      };
      const plain = (one: MusicReading) => one.demands.map(({ score }) => score);
      return isDeepStrictEqual(
        plain(reading(scoreOf(moved), 'unknown')),
        plain(reading(scoreOf(study), 'unknown')),
      );
    });
    expect(() => fc.assert(same, { numRuns: 40 })).not.toThrow();
  });

  it('count notes a second from the tempo: four sixteenths at ♩=96 are 6.4, and twice the tempo is twice that', () => {
    const sixteenths = Array.from({ length: 16 }, (_, n) => note(n % 2 === 0 ? 'C5' : 'D5', 1)).join('');
    const score = scoreOfXml(solo(measure('1', head(4) + note('C5', 16)) + measure('2', sixteenths)));
    const at96 = reading(score, 'flute', 96);
    expect(at96.deciding).toEqual(jasmine.objectContaining({ measure: '2', notesPerSecond: 6.4 }));
    expect(reading(score, 'flute', 192).deciding?.notesPerSecond).toBe(12.8);
    expect(at96.longestHeld).toEqual({ measure: '1', quarters: 4, seconds: 2.5 });
  });

  it('open no faster than the densest measure allows, and at the target where all is within reach', () => {
    const sixteenths = Array.from({ length: 16 }, (_, n) => note(n % 2 === 0 ? 'C5' : 'D5', 1)).join('');
    const score = scoreOfXml(solo(measure('1', head(4) + note('C5', 16)) + measure('2', sixteenths)));
    // Seven tongued notes a second are four sixteenths at ♩=105.
    expect(reading(score, 'flute', 132).opening.bpm).toBe(105);
    expect(reading(score, 'flute', 96).opening.bpm).toBe(96);
  });

  it('count the clarinet’s break between B♭4 and B4, not the flute’s', () => {
    const over = Array.from({ length: 4 }, (_, n) => note(n % 2 === 0 ? 'A4' : 'B4', 4)).join('');
    const score = scoreOfXml(solo(measure('1', head(4) + over)));
    expect(reading(score, 'clarinet', 60).demands[0]?.facts.breaks).toBe(3);
    expect(reading(score, 'flute', 60).demands[0]?.facts.breaks).toBe(0);
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
        { measure: '1', kind: 'trill', note: pitch, neighbour, by: 'key' },
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
