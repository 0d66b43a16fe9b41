import fc from 'fast-check';
import { zipSync } from 'fflate';
import { readScore, SCORE_LIMITS } from './index.js';
import { bytesOf, head, measure, metronome, note, partwise, solo } from './testing/music-xml.js';

const plain = solo(measure('1', head() + metronome('quarter', '60') + note('C4', 16)));

const outcome = (bytes: Uint8Array): string => {
  const read = readScore(bytes);
  if (read.ok) return 'read';
  return read.issues.length === 1 && (read.issues[0]?.message.length ?? 0) > 20
    ? (read.issues[0]?.code ?? '')
    : 'no sentence';
};

function packed(entries: Readonly<Record<string, string | Uint8Array>>): Uint8Array {
  return zipSync(
    Object.fromEntries(
      Object.entries(entries).map(([name, content]) => [
        name,
        typeof content === 'string' ? bytesOf(content) : content,
      ]),
    ),
  );
}

const container = (path: string): string =>
  `<container><rootfiles><rootfile full-path="${path}"/></rootfiles></container>`;

describe('a score file that is not what it should be', () => {
  const bomb = `<!DOCTYPE score-partwise [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>`;
  const external = '<!DOCTYPE score-partwise [<!ENTITY secret SYSTEM "file:///etc/hostname">]>';
  const doctype =
    '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">';
  const flute = (content: string): string =>
    partwise({ P1: { name: 'Flute', measures: measure('1', head() + content) } });
  const withDoctype = (type: string): string =>
    partwise({ P1: { name: 'Flute', measures: measure('1', head() + note('C4', 16)) } }, type);

  const cases: readonly (readonly [string, string, () => Uint8Array])[] = [
    ['a plain file', 'read', () => bytesOf(plain)],
    ['a document type line, which is never fetched', 'read', () => bytesOf(withDoctype(doctype))],
    ['an entity bomb', 'score-hostile', () => bytesOf(withDoctype(bomb))],
    ['an external entity', 'score-hostile', () => bytesOf(withDoctype(external))],
    ['an undefined entity', 'score-broken-xml', () => bytesOf(plain.replace('Flute', '&nothing;'))],
    ['an empty file', 'score-empty', () => new Uint8Array()],
    ['a picture', 'score-not-xml', () => Uint8Array.of(0x47, 0x49, 0x46, 0x38, 1, 2)],
    ['text that is no markup', 'score-not-xml', () => bytesOf('dear sir or madam')],
    ['a web page', 'score-not-music', () => bytesOf('<html><body/></html>')],
    ['a file cut short', 'score-broken-xml', () => bytesOf(plain.slice(0, -40))],
    ['a file over the size limit', 'score-too-large', () => new Uint8Array(SCORE_LIMITS.fileBytes + 1)],
    ['nesting without end', 'score-hostile', () => bytesOf(`<score-partwise>${'<x>'.repeat(2000)}`)],
    [
      'one note with endless children',
      'score-hostile',
      () => bytesOf(flute(`<note>${'<dot/>'.repeat(10_000)}</note>`)),
    ],
    ['divisions of 0', 'score-timing', () => bytesOf(plain.replace('<divisions>4<', '<divisions>0<'))],
    ['a negative duration', 'score-timing', () => bytesOf(plain.replace('<duration>16<', '<duration>-16<'))],
    [
      'a duration before any divisions',
      'score-timing',
      () => bytesOf(plain.replace('<divisions>4</divisions>', '')),
    ],
    [
      'a backup to before the bar line',
      'score-timing',
      () => bytesOf(flute('<backup><duration>4</duration></backup>')),
    ],
    ['no part at all', 'score-no-parts', () => bytesOf('<score-partwise/>')],
    [
      'a part without a note',
      'score-no-notes',
      () => bytesOf(flute('<note><rest/><duration>16</duration></note>')),
    ],
    ['a packed file', 'read', () => packed({ 'META-INF/container.xml': container('s.xml'), 's.xml': plain })],
    ['a packed file without a container', 'read', () => packed({ 'score.musicxml': plain })],
    [
      'a packed file whose container points to nothing',
      'score-archive',
      () => packed({ 'META-INF/container.xml': container('../../etc/hostname'), 's.xml': plain }),
    ],
    ['a packed file cut short', 'score-archive', () => packed({ 's.xml': plain }).slice(0, 60)],
    [
      'a zip bomb',
      'score-hostile',
      () => packed({ 's.xml': new Uint8Array(SCORE_LIMITS.unpackedBytes / 2) }),
    ],
    [
      'an archive of thousands of files',
      'score-hostile',
      () => packed(Object.fromEntries(Array.from({ length: 1000 }, (_, n) => [`a${n}.txt`, 'x']))),
    ],
    ['UTF-16 with a byte order mark', 'read', () => utf16(`\uFEFF${plain.replace('UTF-8', 'UTF-16')}`)],
    [
      'Latin-1 that says so',
      'read',
      () =>
        Uint8Array.from(plain.replace('UTF-8', 'ISO-8859-1').replace('Flute', 'Fl\u00fbte'), (letter) =>
          letter.charCodeAt(0),
        ),
    ],
    [
      'UTF-8 that is none',
      'score-encoding',
      () => Uint8Array.from(plain.replace('Flute', 'Fl\u00fbte'), (letter) => letter.charCodeAt(0)),
    ],
    ['an encoding we do not read', 'score-encoding', () => bytesOf(plain.replace('UTF-8', 'EBCDIC-US'))],
  ];
  for (const [what, expected, make] of cases) {
    it(`${expected === 'read' ? 'reads' : 'refuses with one sentence'} ${what}`, () => {
      expect(outcome(make())).toBe(expected);
    });
  }

  it('gives a result or one sentence for any damaged byte', () => {
    const source = bytesOf(plain);
    const damage = fc.array(fc.tuple(fc.nat(source.length - 1), fc.nat(255)), { minLength: 1, maxLength: 8 });
    const survives = fc.property(damage, (changes) => {
      const bytes = Uint8Array.from(source);
      for (const [at, value] of changes) bytes[at] = value;
      return outcome(bytes) !== 'no sentence';
    });
    expect(() => fc.assert(survives, { numRuns: 400 })).not.toThrow();
  });
});

function utf16(text: string): Uint8Array {
  return new Uint8Array(Uint16Array.from(text, (letter) => letter.charCodeAt(0)).buffer);
}
