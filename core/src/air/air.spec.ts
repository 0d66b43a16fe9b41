import { abcToMusicXml } from '../abc/index.js';
import { seededRandom } from '../base/index.js';
import { asQuarterBpm, asSeconds } from '../music/index.js';
import { scoreOfPaper } from '../paper/index.js';
import { steadyPace } from '../reading/index.js';
import { readScore, type Score } from '../score/index.js';
import { chooseStops, leastReach, type Stop } from './choose-stops.js';
import {
  airMusic,
  bowStrokes,
  breathPlan,
  capacityFor,
  phraseSeconds,
  placesAt,
  slowestBpm,
  toldAirMusic,
  usableAir,
  waysToBreathe,
  type AirMusic,
  type AirPin,
  type BoxMark,
  type BreathPlan,
} from './index.js';

function scoreOf(abc: string): Score {
  const xml = abcToMusicXml(`X:1\nM:4/4\nL:1/4\n${abc}`);
  if (!xml.ok) throw new Error(xml.issues[0]?.message);
  const score = readScore(new TextEncoder().encode(xml.value));
  if (!score.ok) throw new Error(score.issues[0]?.message);
  return score.value;
}

function musicOf(abc: string): AirMusic {
  const score = scoreOf(abc);
  const music = airMusic(score, { fromIndex: 0, endIndex: score.measures.length });
  if (!music) throw new Error('no notes');
  return music;
}

interface Wished {
  readonly bpm: number;
  readonly air: number;
  readonly pins?: readonly AirPin[];
}

const wish = ({ bpm, air, pins = [] }: Wished) => ({
  pace: steadyPace(asQuarterBpm(bpm)),
  capacity: asSeconds(air),
  pins,
});
const planOf = (abc: string, wished: Wished): BreathPlan => breathPlan(musicOf(abc), wish(wished));
/** Places of the breaths in quarters from the beginning. */
const breathsOf = ({ breaths }: BreathPlan): number[] => breaths.map(({ place }) => place.at);

describe('the air of a phrase', () => {
  // The worked example of docs/computation.md §5.
  it('lasts beats × 60 / bpm, and 32 quarters at 132 need 150.6 with 15 seconds and 112.9 with 20', () => {
    expect(phraseSeconds(32, 132)).toBeCloseTo(14.55, 2);
    expect(usableAir(asSeconds(15))).toBeCloseTo(12.75, 9);
    expect(slowestBpm(32, usableAir(asSeconds(15)))).toBeCloseTo(150.6, 1);
    expect(slowestBpm(32, usableAir(asSeconds(20)))).toBeCloseTo(112.9, 1);
    expect(capacityFor(asSeconds(12.75))).toBeCloseTo(15, 9);
  });

  it('is one breath where it fits, and says from which tempo it does', () => {
    // 32 quarters without a rest.
    const abc = `K:C\n${'c d e f |'.repeat(8)}`;
    const slow = planOf(abc, { bpm: 132, air: 15 });
    expect([slow.isFeasible, slow.breaths.length > 0]).toEqual([true, true]);
    expect(132 * slow.oneBreathSpeed).toBeCloseTo(150.59, 2);
    const quick = planOf(abc, { bpm: 151, air: 15 });
    expect([quick.isFeasible, quick.breaths.length]).toEqual([true, 0]);
    expect(quick.stretches.map(({ from, to }) => [from, to])).toEqual([[0, 32]]);
  });
});

