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
export const line = (what, value, note = '') =>
  console.log(`${what.padEnd(58)} ${value.padStart(10)}  ${note}`);
