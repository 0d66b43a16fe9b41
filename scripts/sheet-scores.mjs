// Prints how well the sheets of the tests are read, field by field, as the tables in docs/references.md.
import { f1Of, scoreSheets, sheetNames } from '../core/dist/sheet/testing/score-sheets.js';

const names = ['layouts', 'unseen', 'tuned', 'aside', 'fresh', 'last'];
const sets = names.map((set) => scoreSheets(set));
const head = (first, columns) =>
  `| ${[first, ...columns].join(' | ')} |\n| ${Array(columns.length + 1)
    .fill('---')
    .join(' | ')} |`;
const sum = ({ fields }, pick) => Object.values(fields).reduce((all, one) => all + one[pick], 0);

console.log(head('set', ['sheets', 'F1', 'right', 'false', 'missed', 'invented']));
for (const [n, score] of sets.entries()) {
  const counts = ['right', 'false', 'missed'].map((pick) => sum(score, pick));
  console.log(
    `| ${[names[n], sheetNames(names[n]).length, f1Of(score).toFixed(3), ...counts, score.invented].join(' | ')} |`,
  );
}
const cell = (score) => (score ? `${score.right}/${score.right + score.missed}${wrong(score)}` : '–');
const wrong = ({ false: count }) => (count > 0 ? `, ${count} false` : '');
console.log(`\n${head('field', names)}`);
for (const field of [...new Set(sets.flatMap(({ fields }) => Object.keys(fields)))])
  console.log(`| ${field} | ${sets.map(({ fields }) => cell(fields[field])).join(' | ')} |`);
