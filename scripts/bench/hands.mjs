import { airMusic, breathPlan, USUAL_AIR } from '../../core/dist/air/index.js';
import { handNotes, handPace, ruleAdvice, solveHands } from '../../core/dist/hands/index.js';
import { readScore } from '../../core/dist/score/index.js';
import { longStudy } from './long-study.mjs';
import { line, median, ms, ratio, times } from './timing.mjs';

const LONG = 1024;
const SHORT = 64;

/** Air and hands of 64 measures, and how they grow to 1,024: the promise is under 50 ms each, and linear. */
export async function benchHands() {
  const scores = [SHORT, LONG].map((count) => readScore(new TextEncoder().encode(longStudy(count))).value);
  const works = {
    'Breath plan': (score) => {
      const pace = handPace(score, null);
      const music = airMusic(score, { fromIndex: 0, endIndex: score.measures.length });
      return () => breathPlan(music, { pace, capacity: USUAL_AIR });
    },
    ...Object.fromEntries(
      [
        ['slide', 'trombone'],
        ['valves', 'trumpet'],
        ['fingers', 'clarinet'],
        ['sticking', 'marimba'],
        ['bow', 'violin'],
        ['strings', 'violin'],
      ].map(([solver, instrument]) => [
        `Hands: ${solver}`,
        (score) => {
          const notes = notesOf(score);
          return () => solveHands(solver, notes, { score, instrument });
        },
      ]),
    ),
    'Rule book': (score) => {
      const notes = notesOf(score);
      return () => ruleAdvice(notes, 'saxophone');
    },
  };
  for (const [name, workOf] of Object.entries(works)) {
    const [short, long] = await Promise.all(scores.map(workOf));
    const own = median(await times(20, short));
    const grown = median(await times(3, long));
    line(`${name}, ${SHORT} measures`, ms(own), 'promise: under 50 ms');
    line(`  ${LONG} measures against ${LONG / SHORT} times that`, ratio(grown / (own * (LONG / SHORT))));
  }
}

function notesOf(score) {
  return handNotes(score, { fromIndex: 0, endIndex: score.measures.length }, handPace(score, null));
}
