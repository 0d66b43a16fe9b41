import { readFileSync } from 'node:fs';

/** A study of so many measures, made of Ferry Lines over and over. */
export function longStudy(measureCount) {
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
