import { readFileSync } from 'node:fs';
import createVerovioModule from 'verovio/wasm';
import { enableLog, LOG_OFF, VerovioToolkit } from 'verovio/esm';
import { readMusic } from '../../core/dist/reading/index.js';
import { digestScore, readScore } from '../../core/dist/score/index.js';
import { line, median, ms, ratio, times } from './timing.mjs';

/** A study of so many measures, made of Ferry Lines over and over. */
function longStudy(measureCount) {
  const text = readFileSync(new URL('../../demo/studies/ferry-lines.musicxml', import.meta.url), 'utf8');
  const measures = text.match(/<measure [\s\S]*?<\/measure>/gu);
  const all = Array.from({ length: measureCount }, (_, n) =>
    measures[n % measures.length].replace(/number="\d+"/u, `number="${n + 1}"`),
  );
  return (
    text.slice(0, text.indexOf('<measure ')) +
    all.join('\n') +
    text.slice(text.lastIndexOf('</measure>') + '</measure>'.length)
  );
}

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
      readMusic(score, { instrument: null, bpm: null });
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
  line('Reading 64 measures, findings and demands too', ms(read64), 'promise: under 60 ms');
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
