import { readFileSync } from 'node:fs';
import { readScore, type Score } from '../../score/index.js';
import { bytesOf } from '../../score/testing/music-xml.js';
import { readMusic, type MusicReading } from '../index.js';

/** Forty studies, by their seeds. */
export const SEEDS = Array.from({ length: 40 }, (_, n) => n + 1);

/** What is read of a score, by a clarinet unless said. */
export function reading(
  score: Score,
  instrument: string | null = 'clarinet',
  bpm: number | null = null,
): MusicReading {
  return readMusic(score, { instrument, bpm });
}

/** A score of core/testdata. */
export function fileOf(name: string): Score {
  const read = readScore(readFileSync(new URL(`../../../testdata/${name}`, import.meta.url)), {
    partId: null,
  });
  if (!read.ok) throw new Error(name);
  return read.value;
}

/** A score written in a spec. */
export function scoreOfXml(xml: string): Score {
  const read = readScore(bytesOf(xml), { partId: null });
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join(' '));
  return read.value;
}

/** Share of seeds on which a plant was found. */
export function recall(find: (seed: number) => boolean): number {
  return SEEDS.filter((seed) => find(seed)).length / SEEDS.length;
}
