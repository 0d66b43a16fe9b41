import { abcToMusicXml } from '../abc/index.js';
import { seededRandom } from '../base/index.js';
import { asQuarterBpm, asSeconds, harmonics, midiOf, parsePitch } from '../music/index.js';
import { steadyPace } from '../reading/index.js';
import { readScore, type Score } from '../score/index.js';
import { leastPath, pathCost, type PathCosts } from './least-path.js';
import {
  bowingPath,
  clarinetPath,
  handNotes,
  rollAdvice,
  rollDivision,
  slidePath,
  slidePlaces,
  stickingPath,
  valveChoices,
  valvePath,
  valvesOf,
  type HandNote,
  type HandPath,
} from './index.js';

const midi = (name: string): number => {
  const pitch = parsePitch(name);
  if (!pitch) throw new Error(name);
  return midiOf(pitch);
};

function scoreOf(abc: string): Score {
  const xml = abcToMusicXml(`X:1\nM:4/4\nL:1/8\n${abc}`);
  if (!xml.ok) throw new Error(xml.issues[0]?.message);
  const score = readScore(new TextEncoder().encode(xml.value));
  if (!score.ok) throw new Error(score.issues[0]?.message);
  return score.value;
}

function notesOf(abc: string, bpm = 120): HandNote[] {
  const score = scoreOf(abc);
  const span = { fromIndex: 0, endIndex: score.measures.length };
  return handNotes(score, span, steadyPace(asQuarterBpm(bpm)));
}

const choices = ({ notes }: HandPath): string => notes.map(({ choice }) => choice).join(' ');

describe('a way through a passage', () => {
  it('is the cheapest of all (every way tried, 200 invented passages)', () => {
    const random = seededRandom(11);
    for (let run = 0; run < 200; run += 1) {
      const layers = Array.from({ length: 6 }, () =>
        Array.from({ length: 1 + Math.floor(random() * 4) }, () => Math.floor(random() * 9)),
      );
      const costs: PathCosts<number> = {
        stay: (one, layer) => (one * 7 + layer) % 5,
        go: (from, to) => Math.abs(from - to) * (1 + ((from * to) % 3)),
      };
      const all = layers.reduce<number[][]>(
        (ways, own) => ways.flatMap((way) => own.map((one) => [...way, one])),
        [[]],
      );
      const { path, cost } = leastPath(layers, costs);
      expect(cost).toBeCloseTo(Math.min(...all.map((way) => pathCost(way, costs))), 9);
      expect(pathCost(path, costs)).toBeCloseTo(cost, 9);
    }
  });

  it('keeps what was settled, whatever it costs', () => {
    const notes = notesOf('K:C clef=bass\nF,2 F,2 F,2 F,2 |');
    const pins = [{ measureIndex: 0, ordinal: 2, choice: '6' }];
    const path = slidePath(notes, { hasValve: false, pins });
    expect(path.notes[1]).toEqual(jasmine.objectContaining({ choice: '6', isPinned: true, plain: '1' }));
    expect(path.cost).toBeGreaterThan(slidePath(notes, { hasValve: false }).cost);
  });
});

describe('the harmonic series', () => {
  // 12 · log2 n; the seventh partial is 31 cents flat, the fifth 14, the eleventh half a semitone.
  it('gives the partials that brass is built on', () => {
    expect(harmonics(12).map(({ semitones }) => semitones)).toEqual([
      0, 12, 19, 24, 28, 31, 34, 36, 38, 40, 42, 43,
    ]);
    expect(harmonics(7).map(({ cents }) => Math.round(cents))).toEqual([0, 0, 2, 0, -14, 2, -31]);
  });
});

// The chart of the tenor trombone, from memory.
describe('the slide', () => {
  it('has each note where the chart has it, and with the valve the notes below E2 too', () => {
    const first = (name: string, hasValve = false) => slidePlaces(midi(name), hasValve)[0]?.name ?? null;
    const chart = {
      Bb2: '1',
      A2: '2',
      F2: '6',
      E2: '7',
      B2: '7',
      C3: '6',
      Eb3: '3',
      F3: '1',
      D3: '4',
      Bb3: '1',
    };
    for (const [name, position] of Object.entries(chart))
      expect(first(name)).withContext(name).toBe(position);
    expect([first('Eb2'), first('Eb2', true), first('C2', true)]).toEqual([null, 'V3', 'V6']);
    expect(slidePlaces(midi('C3'), true).map(({ name }) => name)).toContain('V1');
    expect(slidePlaces(midi('B2'), true).map(({ name }) => name)).toContain('V2');
  });

  it('stays out for one near note between far ones, and says what that saves', () => {
    // C3 in sixth, F3 in first by the chart: six is near.
    const path = slidePath(notesOf('K:C clef=bass\nC,F,C,F, C,F,C,F, |', 120), { hasValve: false });
    expect(choices(path)).toBe('6 6 6 6 6 6 6 6');
    expect(path.because).toBe('The slide travels 0 positions instead of 35: F3 in sixth at 1.');
    expect(path.cost).toBeLessThan(path.plainCost);
  });
});

