import { seededRandom } from '../base/index.js';
import { COACH_STUDIES } from '../reading/testing/coach-studies.data.js';
import { LATER_STUDIES } from '../reading/testing/coach-studies-2.data.js';
import { LAST_STUDIES } from '../reading/testing/coach-studies-3.data.js';
import { scoreOfStudy } from '../reading/testing/coach.js';
import { asQuarterBpm } from '../music/index.js';
import { instrumentProfile, steadyPace, wholePace } from '../reading/index.js';
import { askedMusic } from './follow/asked-notes.js';
import { readTake } from './index.js';
import { perform, plainly } from './testing/performer.js';
import { quantile, startErrors, tempoErrors, type Rehearsal } from './testing/rehearsal.js';
import { rehearsing, rolled, stopsFound, waysBackFound } from './testing/rehearsing.js';
import { sampled } from './testing/sampled.js';

// Bounds are those that the design sets. The instruments are FluidSynth's, with a sound font and a room that are not ours;
// the seed was chosen before anything was read with it, and what is missed stays in the denominator.

const SEED = 20_261_201;
const STUDIES = [...COACH_STUDIES, ...LATER_STUDIES, ...LAST_STUDIES];

/** A study as somebody rehearses it: every second one with slips. Errors: throws where the take is refused */
function rehearsed(at: number): Rehearsal {
  const study = STUDIES[at];
  if (!study) throw new Error(`There is no study ${at}.`);
  const score = scoreOfStudy(study);
  const random = seededRandom(SEED + at);
  const pace = wholePace(score, null) ?? steadyPace(asQuarterBpm(96));
  const music = askedMusic(score, { spans: [], withRepeats: true, pace });
  const manner = { ...plainly(96), ...rehearsing(music, random, { withSlips: at % 2 === 0 }) };
  const truth = perform(music, manner, random);
  const isStruck = ['drums', 'mallets'].includes(instrumentProfile(study.instrument).family);
  const sound = sampled(isStruck ? rolled(truth, music, random) : truth.played, study.instrument);
  const read = readTake(sound, score, { withRepeats: true, bpm: null });
  if (!read.ok) throw new Error(`${study.name}: ${read.issues[0]?.message}`);
  return { music, truth, sound, read: read.value };
}

describe('takes of sampled instruments', () => {
  const all: { readonly name: string; readonly take: Rehearsal }[] = [];
  const missedBy = (found: (take: Rehearsal) => readonly boolean[]): string[] =>
    all.flatMap(({ name, take }) =>
      found(take)
        .filter((isFound) => !isFound)
        .map(() => name),
    );

  beforeAll(() => {
    for (const [at, { name, instrument }] of STUDIES.entries())
      all.push({ name: `${name} (${instrument})`, take: rehearsed(at) });
  });

  it('have their notes where they began', () => {
    const errors = all.flatMap(({ take }) => startErrors(take)).sort((a, b) => a - b);
    expect(quantile(errors, 0.5)).toBeLessThanOrEqual(0.02);
    expect(quantile(errors, 0.9)).toBeLessThanOrEqual(0.08);
  });

  it('have 90 % of their measures within 1.5 % of their tempo and 97 % within 3 %', () => {
    const errors = all.flatMap(({ take }) => tempoErrors(take));
    expect(errors.filter((error) => error <= 0.015).length / errors.length).toBeGreaterThanOrEqual(0.9);
    expect(errors.filter((error) => error <= 0.03).length / errors.length).toBeGreaterThanOrEqual(0.97);
  });

  it('have every stop of more than a second', () => {
    expect(missedBy(stopsFound)).toEqual([]);
  });

  it('have every way back, up to where it can first be heard', () => {
    expect(missedBy(waysBackFound)).toEqual([]);
  });

  it('have three of five wrong and missing notes, and at most one slip a minute that was none', () => {
    let [found, played, invented, seconds] = [0, 0, 0, 0];
    for (const { take } of all) {
      const { truth, read } = take;
      seconds += read.seconds;
      const slips = truth.slips.filter(({ kind }) => kind !== 'added');
      played += slips.length;
      found += slips.filter(({ asked, kind }) =>
        read.slips.some((told) => told.asked === asked && told.kind === kind),
      ).length;
      invented += read.slips.filter(
        (told) =>
          !truth.slips.some(
            ({ asked, seconds: at }) => told.asked === asked || Math.abs(told.seconds - at) < 0.4,
          ),
      ).length;
    }
    expect(found / played).toBeGreaterThanOrEqual(0.6);
    expect(invented).toBeLessThanOrEqual(Math.ceil(seconds / 60));
  });
});
