/**
 * One part of a file, without the others.
 * Shape:  MusicXML by parts in and out; any other text as it came
 */
export function onlyPart(musicXml: string, partId: string): string {
  if (!musicXml.includes('<score-partwise')) return musicXml;
  const keep = (whole: string, id: string): string => (id === partId ? whole : '');
  return musicXml
    .replace(/<score-part\s+id="([^"]*)"[\s\S]*?<\/score-part>/gu, keep)
    .replace(/<part\s+id="([^"]*)"\s*>[\s\S]*?<\/part>/gu, keep)
    .replace(/<part-group\b[^>]*\/>|<part-group\b[\s\S]*?<\/part-group>/gu, '');
}

/** An excerpt says by its caption whose it is. */
export function withoutNames(musicXml: string): string {
  return musicXml.replace(
    /<part-(name|abbreviation)(-display)?\b[^>]*>[\s\S]*?<\/part-\1\2>/gu,
    (whole, kind) => (kind === 'name' && !whole.startsWith('<part-name-d') ? '<part-name></part-name>' : ''),
  );
}

/** Measures are numbered as the instructor counts them. */
export function withNumbers(musicXml: string, numbers: readonly string[] | null): string {
  if (numbers === null) return musicXml;
  let at = -1;
  return musicXml.replace(/(<measure\b[^>]*?\bnumber=")[^"]*"/gu, (whole, before: string) => {
    at += 1;
    const number = numbers[at];
    return number === undefined ? whole : `${before}${number.replace(/[^\w.-]/gu, '')}"`;
  });
}

/** The engine sets the note of a tempo right after its words: some room goes between. */
export function withTempoGap(musicXml: string): string {
  const meeting =
    /(<words\b[^>]*>[^<]*?)\s*(<\/words>\s*<\/direction-type>\s*<direction-type>\s*<metronome\b)/gu;
  return musicXml.replace(meeting, '$1\u00a0\u00a0$2');
}

/**
 * The beginning of a file of one part.
 * Shape:  null where the file has no more than `count` measures, or more parts than one
 */
export function firstMeasures(musicXml: string, count: number): string | null {
  const end = musicXml.lastIndexOf('</part>');
  if (end < 0 || musicXml.indexOf('</part>') !== end) return null;
  const begins = /<measure\b/gu;
  for (let n = 0; n <= count; n += 1) {
    const begin = begins.exec(musicXml);
    if (!begin) return null;
    if (n === count) return musicXml.slice(0, begin.index) + musicXml.slice(end);
  }
  return null;
}
