import { addQuarters, midiOf, quarters, toNumber } from '../music/index.js';
import { COACH_STUDIES } from '../reading/testing/coach-studies.data.js';
import { LATER_STUDIES } from '../reading/testing/coach-studies-2.data.js';
import { LAST_STUDIES } from '../reading/testing/coach-studies-3.data.js';
import { scoreOfStudy } from '../reading/testing/coach.js';
import { readScore, type Score } from '../score/index.js';
import { abcToMusicXml } from '../abc/index.js';
import { drillScore, drillsOf, wideningSpans, type Drill, type DrillKind } from './index.js';

const AS_WRITTEN_TEMPO = { bpm: 96, unit: 'quarter' as const, quarterBpm: 96 };

function scoreOf(abc: string): Score {
  const xml = abcToMusicXml(`X:1\nL:1/16\n${abc}`);
  if (!xml.ok) throw new Error(xml.issues[0]?.message);
  const score = readScore(new TextEncoder().encode(xml.value));
  if (!score.ok) throw new Error(score.issues[0]?.message);
  return score.value;
}

function drillIn(score: Score, kind: DrillKind, place = 0): Drill {
  const found = drillsOf(score, { fromIndex: 0, endIndex: score.measures.length }).filter(
    (drill) => drill.kind === kind,
  )[place];
  if (!found) throw new Error(`no ${kind}`);
  return found;
}

/** Lengths of notes and, as negative numbers, rests, measure by measure. */
function lengthsOf({ measures }: Drill): number[][] {
  return measures.map(({ notes }) =>
    notes.map(({ isRest, length }) => ((isRest ? -1 : 1) * Math.round(toNumber(length) * 1000)) / 1000),
  );
}

function lettersOf({ measures }: Drill): string[] {
  return measures.map(({ notes }) => notes.map(({ pitches }) => pitches[0]?.step ?? '.').join(''));
}

