import { cleanChanceAt, difficulty, type RepContext } from './belief.js';

/** Who says how a rep went: heard by the instructor, reported by the student, or confirmed from a take. */
export type Witness = 'instructor' | 'student' | 'take';

/** What is known of optimism before anything of a student: reports are a little rosy. Units: logits. Source: the design. */
export const OPTIMISM_PRIOR = Object.freeze({ mean: 0.3, sd: 0.5 });
/** What both heard within so many days is one pair. Source: the design. */
export const PAIR_DAYS = 3;

/** A rep as a pair takes it. Units: tempo over target; milliseconds since 1970. */
export interface WitnessedRep {
  readonly atMs: number;
  readonly share: number;
  readonly context: RepContext;
  readonly isClean: boolean;
  readonly witness: Witness;
}

/** What one passage was said to be, and what was heard, within PAIR_DAYS. */
export interface WitnessPair {
  readonly heard: readonly WitnessedRep[];
  readonly reported: readonly WitnessedRep[];
}

/** How optimistic a student's reports are. Units: logits; counts of the pairs and of their reps. */
export interface Optimism {
  readonly mean: number;
  readonly sd: number;
  readonly pairs: number;
  readonly reported: { readonly clean: number; readonly reps: number };
  readonly heard: { readonly clean: number; readonly reps: number };
}

const DAY_MS = 86_400_000;

/**
 * The pairs of a passage: what was heard on a day, with what was reported within three days of it.
 * Shape:  every rep belongs to one pair at most; in time order
 * Source: the design
 */
export function witnessPairs(reps: readonly WitnessedRep[]): WitnessPair[] {
  const heard = reps.filter(({ witness }) => witness !== 'student').sort((a, b) => a.atMs - b.atMs);
  const reported = reps.filter(({ witness }) => witness === 'student');
  const groups: WitnessedRep[][] = [];
  for (const rep of heard) {
    const last = groups.at(-1);
    if (last?.[0] && rep.atMs - last[0].atMs < DAY_MS) last.push(rep);
    else groups.push([rep]);
  }
  const taken = new Set<WitnessedRep>();
  return groups.flatMap((group) => {
    const at = group[0]?.atMs ?? 0;
    const near = reported.filter((rep) => !taken.has(rep) && Math.abs(rep.atMs - at) <= PAIR_DAYS * DAY_MS);
    for (const rep of near) taken.add(rep);
    return near.length === 0 ? [] : [{ heard: group, reported: near }];
  });
}

/** Steepness by which reps at other tempos are compared within a pair: in the middle of the model's. */
const STEEPNESS = 8;
const THETAS = Array.from({ length: 57 }, (_, n) => -7 + n * 0.25);
const OPTIMISMS = Array.from({ length: 81 }, (_, n) => -1.5 + n * 0.05);
/** Skill in a pair may be anything between far below and far above the target. */
const THETA_SD = 6;

/**
 * A student's optimism from pairs, shrunk toward what is usual in the studio.
 * Shape:  the prior without pairs
 * Units:  logits
 * Source: Bayes' rule on a grid, the skill of each pair integrated out; the prior is the design's
 */
export function optimismOf(
  pairs: readonly WitnessPair[],
  prior: { readonly mean: number; readonly sd: number } = OPTIMISM_PRIOR,
): Optimism {
  const logs = OPTIMISMS.map((optimism) => -(((optimism - prior.mean) / prior.sd) ** 2) / 2);
  for (const pair of pairs) {
    const weights = THETAS.map(
      (theta) => Math.exp(-((theta / THETA_SD) ** 2) / 2) * likelihood(pair.heard, theta),
    );
    OPTIMISMS.forEach((optimism, n) => {
      let sum = 0;
      THETAS.forEach((theta, t) => {
        sum += (weights[t] ?? 0) * likelihood(pair.reported, theta + optimism);
      });
      logs[n] = (logs[n] ?? 0) + Math.log(Math.max(1e-300, sum));
    });
  }
  const highest = Math.max(...logs);
  const chances = logs.map((log) => Math.exp(log - highest));
  const total = chances.reduce((sum, chance) => sum + chance, 0);
  const mean = OPTIMISMS.reduce((sum, optimism, n) => sum + optimism * (chances[n] ?? 0), 0) / total;
  const variance = OPTIMISMS.reduce((sum, one, n) => sum + (one - mean) ** 2 * (chances[n] ?? 0), 0) / total;
  return { mean, sd: Math.sqrt(variance), pairs: pairs.length, ...counts(pairs) };
}

function likelihood(reps: readonly WitnessedRep[], theta: number): number {
  return reps.reduce((product, { share, context, isClean }) => {
    const chance = cleanChanceAt(theta, difficulty(STEEPNESS, share, context));
    return product * (isClean ? chance : 1 - chance);
  }, 1);
}

function counts(pairs: readonly WitnessPair[]): Pick<Optimism, 'reported' | 'heard'> {
  const of = (reps: readonly WitnessedRep[]): { clean: number; reps: number } => ({
    clean: reps.filter(({ isClean }) => isClean).length,
    reps: reps.length,
  });
  return {
    reported: of(pairs.flatMap(({ reported }) => reported)),
    heard: of(pairs.flatMap(({ heard }) => heard)),
  };
}

/** Less than this is not said: it lies within what chance makes (our own). Units: logits. */
const TOLD_FROM = 0.25;

/**
 * What the instructor is told of a student's reports; never shown to the student.
 * Shape:  "" where nothing is to say
 * Source: the design
 */
export function optimismText({ mean, pairs, reported, heard }: Optimism): string {
  if (pairs === 0 || Math.abs(mean) < TOLD_FROM || reported.reps === 0 || heard.reps === 0) return '';
  const often = (of: { readonly clean: number; readonly reps: number }): number =>
    Math.round((10 * of.clean) / of.reps);
  return `Reports ${often(reported)} of 10 clean, you hear about ${often(heard)}: counted with that in mind.`;
}
