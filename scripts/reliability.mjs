// Prints the reliability table of docs/references.md: what is stated of a clean run, and how often it is true, by kinds of
// learner. Needs a built core: npm run build:node.
import {
  forecastsOf,
  KINDS,
  ownLearner,
  reliability,
  calibrationError,
} from '../core/dist/readiness/testing/studies.js';

const kinds = [['the model’s own', ownLearner], ...KINDS];
const bins = Array.from({ length: 10 }, (_, n) => n / 10);
process.stdout.write(
  `| learner | ${bins.map((from) => `${from * 100}–${from * 100 + 10} %`).join(' | ')} | off by | inside |\n`,
);
process.stdout.write(`| --- | ${bins.map(() => '---').join(' | ')} | --- | --- |\n`);
for (const [name, make] of kinds) {
  const forecasts = forecastsOf(make, 20261128);
  const rows = new Map(reliability(forecasts).map((row) => [row.from, row]));
  const cells = bins.map((from) => {
    const row = rows.get(from);
    return row ? `${(row.true * 100).toFixed(0)} (${row.count})` : '';
  });
  const inside = forecasts.filter(({ isInside }) => isInside).length / forecasts.length;
  process.stdout.write(
    `| ${name} | ${cells.join(' | ')} | ${calibrationError(forecasts).toFixed(3)} | ${(inside * 100).toFixed(0)} % |\n`,
  );
}
