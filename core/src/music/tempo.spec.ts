import fc from 'fast-check';
import {
  asQuarterBpm,
  BEAT_UNITS,
  quarterBpm,
  checkBpm,
  convertBpm,
  DIAL,
  halfSpeedClick,
  isCompound,
  measureLength,
  beatUnitOf,
  COMMON_TIME,
  meterFrom,
  meterText,
  parseTempo,
  quarters,
  secondsAt,
  toNumber,
  snapDown,
  unitLength,
  unitWords,
  type BeatUnit,
} from './index.js';

const unit = fc.constantFrom<BeatUnit>(...BEAT_UNITS);

describe('tempo conversion', () => {
  it('counts ♩=132 as ♪=264 and ♩.=60 as ♪=180 and ♩=90 (the design’s worked examples)', () => {
    expect(convertBpm(132, 'quarter', 'eighth')).toBe(264);
    expect(convertBpm(60, 'dotted-quarter', 'eighth')).toBe(180);
    expect(convertBpm(60, 'dotted-quarter', 'quarter')).toBe(90);
  });

  it('comes back to the same tempo from any unit', () => {
    const roundTrip = fc.property(unit, unit, fc.integer({ min: 10, max: 400 }), (a, b, bpm) => {
      // Two roundings of a double: one part in 2^52 each.
      return Math.abs(convertBpm(convertBpm(bpm, a, b), b, a) - bpm) < bpm * 1e-15 * 4;
    });
    expect(() => fc.assert(roundTrip)).not.toThrow();
  });

  it('keeps the seconds of a beat whatever unit counts it', () => {
    const conserved = fc.property(unit, unit, (a, b) => {
      const seconds = secondsAt(toNumber(unitLength(a)), quarterBpm(72, a));
      return (
        Math.abs(seconds - secondsAt(toNumber(unitLength(a)), quarterBpm(convertBpm(72, a, b), b))) < 1e-12
      );
    });
    expect(() => fc.assert(conserved)).not.toThrow();
  });

  it('lasts 14.55 s for 32 quarters at 132 (the design’s worked example)', () => {
    expect(secondsAt(32, asQuarterBpm(132))).toBeCloseTo(14.545, 3);
  });

  it('clicks the next smaller unit at half speed, so that the number stays (common practice, no source)', () => {
    expect(halfSpeedClick(132, 'quarter')).toEqual({ unit: 'eighth', bpm: 132 });
    expect(halfSpeedClick(60, 'dotted-quarter')).toEqual({ unit: 'eighth', bpm: 90 });
    expect(halfSpeedClick(54, 'half')).toEqual({ unit: 'quarter', bpm: 54 });
  });
});

describe('the metronome dial', () => {
  it('has the 39 numbers of a mechanical metronome (common practice, no source)', () => {
    expect(DIAL).toEqual([
      40, 42, 44, 46, 48, 50, 52, 54, 56, 58, 60, 63, 66, 69, 72, 76, 80, 84, 88, 92, 96, 100, 104, 108, 112,
      116, 120, 126, 132, 138, 144, 152, 160, 168, 176, 184, 192, 200, 208,
    ]);
  });

  it('snaps down', () => {
    expect([118, 116, 71, 39, 300].map(snapDown)).toEqual([116, 116, 69, 40, 208]);
  });
});

describe('parseTempo', () => {
  const read = (text: string): string => {
    const parsed = parseTempo(text);
    if (!parsed.ok) return parsed.issues[0]?.code ?? '';
    const { beatUnit, bpmMin, bpmMax, bound, words } = parsed.value;
    return [beatUnit, bpmMin, bpmMax, bound, words].map(String).join(' ');
  };

  // Spellings of common practice in US and UK print, no source.
  const cases: readonly (readonly [string, string])[] = [
    ['♩=132', 'quarter 132 132 exact null'],
    ['q. = 60-66', 'dotted-quarter 60 66 range null'],
    ['quarter note equals 96', 'quarter 96 96 exact null'],
    ['crotchet = 80', 'quarter 80 80 exact null'],
    ['dotted minim = 54', 'dotted-half 54 54 exact null'],
    ['M.M. ♪ = 120', 'eighth 120 120 exact null'],
    ['\u{1D15E} = 60', 'half 60 60 exact null'],
    ['at least 96', 'null 96 null min null'],
    ['♩ = 96 or faster', 'quarter 96 null min null'],
    ['quarter note not to exceed 100', 'quarter null 100 max null'],
    ['ca. 60', 'null 60 60 about null'],
    ['Allegro', 'null null null words Allegro'],
    ['Andante con moto, ♩\u00a0= ca. 72', 'quarter 72 72 about Andante con moto'],
    ['♩. = 60–66', 'dotted-quarter 60 66 range null'],
    ['q = 60 or e = 90', 'tempo-two-readings'],
    ['q = 132-120', 'tempo-two-readings'],
    ['q = 900', 'bpm-out-of-range'],
    ['q = 0', 'bpm-out-of-range'],
    ['see page 4', 'tempo-unreadable'],
    ['  ', 'tempo-empty'],
  ];
  for (const [text, expected] of cases) {
    it(`reads "${text}" as ${expected}`, () => {
      expect(read(text)).toBe(expected);
    });
  }

  it('never throws and never answers with a number that is none', () => {
    const safe = fc.property(fc.string({ unit: 'grapheme', maxLength: 60 }), (text) => {
      const parsed = parseTempo(text);
      return (
        !parsed.ok ||
        [parsed.value.bpmMin, parsed.value.bpmMax].every((bpm) => bpm === null || (bpm >= 10 && bpm <= 400))
      );
    });
    expect(() => fc.assert(safe, { numRuns: 1000 })).not.toThrow();
  });

  it('refuses a typed tempo outside 10 to 400 with the number that came', () => {
    const refused = checkBpm(900, 'target');
    expect(refused.ok ? '' : refused.issues[0]?.message).toContain('900');
  });
});

describe('meters', () => {
  it('are counted in dotted values where the beat divides in three (common practice, no source)', () => {
    const units = ['4/4', '2/2', '3/8', '6/8', '9/8', '12/16', '3+2/8', '5/4'].map((text) =>
      beatUnitOf(meterFrom(text) ?? COMMON_TIME),
    );
    expect(units).toEqual([
      'quarter',
      'half',
      'eighth',
      'dotted-quarter',
      'dotted-quarter',
      'dotted-eighth',
      'eighth',
      'quarter',
    ]);
  });

  it('add up: 6/8 is three quarters and compound, 3+2/8 two and a half and not', () => {
    expect(measureLength({ groups: [6], beatType: 8 })).toEqual(quarters(3));
    expect(measureLength({ groups: [3, 2], beatType: 8 })).toEqual(quarters(5, 2));
    expect([isCompound({ groups: [6], beatType: 8 }), isCompound({ groups: [3], beatType: 4 })]).toEqual([
      true,
      false,
    ]);
    expect(meterText({ groups: [3, 2], beatType: 8 })).toBe('3+2/8');
    for (const text of ['4/4', '6/8', '3+2/8', '12/16'])
      expect(meterText(meterFrom(text) ?? COMMON_TIME)).toBe(text);
    for (const text of ['', '4', '4/', 'C', '3+/8']) expect(meterFrom(text)).toBeNull();
  });
});

describe('vocabulary', () => {
  it('says dotted quarter note or dotted crotchet', () => {
    expect([unitWords('dotted-quarter', 'us'), unitWords('dotted-quarter', 'uk')]).toEqual([
      'dotted quarter note',
      'dotted crotchet',
    ]);
  });
});
