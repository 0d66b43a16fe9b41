// Prints how well the sheets of the tests are read, field by field, as the table in docs/references.md.
import { scoreSheets } from '../core/dist/sheet/testing/score-sheets.js';

const sets = ['tuned', 'aside', 'fresh', 'last'].map((set) => scoreSheets(set));
const fields = [...new Set(sets.flatMap((score) => Object.keys(score.fields)))];
const cell = (score) => (score ? `${score.right}/${score.cells}` : '–');
console.log('| field | tuned | aside | fresh | last |\n| --- | --- | --- | --- | --- |');
for (const field of fields)
  console.log(`| ${field} | ${sets.map(({ fields: own }) => cell(own[field])).join(' | ')} |`);
const all = ({ fields: own }) =>
  Object.values(own).reduce(
    ({ right, cells }, one) => ({ right: right + one.right, cells: cells + one.cells }),
    {
      right: 0,
      cells: 0,
    },
  );
console.log(`| **all** | ${sets.map((score) => cell(all(score))).join(' | ')} |`);