// The chart of every beginner's method, from memory.
describe('valves', () => {
  const trumpet = valvesOf('Trumpet in B♭', {
    transposition: { diatonic: -1, chromatic: -2, octaveChange: 0 },
  });

  it('are the chart’s: the trumpet from C4 to C6', () => {
    const chart =
      'C4 0 C#4 123 D4 13 D#4 23 E4 12 F4 1 F#4 2 G4 0 G#4 23 A4 12 A#4 1 B4 2 C5 0 C#5 12 D5 1 D#5 2 E5 0 F5 1 F#5 2 G5 0 G#5 23 A5 12 A#5 1 B5 2 C6 0'.split(
        ' ',
      );
    if (!trumpet) throw new Error('no trumpet');
    for (let n = 0; n < chart.length; n += 2)
      expect(valveChoices(midi(chart[n] ?? ''), trumpet)[0]?.name)
        .withContext(chart[n] ?? '')
        .toBe(chart[n + 1]);
    expect(valveChoices(midi('F#3'), trumpet).map(({ name }) => name)).toEqual(['123']);
    expect(valveChoices(midi('F3'), trumpet)).toEqual([]);
    // Lengths add up, semitones do not: 1 and 3 together are short, so D4 is sharp, and C♯4 more.
    const sharp = (name: string) => valveChoices(midi(name), trumpet)[0]?.cents ?? 0;
    expect(sharp('D4')).toBeGreaterThan(10);
    expect(sharp('C#4')).toBeGreaterThan(sharp('D4'));
  });

  it('take the fourth for C and F of the euphonium, the thumb of the horn above the break, and trumpet fingers in treble clef', () => {
    const plain = { transposition: { diatonic: 0, chromatic: 0, octaveChange: 0 } };
    const euphonium = valvesOf('Euphonium', plain);
    if (!euphonium) throw new Error('no euphonium');
    expect([
      valveChoices(midi('C3'), euphonium)[0]?.name,
      valveChoices(midi('F2'), euphonium)[0]?.name,
    ]).toEqual(['4', '4']);
    const treble = valvesOf('Euphonium T.C.', {
      transposition: { diatonic: -1, chromatic: -2, octaveChange: -1 },
    });
    expect(treble?.fundamental).toBe(48);
    expect(valvesOf('English Horn', plain)).toBeNull();
    const horn = valvesOf('Horn in F', plain);
    if (!horn) throw new Error('no horn');
    const sides = ['G4', 'A4', 'C5', 'G5'].map((name) => valveChoices(midi(name), horn)[0]?.name);
    expect(sides).toEqual(['0', 'T12', 'T0', 'T0']);
    expect(valveChoices(midi('C5'), horn).map(({ name }) => name)).toContain('0');
  });

  it('take another fingering where the chart’s move too much', () => {
    if (!trumpet) throw new Error('no trumpet');
    // A quick turn between D5 and E5: 1 and 0, or both with nothing but 12 and 1.
    const path = valvePath(notesOf('L:1/32\nK:C\nA^GA^G A^GA^G A^GA^G A^GA^G A8 z8 |', 132), trumpet);
    expect(path.cost).toBeLessThanOrEqual(path.plainCost);
    expect(path.missing).toEqual([]);
  });
});

