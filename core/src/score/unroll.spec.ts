import fc from 'fast-check';
import { digestScore, parseSpan, readScore, resolveSpan } from './index.js';
import { bytesOf, head, measure, note, solo } from './testing/music-xml.js';

/** A piece from one token a measure; the signs are MusicXML's own elements. */
function orderOf(text: string): string {
  const measures = text
    .trim()
    .split(/\s+/u)
    .map((token, n) => {
      const left = [
        token.includes('[') ? `<ending number="${/\[([\d,]+)/u.exec(token)?.[1] ?? '1'}" type="start"/>` : '',
        token.includes('|:') ? '<repeat direction="forward"/>' : '',
      ].join('');
      const right = [
        token.includes(']') ? '<ending number="1" type="stop"/>' : '',
        token.includes(':|')
          ? `<repeat direction="backward"${token.includes(':|3') ? ' times="3"' : ''}/>`
          : '',
      ].join('');
      const sound = Object.entries({ segno: '$', coda: 'K', tocoda: 'T', fine: 'F' })
        .filter(([, sign]) => token.includes(sign))
        .map(([name, sign]) => ` ${name}="${sign}"`)
        .join('');
      const jump = token.includes('DC') ? ' dacapo="yes"' : token.includes('DS') ? ' dalsegno="$"' : '';
      return measure(
        String(n + 1),
        `${left && `<barline location="left">${left}</barline>`}${n === 0 ? head() : ''}${note('C4', 16)}${sound + jump && `<sound${sound}${jump}/>`}${right && `<barline location="right">${right}</barline>`}`,
      );
    });
  const read = readScore(bytesOf(solo(measures.join(''))));
  return read.ok
    ? digestScore(read.value)
        .order.map((index) => index + 1)
        .join(' ')
    : (read.issues[0]?.message ?? '');
}

// Orders written out by hand from the MusicXML 4.0 meaning of each sign and from how players read them.
describe('the order of playing', () => {
  const cases: readonly (readonly [string, string, string])[] = [
    ['no signs', '. . .', '1 2 3'],
    ['a repeat from the beginning', '. .:| .', '1 2 1 2 3'],
    ['a repeat between signs', '. |:. .:| .', '1 2 3 2 3 4'],
    ['two repeats in a row', '.:| |:. .:|', '1 1 2 3 2 3'],
    ['a second repeat without its forward sign', '. .:| . .:|', '1 2 1 2 3 4 3 4'],
    ['a repeat played three times', '|:. .:|3', '1 2 1 2 1 2'],
    ['first and second ending', '|:. [1.]:| [2.] .', '1 2 1 3 4'],
    ['first ending of two measures', '|:. [1. .]:| [2.] .', '1 2 3 1 4 5'],
    ['one ending for two passes', '|:. [1,2.]:| [3.] .', '1 2 1 2 1 3 4'],
    ['a new repeat after endings', '|:. [1.]:| [2.] . .:|', '1 2 1 3 4 5 4 5'],
    ['D.C. al Fine', '. .F .DC', '1 2 3 1 2'],
    ['D.S. al Fine', '. .$ .F .DS', '1 2 3 4 2 3'],
    ['D.C. al Coda', '. .T .DC .K', '1 2 3 1 2 4'],
    ['D.S. al Coda', '. .$ .T .DS .K .', '1 2 3 4 2 3 5 6'],
    ['repeats are not taken again after D.C.', '|:. .:| .F .DC', '1 2 1 2 3 4 1 2 3'],
    ['the last ending is played after D.C.', '|:. [1.]:| [2.] .F .DC', '1 2 1 3 4 5 1 3 4'],
    ['Fine and coda signs mean nothing before the jump', '.T .F .', '1 2 3'],
    ['a jump to a sign that is missing', '. .DS .', '1 2 3'],
  ];
  for (const [what, signs, expected] of cases) {
    it(`plays ${what}: ${signs}`, () => {
      expect(orderOf(signs)).toBe(expected);
    });
  }

  it('ends for any row of signs, and begins at the first measure', () => {
    const token = fc
      .array(fc.constantFrom('|:', ':|', ':|3', '[1', '[2', ']', '$', 'K', 'T', 'F', 'DC', 'DS'), {
        maxLength: 4,
      })
      .map((signs) => `.${signs.join('')}`);
    const ends = fc.property(fc.array(token, { minLength: 1, maxLength: 12 }), (tokens) => {
      const order = orderOf(tokens.join(' '));
      return /^\d+( \d+)*$/u.test(order) && order.split(' ').length <= 40_000;
    });
    expect(() => fc.assert(ends, { numRuns: 150 })).not.toThrow();
  });
});

describe('spans', () => {
  const measures = ['0', '1', '2', '22A', '23'].map((number) => ({ number, implicit: number === '0' }));
  const resolve = (text: string): string => {
    const span = parseSpan(text);
    if (!span.ok) return span.issues[0]?.code ?? '';
    const found = resolveSpan(measures, span.value);
    return found.ok ? `${found.value.fromIndex}..${found.value.endIndex}` : (found.issues[0]?.message ?? '');
  };

  it('are typed as people type them', () => {
    for (const text of ['1–2', '1-2', ' 1 to 2', 'mm. 1–2', 'm.1-2', 'bars 1 to 2', 'Measures 1 − 2'])
      expect(resolve(text)).withContext(text).toBe('1..3');
    expect(resolve('22a')).toBe('3..4');
  });

  it('outside the piece or backwards are refused with the numbers that exist', () => {
    expect(resolve('1–30')).toBe('This piece has measures 1 to 23; 30 is not one of them.');
    expect(resolve('23–1')).toContain('backwards');
    expect(resolve('the loud bit')).toBe('span-unreadable');
  });
});