describe('drills', () => {
  // Four sixteenths, a landing quarter, two quarters of rest: small enough to write the answers by hand.
  const run = scoreOf('M:4/4\nK:C\nCDEF G4 z8|]');

  it('dot a run: dotted sixteenth and thirty-second, then the other way round (by hand)', () => {
    expect(lengthsOf(drillIn(run, 'dotted'))).toEqual([[0.375, 0.125, 0.375, 0.125, 1, -2]]);
    expect(lengthsOf(drillIn(run, 'reverse-dotted'))).toEqual([[0.125, 0.375, 0.125, 0.375, 1, -2]]);
  });

  it('dot triplets within their time (by hand)', () => {
    const triplets = scoreOf('M:2/4\nK:C\n(3C2D2E2 F4|]');
    expect(lengthsOf(drillIn(triplets, 'dotted'))).toEqual([[0.5, 0.167, 0.333, 1]]);
  });

  it('reduce sixteenths to eighths, and put the rhythm on one pitch (by hand)', () => {
    const strong = drillIn(run, 'strong-notes');
    expect([lengthsOf(strong), lettersOf(strong)]).toEqual([[[0.5, 0.5, 1, -2]], ['CEG.']]);
    expect(lettersOf(drillIn(run, 'rhythm-alone'))).toEqual(['CCCCC.']);
  });

  it('play a beat, land on the next note and rest, in a measure of three beats (by hand)', () => {
    const landing = drillIn(run, 'beat-and-landing');
    expect(lengthsOf(landing)).toEqual([[0.25, 0.25, 0.25, 0.25, 1, -1]]);
    expect(landing.measures[0]?.meter).toEqual({ groups: [3], beatType: 4 });
  });

  it('add a note at a time from either end, every note on its beat (by hand)', () => {
    expect(lettersOf(drillIn(run, 'add-from-start'))).toEqual(['CD.', 'CDE.', 'CDEF.', 'CDEFG']);
    expect(lettersOf(drillIn(run, 'add-from-end'))).toEqual(['.FG', '.EFG', '.DEFG', 'CDEFG']);
    expect(lengthsOf(drillIn(run, 'add-from-end'))[0]).toEqual([-0.75, 0.25, 1]);
  });

  it('tongue a tie through in the running value (by hand)', () => {
    const tied = scoreOf('M:2/4\nK:C\nCDEF GABc-|c4 GFED|]');
    expect(lengthsOf(drillIn(tied, 'tongued'))).toEqual([
      [0.25, 0.25, 0.25, 0.25, 0.25, 0.25, 0.25, 0.25],
      [0.25, 0.25, 0.25, 0.25, 0.25, 0.25, 0.25, 0.25],
    ]);
  });

  it('repeat the widest pair, and take the scale of the key', () => {
    const leap = scoreOf('M:4/4\nK:F\nFcFG A4 z8|]');
    expect(lettersOf(drillIn(leap, 'awkward-pair'))).toEqual(['FCFC', 'FCFCFCFC', 'FCFCFCFCF']);
    expect(lettersOf(drillIn(leap, 'scale')).join('')).toMatch(/^FGABCDEFEDCBAGF/u);
    const minor = scoreOf('M:4/4\nK:Dm\nd^cde f4 z8|]');
    expect(drillIn(minor, 'scale').title).toContain('D minor');
  });

  it('give reasons that name the places, the slips first', () => {
    const [dotted] = drillsOf(run, { fromIndex: 0, endIndex: 1 }, { flagged: [0] }).filter(
      ({ kind }) => kind === 'dotted',
    );
    expect(dotted?.why).toBe('slips in 1; even notes in 1: dotted, then reverse-dotted');
  });

  it('widen n measures by n ones, n−1 twos, n−2 threes to the whole (the design)', () => {
    const spans = wideningSpans({ fromIndex: 3, endIndex: 8 });
    const widths = spans.map(({ fromIndex, endIndex }) => endIndex - fromIndex);
    expect([1, 2, 3, 4, 5].map((width) => widths.filter((one) => one === width).length)).toEqual([
      5, 4, 3, 2, 1,
    ]);
    expect(spans.at(-1)).toEqual({ fromIndex: 3, endIndex: 8 });
  });

  describe('on every passage of four measures of every study', () => {
    const all = [...COACH_STUDIES, ...LATER_STUDIES, ...LAST_STUDIES].flatMap((study) => {
      const score = scoreOfStudy(study);
      return Array.from({ length: Math.max(1, score.measures.length - 3) }, (_, fromIndex) => {
        const span = { fromIndex, endIndex: Math.min(score.measures.length, fromIndex + 4) };
        return { name: `${study.name} ${fromIndex}`, score, span, drills: drillsOf(score, span) };
      });
    });

    it('last as long as the passage, measure by measure, where they must', () => {
      const wrong = all.flatMap(({ name, score, span, drills }) =>
        drills
          .filter(({ keepsLengths }) => keepsLengths)
          .flatMap(({ kind, measures }) =>
            measures.flatMap(({ notes }, n) => {
              const whole = notes.reduce((sum, { length }) => addQuarters(sum, length), quarters(0));
              const asked = score.measures[span.fromIndex + n]?.length;
              return asked && toNumber(whole) === toNumber(asked) ? [] : [`${name} ${kind} ${n}`];
            }),
          ),
      );
      expect(wrong).toEqual([]);
      expect(all.length).toBeGreaterThan(200);
    });

    it('ask for no pitch outside the passage but for the scale of its key', () => {
      const wrong = all.flatMap(({ name, score, span, drills }) => {
        const inside = new Set(
          score.notes.flatMap(({ measureIndex, written, tieStop }) =>
            written && (tieStop || (measureIndex >= span.fromIndex && measureIndex < span.endIndex))
              ? [midiOf(written)]
              : [],
          ),
        );
        return drills
          .filter(({ kind }) => kind !== 'scale')
          .filter(({ measures }) =>
            measures.some(({ notes }) =>
              notes.some(({ pitches }) => pitches.some((pitch) => !inside.has(midiOf(pitch)))),
            ),
          )
          .map(({ kind }) => `${name} ${kind}`);
      });
      expect(wrong).toEqual([]);
    });

    it('are scores that our own reader reads back note for note', () => {
      const wrong = all.flatMap(({ name, score, span, drills }) =>
        drills.flatMap((drill) => {
          const xml = drillScore(drill, score, { work: '', tempo: AS_WRITTEN_TEMPO, from: span });
          if (xml === null) return drill.measures.length === 0 ? [] : [`${name} ${drill.kind} no score`];
          const read = readScore(new TextEncoder().encode(xml));
          if (!read.ok) return [`${name} ${drill.kind} ${read.issues[0]?.message ?? ''}`];
          const written = drill.measures.flatMap(({ notes }) => notes.filter(({ isRest }) => !isRest));
          const heard = read.value.notes.filter(
            ({ isRest, isChordMember, tieStop }) => !isRest && !isChordMember && !tieStop,
          );
          const ties = written.filter((_, n) => written[n - 1]?.isTied).length;
          const lengths = drill.measures.map(({ notes }) =>
            notes.reduce((sum, { length }) => sum + toNumber(length), 0).toFixed(4),
          );
          const readLengths = read.value.measures.map(({ length }) => toNumber(length).toFixed(4));
          return heard.length === written.length - ties && lengths.join() === readLengths.join()
            ? []
            : [`${name} ${drill.kind} ${heard.length}/${written.length - ties}`];
        }),
      );
      expect(wrong.slice(0, 5)).toEqual([]);
    });
  });
});