// Worked by hand; the order of the places is the one of docs/computation.md §5 (common practice, no source).
describe('a plan of breaths', () => {
  it('goes to the end of the phrase, not to a bar line or between tongued notes', () => {
    // Six seconds at 60 fit; the slur ends on the half note at 8: 2 + 6 would fit as well, at more harm.
    const plan = planOf('K:C\nc d e f | (g a g2) | e f g a | b a g f |', { bpm: 60, air: 10 });
    expect(breathsOf(plan)).toEqual([8]);
    expect(plan.breaths[0]?.place.kind).toBe('phrase end');
    expect([plan.breaths[0]?.place.measureIndex, plan.breaths[0]?.place.beat]).toEqual([1, 5]);
  });

  it('takes every rest that is long enough, and a printed breath before others', () => {
    const plan = planOf('K:C\nc d e z | e f g a | !breath!g f e d | c4 |', { bpm: 60, air: 10 });
    expect(plan.breaths.map(({ place }) => [place.at, place.kind])).toEqual([
      [3, 'rest'],
      [9, 'breath mark'],
    ]);
    expect(plan.stretches.map(({ from, to, seconds }) => [from, to, seconds])).toEqual([
      [0, 3, 3],
      [4, 9, 5],
      [9, 16, 7],
    ]);
  });

  it('does not part a leading note from its goal, nor cut a slur while anything else will do', () => {
    const places = placesAt(
      musicOf('K:C\nc2 d2 | e2 B2 | c4 | (d2 e2) | f4 |'),
      steadyPace(asQuarterBpm(60)),
    );
    const at = (quarters: number) => places.find((place) => place.at === quarters);
    expect(at(8)?.added).toContain('leading');
    expect(at(14)?.kind).toBe('inside a slur');
    expect(at(14)?.harm ?? 0).toBeGreaterThan(at(8)?.harm ?? 0);
    expect(at(4)?.harm ?? 0).toBeLessThan(at(8)?.harm ?? 0);
  });

  it('finds a breath at the goal of a crescendo worse than a bar later', () => {
    const places = placesAt(
      musicOf('K:C\n!crescendo(! c c c c | c c c c | !crescendo)! c c c c | c4 |'),
      steadyPace(asQuarterBpm(60)),
    );
    const harmAt = (quarters: number) => places.find((place) => place.at === quarters)?.harm ?? 0;
    expect(harmAt(8)).toBeGreaterThan(harmAt(4));
    expect(harmAt(12)).toBe(harmAt(4));
  });

  it('obeys what was settled, and says what would help where nothing fits', () => {
    const abc = 'K:C\nc d e f | g a g2 | e f g a | b a g f |';
    expect(breathsOf(planOf(abc, { bpm: 60, air: 10, pins: [{ at: 4, kind: 'must' }] }))).toContain(4);
    expect(breathsOf(planOf(abc, { bpm: 60, air: 10, pins: [{ at: 8, kind: 'never' }] }))).not.toContain(8);
    // One note of eight seconds, and four seconds of air that may be used.
    const music = musicOf('K:C\nc4- | c4 |');
    const plan = breathPlan(music, wish({ bpm: 60, air: 5 }));
    expect([plan.isFeasible, plan.leastCapacity]).toEqual([false, asSeconds(8 / 0.85)]);
    expect(waysToBreathe(music, wish({ bpm: 60, air: 5 }))).toEqual([
      { kind: 'air', capacity: asSeconds(8 / 0.85) },
      { kind: 'tempo', speed: jasmine.any(Number) as unknown as number },
    ]);
    const shut = wish({ bpm: 60, air: 6, pins: [{ at: 4, kind: 'never' }] });
    expect(waysToBreathe(musicOf('K:C\nc4 | d4 |'), shut).at(-1)).toEqual(
      jasmine.objectContaining({ kind: 'place' }),
    );
  });

  it('needs fewer breaths the faster it goes, and each is needless from the tempo it names', () => {
    const abc = `K:C\n${'(c d e f) | g a g2 | (f e d c) | d e c2 |'.repeat(3)}`;
    const music = musicOf(abc);
    const countAt = (bpm: number) => breathPlan(music, wish({ bpm, air: 12 })).breaths.length;
    const counts = [50, 60, 72, 84, 100, 120, 144, 300].map(countAt);
    expect(counts).toEqual([...counts].sort((a, b) => b - a));
    expect([(counts[0] ?? 0) > 2, counts.at(-1)]).toEqual([true, 0]);
    const [first] = breathPlan(music, wish({ bpm: 72, air: 12 })).breaths;
    const faster = 72 * (first?.needlessAt ?? 0) + 0.01;
    const others = breathPlan(music, wish({ bpm: 72, air: 12 })).breaths.slice(1);
    const pins = others.map(({ place: { at } }) => ({ at, kind: 'must' as const }));
    expect(breathsOf(breathPlan(music, wish({ bpm: faster, air: 12, pins })))).not.toContain(
      first?.place.at ?? -1,
    );
  });

  it('is the least harmful of all choices (every choice tried, 300 invented phrases)', () => {
    const random = seededRandom(5);
    for (let run = 0; run < 300; run += 1) {
      const stops: Stop[] = [];
      let at = 0;
      for (let n = 0; n < 9; n += 1) {
        at += 0.5 + random() * 2;
        const from = at + (random() < 0.3 ? 0.5 : 0);
        const pin = random() < 0.1 ? 'never' : random() < 0.08 ? 'must' : null;
        stops.push({ until: asSeconds(at), from: asSeconds(from), harm: Math.floor(random() * 12), pin });
        at = from;
      }
      const reach = { start: asSeconds(0), end: asSeconds(at + 1), usable: asSeconds(2 + random() * 5) };
      const harmOf = (chosen: readonly number[]): number =>
        chosen.reduce((sum, n) => sum + (stops[n]?.harm ?? 0) + 1e-3, 0);
      const best = allChoices(stops, reach).map(harmOf);
      const found = chooseStops(stops, reach);
      if (best.length === 0) {
        expect(found).toBeNull();
        const forced = stops.filter(({ pin }) => pin === 'never').length;
        if (forced < 9) expect(leastReach(stops, reach)).toBeGreaterThan(reach.usable);
      } else expect(harmOf(found ?? [])).toBeCloseTo(Math.min(...best), 6);
    }
  });
});

