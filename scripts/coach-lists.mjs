// What of each study's findings its coach keeps, what is noise and what is missed: the table of docs/references.md.
// "node scripts/coach-lists.mjs --all" prints every finding too.
import { judgedStudies } from '../core/dist/reading/testing/coach.js';
import { COACH_STUDIES } from '../core/dist/reading/testing/coach-studies.data.js';
import { LATER_STUDIES } from '../core/dist/reading/testing/coach-studies-2.data.js';
import { LAST_STUDIES } from '../core/dist/reading/testing/coach-studies-3.data.js';

const isLong = process.argv.includes('--all');
for (const [name, studies] of Object.entries({
  first: COACH_STUDIES,
  second: LATER_STUDIES,
  third: LAST_STUDIES,
})) {
  const judged = judgedStudies(studies);
  const sum = (of) => judged.reduce((total, one) => total + of(one), 0);
  const top = judged.flatMap(({ findings, kept }) => findings.slice(0, 5).map((one) => kept.includes(one)));
  const [told, kept] = [sum(({ findings }) => findings.length), sum((one) => one.kept.length)];
  console.log(
    `${name} set, ${studies.length} studies: ${kept} of ${told} kept (${Math.round((100 * kept) / told)} %), of the first five ${Math.round((100 * top.filter(Boolean).length) / top.length)} %, ${sum(({ missed }) => missed.length)} missed`,
  );
  for (const { name: title, findings, kept: own, missed, score } of judged) {
    if (missed.length > 0 || isLong)
      console.log(`  ${title}${missed.length > 0 ? `, missed: ${missed.join('; ')}` : ''}`);
    if (isLong)
      for (const one of findings)
        console.log(
          `    ${own.includes(one) ? '+' : '-'} ${one.kind} [${one.places.map((index) => score.measures[index].number).join(' ')}] ${one.title} ${one.sentence}`,
        );
  }
}
