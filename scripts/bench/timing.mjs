import { existsSync, readFileSync, writeFileSync } from 'node:fs';

/** Runs work several times after a warm-up and gives the milliseconds, sorted. */
export async function times(runs, work) {
  for (let n = 0; n < Math.min(5, runs); n += 1) await work(n);
  const all = [];
  for (let n = 0; n < runs; n += 1) {
    const start = performance.now();
    await work(n + 5);
    all.push(performance.now() - start);
  }
  return all.sort((a, b) => a - b);
}

export const median = (sorted) => sorted[Math.floor(sorted.length / 2)];
export const p95 = (sorted) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * 0.95))];
export const ms = (value) => `${value.toFixed(value < 10 ? 2 : 1)} ms`;
export const ratio = (value) => `${value.toFixed(2)}×`;

/** The ratios of the last run that was kept, by name: docs/bench.json. */
const KEPT = new URL('../../docs/bench.json', import.meta.url);
const before = existsSync(KEPT) ? JSON.parse(readFileSync(KEPT, 'utf8')) : { commit: null, ratios: {} };
const now = {};

/** Prints one measurement; a ratio with the one of the commit before. */
export function line(what, value, note = '') {
  const name = what.trim();
  const isRatio = value.endsWith('×');
  if (isRatio) now[name] = value;
  const was = isRatio && before.ratios[name] ? ` (${before.commit}: ${before.ratios[name]})` : '';
  console.log(`${what.padEnd(58)} ${value.padStart(10)}${was}  ${note}`);
}

/** Keeps the ratios of this run as those to compare with, under the commit they were measured on. */
export function keep(commit) {
  writeFileSync(KEPT, `${JSON.stringify({ commit, ratios: now }, null, 2)}\n`);
}