/** All choices of stops that keep every stretch short enough and obey the pins. */
function allChoices(
  stops: readonly Stop[],
  { start, end, usable }: { readonly start: number; readonly end: number; readonly usable: number },
): number[][] {
  const all: number[][] = [];
  for (let bits = 0; bits < 2 ** stops.length; bits += 1) {
    const chosen = stops.flatMap((_, n) => ((bits >> n) & 1 ? [n] : []));
    const obeys = stops.every(({ pin }, n) =>
      pin === null ? true : (pin === 'must') === chosen.includes(n),
    );
    const froms = [start, ...chosen.map((n) => stops[n]?.from ?? 0)];
    const tos = [...chosen.map((n) => stops[n]?.until ?? 0), end];
    if (obeys && froms.every((from, n) => (tos[n] ?? 0) - from <= usable + 1e-6)) all.push(chosen);
  }
  return all;
}

// The same sums as with notes: 32 quarters at 132 last 14.55 seconds, worked out by hand from docs/computation.md §5.
describe('air over measures without notes', () => {
  const told = scoreOfPaper({ title: null, line: '1-8 4/4', typed: [], pages: [] });
  if (!told.ok) throw new Error('the line is right');
  const score = told.value;
  const all = { fromIndex: 0, endIndex: 8 };
  const planOf = (marks: readonly BoxMark[], air: number): BreathPlan => {
    const music = toldAirMusic(score, all, marks);
    if (!music) throw new Error('no measures');
    return breathPlan(music, { pace: steadyPace(asQuarterBpm(132)), capacity: asSeconds(air) });
  };
  const mark = (index: number, beats = 0): BoxMark => ({ index, beats, isMust: false });

  it('breathes only where a place was marked, and says what is missing where none is', () => {
    const none = planOf([], 15);
    expect(none.isFeasible).toBeFalse();
    expect(none.leastCapacity).toBeCloseTo(14.545 / 0.85, 2);
    const two = planOf([mark(1), mark(3)], 15);
    expect(two.breaths.map(({ place }) => [place.measureIndex, place.kind])).toEqual([[3, 'marked place']]);
    expect(two.stretches.map(({ seconds }) => seconds.toFixed(2))).toEqual(['7.27', '7.27']);
  });

  it('counts a rest at the end of a box as silence, and breathes in it for nothing', () => {
    const plan = planOf([mark(3, 2), mark(1)], 15);
    expect(plan.breaths.map(({ place }) => [place.measureIndex, place.beat, place.kind])).toEqual([
      [3, 3, 'rest'],
    ]);
    // 14 quarters and 16, at 132.
    expect(plan.stretches.map(({ seconds }) => seconds.toFixed(2))).toEqual(['6.36', '7.27']);
    expect(plan.harm).toBe(0);
    // A rest at the very end only ends the sound sooner.
    expect(planOf([mark(7, 4)], 15).stretches[0]?.seconds.toFixed(2)).toBe('12.73');
  });
});

describe('the bow', () => {
  // A bow of five seconds at mezzo forte and of three and a half at forte: common practice, no source.
  it('is long enough or is split, on a downbeat before elsewhere', () => {
    const score = scoreOf('K:D\n!mf!(d4 | e4) | !f!f2 a2 |');
    const strokes = bowStrokes(
      score,
      { fromIndex: 0, endIndex: score.measures.length },
      steadyPace(asQuarterBpm(60)),
    );
    expect(strokes.map(({ seconds, usable, splits }) => [seconds, usable, splits])).toEqual([
      [asSeconds(8), asSeconds(5), [4]],
      [asSeconds(2), asSeconds(3.5), []],
      [asSeconds(2), asSeconds(3.5), []],
    ]);
    expect(strokes[0]?.oneBowSpeed).toBe(1.6);
  });
});
