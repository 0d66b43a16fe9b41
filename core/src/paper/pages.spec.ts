import { readFileSync } from 'node:fs';
import { drawnPage, pageEngraver } from '../page/testing/engraved-page.js';
import { readPage } from '../page/index.js';
import { digestScore, readScore, type MeasureDigest, type Score } from '../score/index.js';
import {
  boxesOf,
  boxesOfDraft,
  clashesOf,
  layoutOf,
  measureDifference,
  numberRuns,
  readPaper,
  readToldLine,
  rowsOfPages,
  scoreOfPaper,
  toldAfter,
  toldAt,
  toldFields,
  toldOfScore,
  withBar,
  withBarKind,
  withBarMoved,
  withCount,
  withCounted,
  withFirst,
  withLineAdded,
  withLineOut,
  withoutBar,
  withRegionOut,
  withToldAt,
  writePaper,
  lineOfFields,
  type PaperDraft,
  type PaperPage,
  type ToldAtKind,
} from './index.js';

const PICTURE = '0190a000-0000-7000-8000-000000000001';
const bar = (x: number): PaperPage['lines'][number]['bars'][number] => ({
  ...{ x, kind: 'single', count: 1, isDoubtful: false, asksCount: false },
});
/** Two lines of four boxes. */
const PAGES: readonly PaperPage[] = [
  {
    ...{ picture: PICTURE, width: 1700, height: 2200 },
    lines: [
      [0.2, 0.24],
      [0.4, 0.44],
    ].map(([top = 0, bottom = 0]) => ({
      ...{ left: 0.1, right: 0.9, top: [top, top], bottom: [bottom, bottom] },
      ...{ bars: [0.3, 0.5, 0.7, 0.9].map(bar), first: null, isOut: false },
    })),
  },
];
const numbers = (pages: readonly PaperPage[], start = 1): number[] =>
  boxesOf(pages, start).map(({ number }) => number);
const draft = (line: string, pages = PAGES): PaperDraft => {
  const { music } = readToldLine(line);
  if (!music) throw new Error(line);
  return { fields: toldFields(music), pages };
};
const lineAfter = (before: PaperDraft, pages: readonly PaperPage[], fields = before.fields): string =>
  lineOfFields(toldAfter(before, { fields, pages }));

