// Prints how well planted traps are found, as the table in docs/references.md.
import { scoreReadings } from '../core/dist/reading/testing/score-readings.js';

const STUDIES = 200;
const percent = (part, whole) => `${((100 * part) / Math.max(1, whole)).toFixed(1)} %`;
console.log(
  '| finding | recall | precision | false alarms per 16 plain measures |\n| --- | --- | --- | --- |',
);
for (const [kind, { planted, found, claimed, falseAlarms }] of Object.entries(scoreReadings(STUDIES)))
  console.log(
    `| ${kind} | ${percent(found, planted)} | ${percent(found, claimed)} | ${(falseAlarms / (STUDIES * 2)).toFixed(3)} |`,
  );