describe('the clarinet', () => {
  // What every teacher pencils in: from memory.
  it('never has one little finger on two keys in a row, where the keys allow it', () => {
    expect(choices(clarinetPath(notesOf('K:C\n(Bc Bc) |')))).toBe('left right left right');
    // E♭5 is right only: C5 goes left before it, and B4 right before that.
    expect(choices(clarinetPath(notesOf('K:Eb\n(Gc ed) |')))).toBe('plain left right plain');
    expect(choices(clarinetPath(notesOf('K:Eb\n(=Bc ec) |')))).toBe('right left right left');
    // G♯5 is left: C♯5 goes right.
    expect(
      choices(clarinetPath(notesOf('K:A\n(ga ge) (gc gc) |')))
        .split(' ')
        .slice(-4),
    ).toEqual(['left', 'right', 'left', 'right']);
  });

  it('takes the fork or side key where the plain one crosses, and the plain one elsewhere', () => {
    expect(choices(clarinetPath(notesOf('K:C\n(F^F G2) |')))).toContain('side keys');
    expect(choices(clarinetPath(notesOf('K:C\n(E^F G2) |')))).toContain('first finger');
    expect(choices(clarinetPath(notesOf('K:C\n(f^f f2) |')))).toContain('fork key');
    expect(choices(clarinetPath(notesOf('K:G\n(ef ed) |')))).toContain('middle finger');
  });

  it('says what it saves', () => {
    const { because, cost, plainCost } = clarinetPath(notesOf('K:Eb\n(=Bc ec) | (=Bc ec) |'));
    expect(because).toMatch(/^No little finger slides, where the plain way has \d/u);
    expect(cost).toBeLessThan(plainCost);
  });
});

describe('sticking', () => {
  const strokes = (abc: string, school: 'alternate' | 'doubles', bpm = 120, hasKeys = false): string =>
    choices(stickingPath(notesOf(abc, bpm), { school, leads: 'R', hasKeys }));

  it('alternates, from the leading hand, whatever the rhythm', () => {
    expect(strokes('K:C\ncccc cccc |', 'doubles')).toBe('R L R L R L R L');
    expect(strokes('K:C\nccc cc2 cc |', 'alternate')).toBe('R L R L R L R');
  });

  it('doubles where a hand would have to cross, before the tangle and in the slowest place', () => {
    // Two notes that alternate over an octave: the hands that begin on the wrong side would cross all along.
    const path = stickingPath(notesOf("K:C\nc2 L:1/16 [L:1/16]c'cc'c c'cc'c c'cc'c |", 100), {
      school: 'doubles',
      leads: 'R',
      hasKeys: true,
    });
    expect(path.notes.slice(2).every(({ choice }, n) => choice === (n % 2 === 0 ? 'L' : 'R'))).toBeTrue();
    expect(path.cost).toBeLessThan(path.plainCost);
  });

  // Common practice, no source: hands that bounce make about eight to ten strokes a second.
  it('divides a roll so that it neither stutters nor cramps', () => {
    const at = (bpm: number, instrument: 'snare' | 'mallets') =>
      rollDivision(asSeconds(60 / bpm), instrument).division.name;
    expect([at(126, 'snare'), at(88, 'snare'), at(60, 'snare')]).toEqual([
      'sixteenths',
      'triplet sixteenths',
      'thirty-seconds',
    ]);
    expect(rollDivision(asSeconds(60 / 88), 'snare').tooSlow).toEqual(['sixteenths']);
    expect([at(152, 'mallets'), at(100, 'mallets'), at(76, 'mallets')]).toEqual([
      'sixteenths',
      'triplet sixteenths',
      'thirty-seconds',
    ]);
    const [roll] = rollAdvice(notesOf('K:C\n!///!c4 z4 |', 88), {
      instrument: 'snare',
      quarter: () => asSeconds(60 / 88),
    });
    if (roll) expect([roll.ends, roll.strokes, roll.division.perQuarter]).toEqual(['lift', 12, 6]);
  });
});

describe('the bow', () => {
  it('goes as it comes, all notes of a slur in one direction', () => {
    expect(choices(bowingPath(notesOf('K:D\n(DE) (FG) (AB) (cd) |')))).toBe(
      'down down up up down down up up',
    );
  });

  it('hooks before a downbeat that would fall on an up-bow, and lifts in a rest', () => {
    // Three quarters a measure: as it comes every other downbeat is up; nothing cheap is there to change that.
    const three = bowingPath(notesOf('M:3/4\nK:D\nD2E2F2 | G2A2B2 | c2d2e2 | f6 |', 60));
    expect(three.notes[0]?.choice).toBe('down');
    // A rest before the bar line: the bow is set anew.
    const lifted = bowingPath(notesOf('K:D\nD2E2F2z2 | G2A2B2z2 | d8 |', 80));
    expect(lifted.notes.map(({ choice }) => choice)).toEqual([
      'down',
      'up',
      'down',
      'down',
      'up',
      'down',
      'down',
    ]);
    expect(lifted.because).toContain('lifted before 2 and 3');
  });

  it('obeys what is printed, and begins an upbeat up', () => {
    const path = bowingPath(notesOf('K:D\n!upbow!D2 E2 F2 G2 |'));
    expect(path.notes[0]?.choice).toBe('up');
    expect(bowingPath(notesOf('K:D\nz6 A2 | d4 d4 |')).notes[0]?.choice).toBe('up');
  });
});
