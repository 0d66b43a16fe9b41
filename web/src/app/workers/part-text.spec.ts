import { firstMeasures, onlyPart, withNumbers, withoutNames, withTempoGap } from './part-text';

/** A file of two parts, as MusicXML 4.0 writes them: parts one after the other, measures inside. */
const file = (measures: number): string => {
  const part = (id: string): string =>
    `<part id="${id}">${Array.from({ length: measures }, (_, n) => `<measure number="${n + 1}" width="90"><note/></measure>`).join('')}</part>`;
  return `<score-partwise version="4.0"><part-list><part-group type="start" number="1"><group-symbol>brace</group-symbol></part-group><score-part id="P1"><part-name print-object="no">Flute</part-name><part-name-display><display-text>Fl.</display-text></part-name-display><part-abbreviation>Fl.</part-abbreviation></score-part><score-part id="P10"><part-name>Piano</part-name></score-part><part-group type="stop" number="1"/></part-list>${part('P1')}${part('P10')}</score-partwise>`;
};
const count = (text: string, sign: RegExp): number => text.match(sign)?.length ?? 0;
const isWellFormed = (text: string): boolean =>
  new DOMParser().parseFromString(text, 'application/xml').querySelector('parsererror') === null;

describe('the text of a part for the engine', () => {
  it('is one part alone, whatever stood beside it', () => {
    const own = onlyPart(file(3), 'P10');
    expect(own).toContain('Piano');
    expect(own).not.toContain('Flute');
    expect(own).not.toContain('part-group');
    expect(count(own, /<measure\b/gu)).toBe(3);
    expect(isWellFormed(own)).toBeTrue();
    expect(onlyPart('X:1\nK:C\nCDEF|', 'P1')).toBe('X:1\nK:C\nCDEF|');
  });

  it('carries the numbers the instructor counts by, and nothing that could leave the attribute', () => {
    const numbered = withNumbers(onlyPart(file(3), 'P1'), ['22', '22"A<', '23']);
    expect([...numbered.matchAll(/number="([^"]*)" width/gu)].map(([, number]) => number)).toEqual([
      '22',
      '22A',
      '23',
    ]);
    expect(isWellFormed(numbered)).toBeTrue();
  });

  it('names nobody in an excerpt', () => {
    const nameless = withoutNames(onlyPart(file(1), 'P1'));
    expect(nameless).not.toMatch(/Flute|Fl\./u);
    // MusicXML 4.0 wants a part-name in every score-part.
    expect(nameless).toContain('<part-name></part-name>');
    expect(isWellFormed(nameless)).toBeTrue();
  });

  it('keeps a tempo’s words off its note', () => {
    const mark =
      '<direction-type><words>Lively </words></direction-type> <direction-type><metronome/></direction-type>';
    expect(withTempoGap(mark)).toContain('Lively\u00a0\u00a0</words>');
  });

  it('begins with as many measures as asked, closed as it was', () => {
    const head = firstMeasures(onlyPart(file(9), 'P1'), 4) ?? '';
    expect(count(head, /<measure\b/gu)).toBe(4);
    expect(head).toContain('number="4"');
    expect(head).not.toContain('number="5"');
    expect(isWellFormed(head)).toBeTrue();
  });

  it('has no beginning of its own where it is short, or more than one part', () => {
    expect(firstMeasures(onlyPart(file(4), 'P1'), 4)).toBeNull();
    expect(firstMeasures(file(9), 4)).toBeNull();
    expect(firstMeasures('X:1\nK:C\nCDEF|', 4)).toBeNull();
  });
});