describe('boxes on a page', () => {
  it('are numbered in the order of reading, rests of many measures and lines that say their number counted in', () => {
    expect(numbers(PAGES)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(numbers(withCount(PAGES, { page: 0, line: 0, box: 1 }, 6))).toEqual([1, 2, 8, 9, 10, 11, 12, 13]);
    expect(numbers(withFirst(PAGES, { page: 0, line: 1 }, 12), 0)).toEqual([0, 1, 2, 3, 12, 13, 14, 15]);
    expect(numbers(withLineOut(PAGES, { page: 0, line: 0 }, true), 17)).toEqual([17, 18, 19, 20]);
    const region = { left: 0, right: 1, top: 0.39, bottom: 0.5 };
    expect(numbers(withRegionOut(PAGES, 0, region))).toEqual([1, 2, 3, 4]);
  });

  it('say where a printed number speaks against the bar lines before it', () => {
    expect(clashesOf(withFirst(PAGES, { page: 0, line: 1 }, 4))).toEqual([
      { page: 0, line: 1, first: 4, before: 4 },
    ]);
    expect(clashesOf(withFirst(PAGES, { page: 0, line: 1 }, 5))).toEqual([]);
  });

  it('are corrected by one action each, whose opposite gives back what was', () => {
    const first = { page: 0, line: 0, box: 0 };
    const split = withBar(PAGES, first, 0.2);
    expect(
      boxesOf(split)
        .map(({ left, right }) => [left, right])
        .slice(0, 3),
    ).toEqual([
      [0.1, 0.2],
      [0.2, 0.3],
      [0.3, 0.5],
    ]);
    expect(withoutBar(split, first)).toEqual(PAGES);
    // A bar line stays between its neighbours, and on top of another there is none.
    expect(withBarMoved(PAGES, { ...first, box: 1 }, 0.95)[0]?.lines[0]?.bars[1]?.x).toBeCloseTo(0.696, 5);
    expect(withBar(PAGES, first, 0.3001)).toEqual(PAGES);
    expect(numbers(withCounted(PAGES, 0, '5 3') ?? [])).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(withCounted(PAGES, 0, '4 4')).toEqual(PAGES);
    for (const wrong of ['4 4 4', '', 'four', '0 4', '4 99']) expect(withCounted(PAGES, 0, wrong)).toBeNull();
    const added = withLineAdded(PAGES, 0, { left: 0.1, right: 0.9, top: 0.3, bottom: 0.33 });
    expect(added[0]?.lines.map(({ top }) => top[0])).toEqual([0.2, 0.3, 0.4]);
  });
});

describe('what is told of pages', () => {
  it('takes its measures from the boxes, and what was told of a place stays at the place', () => {
    const before = draft('1–8 4/4; C5; 6 2 flats; ♩=96; 7 sixteenths');
    expect(lineAfter(before, withBar(PAGES, { page: 0, line: 0 }, 0.2))).toBe(
      '1–9 4/4; C6; 7 2 flats; ♩=96; 8 sixteenths',
    );
    expect(lineAfter(before, withoutBar(PAGES, { page: 0, line: 0, box: 2 }))).toBe(
      '1–7 4/4; C4; 5 2 flats; ♩=96; 6 sixteenths',
    );
    const pickup = { ...before.fields, pickup: 'pickup 1/4' };
    expect(lineAfter(before, PAGES, pickup)).toBe('1–7 4/4; pickup 1/4; C4; 5 2 flats; ♩=96; 6 sixteenths');
  });

  it('takes its repeats from the bar lines, and keeps the endings that were told of them', () => {
    const place = { page: 0, line: 0, box: 1 };
    const start = withBarKind(PAGES, place, 'repeat-start');
    const pages = withBarKind(start, { ...place, line: 1 }, 'repeat-end');
    const before = draft('1–8 4/4');
    expect(lineAfter(before, pages)).toBe('1–8 4/4; |: 3–6 :|');
    const told = draft('1–8 4/4; |: 3–7 :| 1. 6 2. 7', pages);
    expect(lineAfter(told, withBar(pages, { page: 0, line: 0 }, 0.2))).toBe('1–9 4/4; |: 4–8 :| 1. 7 2. 8');
    expect(lineAfter(draft('1–8 4/4; |: 3–6 :|', pages), start)).toBe('1–8 4/4');
    // Where bar lines say nothing of it, a repeat that was told holds.
    expect(lineAfter(draft('1–8 4/4; |: 1–4 :|'), withBar(PAGES, { page: 0, line: 0 }, 0.2))).toBe(
      '1–9 4/4; |: 1–5 :|',
    );
  });

  it('is kept in a file that reads back to the same, and refuses pages that are none', () => {
    const paper = { title: null, line: '1–8 4/4', typed: [], pages: PAGES };
    const text = writePaper(paper);
    expect(readPaper(new TextEncoder().encode(text))).toEqual({ ok: true, value: paper });
    for (const [from, to] of [
      [PICTURE, '../../etc/passwd'],
      ['"kind":"single"', '"kind":"wavy"'],
      ['"x":0.3', '"x":0.6'],
      ['"left":0.1', '"left":"<b>"'],
      ['"count":1', '"count":1e9'],
    ] as const)
      expect(readPaper(new TextEncoder().encode(text.replace(from, to))).ok)
        .withContext(to)
        .toBeFalse();
  });
});

// Against the MusicXML of the same study: its page is engraved by Verovio, read, and told its meters.
describe('a study that is pictured, told and digital', () => {
  const folder = new URL('../../../demo/studies/', import.meta.url);
  const studyOf = (name: string): { xml: string; score: Score } => {
    const bytes = readFileSync(new URL(`${name}.musicxml`, folder));
    const score = readScore(new Uint8Array(bytes));
    if (!score.ok) throw new Error(name);
    return { xml: bytes.toString(), score: score.value };
  };

  for (const name of ['slack-water', 'petrel-song'])
    it(`has the same measures and the same seconds: ${name}`, async () => {
      const { xml, score } = studyOf(name);
      const engraved = (await pageEngraver())(xml);
      const readings = await Promise.all(engraved.map(async (page) => readPage(await drawnPage(page, 1700))));
      const pages = readings.map((reading) => layoutOf(reading, PICTURE));
      const told = toldOfScore(score);
      if (!told) throw new Error(name);
      const fields = toldAfter({ fields: toldFields(told), pages: [] }, { fields: toldFields(told), pages });
      const paper = scoreOfPaper({ title: score.title, line: lineOfFields(fields), typed: [], pages });
      if (!paper.ok) throw new Error(paper.issues[0]?.message);
      const [own, other] = [digestScore(score), digestScore(paper.value)];
      const ribbon = ({ measures }: typeof own): unknown =>
        measures.map(({ number, quarters, time, implicit }) => [number, quarters, time, implicit]);
      expect(ribbon(other)).toEqual(ribbon(own));
      expect(other.seconds).toEqual(own.seconds);
      expect(new Set(other.measures.map(({ source }) => source))).toEqual(new Set(['page']));
      expect(boxesOfDraft({ fields, pages }).at(-1)?.number).toBe(Number(score.measures.at(-1)?.number));
    }, 60_000);
});

describe('what is told of one measure', () => {
  const fields = draft('1–8 4/4; |: 1–4 :|').fields;
  const told = (kind: ToldAtKind, number: number, text: string, from = fields): string => {
    const change = withToldAt(from, number, { kind, text });
    return 'fields' in change ? lineOfFields(change.fields) : change.issue;
  };

  it('stands in the line, is read back from it, and goes when it is emptied', () => {
    const cases: readonly (readonly [ToldAtKind, number, string, string])[] = [
      ['meter', 5, '6/8', '1–8 4/4; 6/8 from 5; |: 1–4 :|'],
      ['meter', 1, '3/4', '1–8 3/4; |: 1–4 :|'],
      ['key', 3, '2 flats', '1–8 4/4; |: 1–4 :|; 3 2 flats'],
      ['letter', 5, 'b', '1–8 4/4; B5; |: 1–4 :|'],
      ['tempo', 5, '♩=72', '1–8 4/4; |: 1–4 :|; 5 ♩=72'],
      ['ending', 4, '1', '1–8 4/4; |: 1–5 :| 1. 4 2. 5'],
    ];
    for (const [kind, number, text, line] of cases) {
      expect(told(kind, number, text)).toBe(line);
      const change = withToldAt(fields, number, { kind, text });
      if (!('fields' in change)) throw new Error(change.issue);
      expect(toldAt(change.fields, number)[kind].toLowerCase()).toBe(text);
      if (number > 1) expect(toldAt({ ...change.fields }, 2)[kind]).toBe('');
      if (number > 1 && kind !== 'ending')
        expect(told(kind, number, '', change.fields)).toBe('1–8 4/4; |: 1–4 :|');
    }
  });

  it('says what is no meter, no key and no ending, and changes nothing', () => {
    expect(told('meter', 5, '4/5')).toBe('4/5 is no meter; write one such as 4/4 or 6/8.');
    expect(told('key', 5, '9 flats')).toBe('A key has at most seven flats; 9 came.');
    expect(told('ending', 8, '1')).toBe('No repeat reaches measure 8; set its repeat signs first.');
    expect(told('ending', 4, 'x')).toBe('An ending is played on passes such as 1 or 1,2.');
  });
});

describe('rows cut out of pages', () => {
  it('show the measures of a passage on their lines, turned upright, and nothing of the next line', () => {
    const [row, other] = rowsOfPages(PAGES, { from: 3, to: 6 });
    expect([row, other].map((one) => one?.measures.map(({ number }) => number))).toEqual([
      [3, 4],
      [5, 6],
    ]);
    expect(row?.left).toBeCloseTo(0.488, 5);
    expect(row?.angle).toBe(0);
    expect(
      row?.measures.map(({ left, right }) => [left, right].map((x) => Math.round(x * 1000) / 1000)),
    ).toEqual([
      [0.028, 0.5],
      [0.5, 0.972],
    ]);
    expect(row?.bottom).toBeLessThan(0.4);
    const leaning = withLineAdded([], 0, { left: 0, right: 1, top: 0, bottom: 1 });
    expect(rowsOfPages(leaning)).toEqual([]);
    const [page] = PAGES;
    const lines = page?.lines.map((line) => ({ ...line, top: [0.2, 0.22], bottom: [0.24, 0.26] })) ?? [];
    const [turned] = rowsOfPages([{ ...(page as PaperPage), lines }]);
    // A rise of 0.02 of 2200 px over 0.8 of 1700 px.
    expect(turned?.angle).toBeCloseTo(Math.atan2(44, 1360), 6);
  });

  it('are broken where they would be wider than the place they are shown in', () => {
    const numbersOf = (most: number): number[][] =>
      rowsOfPages(PAGES, { most }).map(({ measures }) => measures.map(({ number }) => number));
    expect(numbersOf(0.45)).toEqual([
      [1, 2],
      [3, 4],
      [5, 6],
      [7, 8],
    ]);
    expect(numbersOf(0.1)).toEqual([[1], [2], [3], [4], [5], [6], [7], [8]]);
  });

  it('share a rest of many measures evenly', () => {
    const [row] = rowsOfPages(withCount(PAGES, { page: 0, line: 0, box: 1 }, 4));
    expect(row?.measures.map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6, 7]);
  });
});

describe('one source in the place of another', () => {
  const measures = (line: string): readonly MeasureDigest[] => {
    const score = scoreOfPaper({ title: null, line, typed: [], pages: [] });
    if (!score.ok) throw new Error(line);
    return digestScore(score.value).measures;
  };

  it('is told apart by printed number, meter and length', () => {
    const difference = measureDifference(measures('1–8 4/4; 3/4 from 7'), measures('3–10 4/4; pickup 1/4'));
    expect(difference).toEqual({
      gone: ['1'],
      fresh: ['9', '10'],
      changed: [
        { number: '2', before: '4 quarter notes', after: '1 quarter notes' },
        { number: '7', before: '3/4', after: '4/4' },
        { number: '8', before: '3/4', after: '4/4' },
      ],
      isSame: false,
    });
    expect(measureDifference(measures('1–8 4/4'), measures('1–8 4/4; A5')).isSame).toBeTrue();
    expect(numberRuns(['1', '2', '3', '7', '9', '10'])).toBe('1–3, 7, 9–10');
  });
});
