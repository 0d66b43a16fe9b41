import { abcToMusicXml } from '../abc/index.js';
import { findingsOf, readMusic, soloLine, type MusicReading } from './index.js';
import { digestScore, readScore, type Score } from '../score/index.js';
import {
  isPaper,
  readMusicFile,
  readPaper,
  scoreOfPaper,
  writePaper,
  type PaperMusic,
} from '../paper/index.js';

const LINE = '1–8 4/4; 1 2 flats; C5; |: 1–4 :|; ♩=96';
/** Eight measures composed for this check, one string each. */
const BARS = [
  '!p!B2 d2 (fd) .B.d',
  'c4 A4',
  '(3Bcd (3cde dc BA',
  '!<(!G2 A2 B2 c2!<)!',
  '!f!d4 f4',
  '=e2 ^f2 g4',
  '(g/f/e/d/) (c/B/A/G/) F4',
  'B,8',
];
const typedFrom = (from: number, to: number): PaperMusic['typed'][number] => ({
  from: String(from),
  abc: BARS.slice(from - 1, to).join(' | '),
  clef: 'treble',
});
const scoreOf = (paper: Partial<PaperMusic>): Score => {
  const score = scoreOfPaper({ title: 'Slack Water', line: LINE, typed: [], pages: [], ...paper });
  if (!score.ok) throw new Error(score.issues[0]?.message);
  return score.value;
};
const read = (score: Score): MusicReading => readMusic(score, { instrument: 'trumpet', bpm: 96 });
const found = (score: Score): unknown =>
  findingsOf(score, soloLine(score), { reading: read(score) }).map(({ kind, title, places }) => [
    kind,
    title,
    places,
  ]);

describe('music on paper', () => {
  const digital = (): Score => {
    const [first, second] = [BARS.slice(0, 4), BARS.slice(4)].map((bars) => bars.join(' | '));
    const xml = abcToMusicXml(
      `X:1\nT:Slack Water\nM:4/4\nL:1/8\nQ:1/4=96\nK:Bb\n|: ${first} :| ${second} |]\n`,
    );
    if (!xml.ok) throw new Error(xml.issues[0]?.message);
    const score = readScore(new TextEncoder().encode(xml.value));
    if (!score.ok) throw new Error(score.issues[0]?.message);
    return score.value;
  };

  it('that is typed from end to end is read like the digital score of the same piece', () => {
    const [typed, whole] = [scoreOf({ typed: [typedFrom(1, 4), typedFrom(5, 8)] }), digital()];
    const [a, b] = [digestScore(typed), digestScore(whole)];
    expect(a.notes).toEqual(b.notes);
    expect(a.order).toEqual(b.order);
    expect(a.seconds).toEqual(b.seconds);
    expect(read(typed).demands).toEqual(read(whole).demands);
    // The letter was told and stands in no file of it: what it says of the form is all that differs.
    expect(
      found(scoreOf({ line: LINE.replace(' C5;', ''), typed: [typedFrom(1, 4), typedFrom(5, 8)] })),
    ).toEqual(found(whole));
    expect(a.measures.map(({ source }) => source)).toEqual(Array.from({ length: 8 }, () => 'typed'));
  });

  it('has notes where they were typed, and claims nothing of measures whose notes are unknown', () => {
    const score = scoreOf({ typed: [typedFrom(6, 7)] });
    expect(digestScore(score).measures.map(({ source }) => source)).toEqual([
      ...(['told', 'told', 'told', 'told', 'told', 'typed', 'typed', 'told'] as const),
    ]);
    const places = findingsOf(score, soloLine(score), { reading: read(score) }).flatMap(
      (finding) => finding.places,
    );
    expect(places.length).toBeGreaterThan(0);
    expect([...new Set(places)].filter((index) => index !== 5 && index !== 6)).toEqual([]);
    expect(read(score).demands.map(({ measure }) => measure)).toEqual(['6', '7']);
  });

  it('decides the opening by the densest place that was told', () => {
    // Sixteenths at a quarter = 132 are 4 × 132 / 60 = 8.8 notes a second.
    const { demands, deciding, opening } = readMusic(
      scoreOf({ line: '1–24 4/4; 18 sixteenths; 9-10 eighths' }),
      {
        instrument: 'clarinet',
        bpm: 132,
      },
    );
    expect(demands.map(({ measure, notesPerSecond }) => [measure, notesPerSecond])).toEqual([
      ['9', 4.4],
      ['10', 4.4],
      ['18', 8.8],
    ]);
    expect(deciding?.measure).toBe('18');
    expect(deciding?.because).toContain('8.8 notes a second, as told');
    expect(opening.because).toContain('measure 18 has 8.8 notes a second');
  });

  it('says which typed measure does not fill its meter, and where there is none to type over', () => {
    const wrong = (abc: string, from = '5'): string => {
      const score = scoreOfPaper({
        title: null,
        line: LINE,
        typed: [{ from, abc, clef: 'treble' }],
        pages: [],
      });
      return score.ok ? '' : (score.issues[0]?.message ?? '');
    };
    expect(wrong('d4 f3 | g8')).toBe('Measure 5 has 3.5 quarter notes as typed; 4/4 holds 4 quarter notes.');
    expect(wrong('d8 | f8 g2 | a8')).toBe(
      'Measure 6 has 5 quarter notes as typed; 4/4 holds 4 quarter notes.',
    );
    expect(wrong('d8', '40')).toBe('There is no measure 40; tell it first.');
    expect(wrong('d8|d8|d8|d8|d8|d8')).toBe('6 measures are typed from 5 on, but the music ends with 8.');
    expect(wrong('?!')).not.toBe('');
    // What is being typed has no end yet.
    expect(wrong('d8 | f2')).toBe('');
  });

  it('is kept as a file that reads back to the same, and is told from every other file', () => {
    const paper: PaperMusic = { title: 'Slack Water', line: LINE, typed: [typedFrom(3, 4)], pages: [] };
    const bytes = new TextEncoder().encode(writePaper(paper));
    expect(readPaper(bytes)).toEqual({ ok: true, value: paper });
    expect(readMusicFile(bytes)).toEqual({ ok: true, value: scoreOf(paper) });
    for (const other of ['', '{}', '{"format":"music on paper 2"}', '<score-partwise/>']) {
      expect(isPaper(new TextEncoder().encode(other))).toBeFalse();
      expect(readMusicFile(new TextEncoder().encode(other)).ok)
        .withContext(other)
        .toBeFalse();
    }
    const head = '{"format":"music on paper 1"';
    for (const rest of ['', ',"line":4}', ',"line":"1-8 4/4","typed":[4]}', ',"line":"jolly","typed":[]}'])
      expect(readMusicFile(new TextEncoder().encode(head + rest)).ok)
        .withContext(rest)
        .toBeFalse();
  });
});
