import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { Observable, type Subscriber } from 'rxjs';
import { Engraver, type EngravedPart, type EngravedSheetNews } from '../../data/engraver';
import { EngravedScore } from './engraved-score';

const SVG = 'http://www.w3.org/2000/svg';

/** A sheet of so many measures, as the engine writes them: five staff lines each. */
function sheet(measureCount: number, inside = '', isFirst = false): EngravedSheetNews {
  const lines = (n: number): string =>
    [0, 1, 2, 3, 4].map((y) => `<path d="M${n * 100} ${y * 180} L${n * 100 + 90} ${y * 180}"/>`).join('');
  const measures = Array.from(
    { length: measureCount },
    (_, n) => `<g class="measure"><g class="staff">${lines(n)}</g></g>`,
  ).join('');
  const svg = `<svg xmlns="${SVG}" viewBox="0 0 800 120"><svg class="definition-scale">${measures}${inside}</svg></svg>`;
  return { sheet: { svg, measureCount, width: 800, height: 120 }, glyphs: '', isFirst };
}

describe('EngravedScore', () => {
  let fixture: ComponentFixture<EngravedScore>;
  let host: HTMLElement;
  let asked: { readonly part: EngravedPart; readonly widthPx: number }[];
  let answer: Subscriber<EngravedSheetNews>;
  let isStopped: boolean;
  /** Whether a sheet of the wish in hand was told already. */
  let isBegun: boolean;
  let picked: (readonly [number, boolean])[];

  const part: EngravedPart = { musicXml: '<score-partwise/>', partId: 'P1', numbers: null };
  const settled = async (): Promise<void> => {
    for (let n = 0; n < 4; n += 1) {
      await new Promise((done) => setTimeout(done, 40));
      await fixture.whenStable();
    }
  };
  const measures = (): Element[] => [...host.querySelectorAll('g.measure')];
  /** Sheets are drawn a few measures a frame, and a busy machine has few frames. */
  const drawn = async (count: number): Promise<void> => {
    for (let n = 0; n < 50 && measures().length !== count; n += 1) await settled();
    expect(measures().length).toBe(count);
  };
  const tell = async (...news: EngravedSheetNews[]): Promise<void> => {
    for (const one of news) {
      answer.next({ ...one, isFirst: one.isFirst || !isBegun });
      isBegun = true;
    }
    await settled();
  };

  beforeEach(async () => {
    [asked, isStopped, picked] = [[], false, []];
    const engrave = (wished: EngravedPart, widthPx: number): Observable<EngravedSheetNews> =>
      new Observable((subscriber) => {
        asked.push({ part: wished, widthPx });
        answer = subscriber;
        isStopped = false;
        isBegun = false;
        return () => (isStopped = true);
      });
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), { provide: Engraver, useValue: { engrave } }],
    });
    fixture = TestBed.createComponent(EngravedScore);
    host = fixture.nativeElement as HTMLElement;
    host.style.cssText = 'display: block; width: 800px';
    document.body.append(host);
    fixture.componentRef.setInput('part', part);
    fixture.componentRef.setInput('label', 'Engraved music of a study');
    fixture.componentInstance.pickMeasure.subscribe(({ index, isWidening }) =>
      picked.push([index, isWidening]),
    );
    await fixture.whenStable();
    await settled();
  });
  afterEach(() => {
    fixture.destroy();
    host.remove();
  });

  it('asks once for its width and draws sheet after sheet, each as soon as it is there', async () => {
    expect(asked.map(({ widthPx }) => widthPx)).toEqual([800]);
    expect(host.textContent).toContain('Engraving …');
    await tell(sheet(3));
    expect(measures().length).toBe(3);
    expect(host.textContent).not.toContain('Engraving …');
    await tell(sheet(2));
    expect(measures().length).toBe(5);
  });

  it('counts measures on through the sheets: marks and clicks mean the same one', async () => {
    await tell(sheet(3), sheet(4));
    fixture.componentRef.setInput('selection', { fromIndex: 2, endIndex: 4 });
    fixture.componentRef.setInput('asked', [{ fromIndex: 0, endIndex: 5 }]);
    await settled();
    const marked = (name: string): number[] =>
      measures().flatMap((node, n) => (node.classList.contains(name) ? [n] : []));
    expect([marked('is-chosen'), marked('is-outside')]).toEqual([
      [2, 3],
      [5, 6],
    ]);
    measures()[4]?.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    measures()[1]?.dispatchEvent(new MouseEvent('click', { bubbles: true, shiftKey: true }));
    expect(picked).toEqual([
      [4, false],
      [1, true],
    ]);
  });

  it('keeps the old music until the first sheet of the new one comes, and stops what nobody waits for', async () => {
    await tell(sheet(3));
    fixture.componentRef.setInput('part', { ...part, partId: 'P2' });
    await settled();
    expect(asked.map((wish) => wish.part.partId)).toEqual(['P1', 'P2']);
    expect(measures().length).toBe(3);
    await tell(sheet(6));
    expect(measures().length).toBe(6);
    fixture.destroy();
    expect(isStopped).toBeTrue();
  });

  it('begins anew where the whole is set in other lines than its beginning was', async () => {
    await tell(sheet(3), sheet(4));
    await drawn(7);
    await tell(sheet(2, '', true), sheet(5));
    await drawn(7);
    measures()[2]?.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    expect(picked).toEqual([[2, false]]);
    expect(host.querySelectorAll('.signs').length).toBe(1);
  });

  it('says why there is no picture, and tries again with the next file', async () => {
    answer.error(new Error('This score cannot be engraved; its measures can still be worked with.'));
    await settled();
    expect(host.textContent).toContain('cannot be engraved');
    fixture.componentRef.setInput('part', { ...part, musicXml: '<score-timewise/>' });
    await settled();
    await tell(sheet(1));
    expect(host.textContent).not.toContain('cannot be engraved');
    expect(measures().length).toBe(1);
  });

  it('has the signs of all sheets once, and lets nothing in that could act', async () => {
    const glyph = (name: string): string =>
      `<g id="${name}" onclick="fail()"><path d="M0 0H9"/></g><script>fail()</script>`;
    await tell(
      { ...sheet(1, '<use href="#A"/><a href="javascript:fail()"><path d="M0 0"/></a>'), glyphs: glyph('A') },
      { ...sheet(1, '<foreignObject><b onload="fail()">x</b></foreignObject>'), glyphs: glyph('B') },
    );
    const names = [...host.querySelectorAll('.signs > g')].map(({ id }) => id);
    expect(names).toEqual(['A', 'B']);
    expect(host.querySelector('script, a, foreignObject, [onclick], [onload]')).toBeNull();
  });
});
