import type { SheetPicture } from '../../data/engraver';
import { EngravedSheet } from './engraved-sheet';

const SVG = 'http://www.w3.org/2000/svg';
const NO_MARKS = { asked: [], selection: null, layers: null, chosen: null };

/** A line of five measures as the engine writes it: a brace before them, staff lines and a note in each. */
function picture(): SheetPicture {
  const lines = [0, 1, 2, 3, 4].map((y) => `<path d="M0 ${y * 180} L90 ${y * 180}"/>`).join('');
  const note = '<g class="note"><g class="notehead"><use transform="translate(40, 360)"/></g></g>';
  const measure = `<g class="measure"><g class="staff">${lines}${note}</g></g>`;
  const svg = `<svg xmlns="${SVG}" viewBox="0 0 800 120"><g class="system"><g class="brace"/>${measure.repeat(5)}<g class="end"/></g></svg>`;
  return { svg, measureCount: 5, width: 800, height: 120 };
}

describe('EngravedSheet', () => {
  let sheet: EngravedSheet;
  const inPlace = (): string[] =>
    [...(sheet.box.querySelector('.system')?.children ?? [])].map((node) => node.getAttribute('class') ?? '');

  beforeEach(() => {
    // The line begins with the eleventh measure of the piece.
    sheet = new EngravedSheet(picture(), 10);
    document.body.append(sheet.box);
  });
  afterEach(() => sheet.box.remove());

  it('is an empty box of the line’s shape until it is drawn', () => {
    expect([sheet.isDrawn, sheet.box.childElementCount, sheet.endIndex]).toEqual([false, 0, 15]);
    expect(sheet.box.style.aspectRatio).toBe('800 / 120');
    expect(sheet.measureAt(12)).toBe(sheet.box);
  });

  it('takes its measures in a few at a time, each where the engine put it', () => {
    sheet.open();
    expect(inPlace()).toEqual(['brace', 'end']);
    expect(sheet.drawNext()).toBeFalse();
    expect(inPlace()).toEqual(['brace', 'measure', 'measure', 'end']);
    // What is not in yet is looked for at the box.
    expect(sheet.measureAt(14)).toBe(sheet.box);
    while (!sheet.drawNext());
    expect(inPlace()).toEqual(['brace', 'measure', 'measure', 'measure', 'measure', 'measure', 'end']);
    expect(sheet.indexOf(sheet.measureAt(14))).toBe(14);
    expect(sheet.indexOf(document.body)).toBe(-1);
    // A second opening changes nothing.
    sheet.open();
    expect(inPlace().length).toBe(7);
  });

  it('is marked before its measures are seen, and keeps marks that change while they come in', () => {
    sheet.open();
    sheet.mark({
      ...NO_MARKS,
      asked: [{ fromIndex: 0, endIndex: 13 }],
      selection: { fromIndex: 10, endIndex: 12 },
    });
    sheet.drawNext();
    sheet.markSpans({ asked: [{ fromIndex: 0, endIndex: 13 }], selection: { fromIndex: 11, endIndex: 14 } });
    while (!sheet.drawNext());
    expect(inPlace().slice(1, -1)).toEqual([
      'measure',
      'measure is-chosen',
      'measure is-chosen',
      'measure is-outside is-chosen',
      'measure is-outside',
    ]);
  });

  it('draws the chosen finding in its places only, and takes it away from where it was', () => {
    sheet.open();
    while (!sheet.drawNext());
    const marked = (): number[] =>
      [10, 11, 12, 13, 14].filter((index) => sheet.measureAt(index).querySelector('.vc-mark') !== null);
    const finding = (...places: number[]) => ({
      chosen: { places: new Set(places), notes: [] },
      layers: null,
    });
    sheet.markChosen(finding(11, 13, 40));
    expect(marked()).toEqual([11, 13]);
    sheet.markChosen(finding(14));
    expect(marked()).toEqual([14]);
    sheet.markChosen({ chosen: null, layers: null });
    expect(marked()).toEqual([]);
  });
});
