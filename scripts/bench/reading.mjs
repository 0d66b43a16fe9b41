import createVerovioModule from 'verovio/wasm';
import { enableLog, LOG_OFF, VerovioToolkit } from 'verovio/esm';
import { suggestPassages } from '../../core/dist/passages/index.js';
import {
  engravedNotes,
  findingsOf,
  measureFacts,
  measurePrints,
  readMusic,
  soloLine,
} from '../../core/dist/reading/index.js';
import { digestScore, readScore } from '../../core/dist/score/index.js';
import { longStudy } from './long-study.mjs';
import { line, median, ms, ratio, times } from './timing.mjs';

/** Reading a score against the reference engine's load and timemap of the same file. */
export async function benchReading() {
  const module = await createVerovioModule();
  enableLog(LOG_OFF, module);
  const toolkit = new VerovioToolkit(module);
  const small = longStudy(64);
  const large = longStudy(1024);
  const bytes = (text) => new TextEncoder().encode(text);
  const ours = (text) => {
    const file = bytes(text);
    return () => {
      const score = readScore(file).value;
      digestScore(score);
      const solo = soloLine(score);
      const reading = readMusic(score, { instrument: null, bpm: null });
      findingsOf(score, solo, { reading });
      measureFacts(score, solo, { reading, bpm: null });
      measurePrints(score, solo);
      engravedNotes(score, solo);
      suggestPassages(score, solo, { reading, range: { fromIndex: 0, endIndex: score.measures.length } });
    };
  };
  const read64 = median(await times(30, ours(small)));
  const read1024 = median(await times(8, ours(large)));
  const theirs = median(
    await times(8, () => {
      toolkit.loadData(small);
      toolkit.renderToTimemap();
    }),
  );
  line('Reading 64 measures: findings, demands, facts, passages', ms(read64), 'promise: under 60 ms');
  line(
    '  against Verovio load + timemap of the same file',
    ratio(read64 / theirs),
    `Verovio ${ms(theirs)}; at most 1×`,
  );
  line(
    'Reading 1,024 measures against 64',
    ratio(read1024 / read64),
    `${ms(read1024)}; 16× is linear, at most 20×`,
  );
}
