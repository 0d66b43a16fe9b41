import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { Span } from '@vivid-cue/core/score';
import { MeasureRibbon } from './measure-ribbon';

describe('MeasureRibbon', () => {
  let fixture: ComponentFixture<MeasureRibbon>;
  let host: HTMLElement;
  let spans: (Span | null)[];
  let made: number;

  /** A pickup of one quarter, then measures of four; the last one twice as long. */
  const quarters = [1, 4, 4, 4, 4, 8];

  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    fixture = TestBed.createComponent(MeasureRibbon);
    host = fixture.nativeElement as HTMLElement;
    host.style.width = '1000px';
    document.body.append(host);
    const measures = quarters.map((length, index) => ({
      index,
      number: String(index),
      quarters: length,
      isAsked: index < 5,
    }));
    fixture.componentRef.setInput('measures', measures);
    spans = [];
    made = 0;
    fixture.componentInstance.selectionChange.subscribe((span) => {
      spans.push(span);
      fixture.componentRef.setInput('selection', span);
    });
    fixture.componentInstance.make.subscribe(() => (made += 1));
    await fixture.whenStable();
    // The ribbon learns its width after it was laid out.
    await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
    await fixture.whenStable();
  });
  afterEach(() => host.remove());

  const track = (): HTMLElement => host.querySelector('.track') as HTMLElement;
  const cells = (): HTMLElement[] => [...host.querySelectorAll<HTMLElement>('.cell')];
  /** Waits for so many cells: they come some a frame. */
  const untilDrawn = async (count: number): Promise<void> => {
    for (let tries = 0; tries < 50 && cells().length < count; tries += 1) {
      await new Promise((done) => setTimeout(done, 20));
      await fixture.whenStable();
    }
    expect(cells().length).toBe(count);
  };
  const press = async (key: string, shiftKey = false): Promise<void> => {
    track().dispatchEvent(new KeyboardEvent('keydown', { key, shiftKey, bubbles: true, cancelable: true }));
    await fixture.whenStable();
  };
  const point = (type: string, measure: number): void => {
    const box = cells()[measure]?.getBoundingClientRect() ?? new DOMRect();
    const event = new PointerEvent(type, {
      clientX: box.left + box.width / 2,
      clientY: box.top + 5,
      button: 0,
      pointerId: 1,
      bubbles: true,
    });
    track().setPointerCapture = () => undefined;
    track().dispatchEvent(event);
  };

  it('draws every measure as wide as it lasts', () => {
    const widths = cells().map((cell) => cell.getBoundingClientRect().width);
    const total = quarters.reduce((sum, length) => sum + length, 0);
    // Half a pixel is what layout may round.
    widths.forEach((width, n) =>
      expect(Math.abs(width - (1000 * (quarters[n] ?? 0)) / total)).toBeLessThan(0.5),
    );
  });

  it('selects by dragging, in either direction', async () => {
    point('pointerdown', 3);
    point('pointermove', 1);
    point('pointerup', 1);
    await fixture.whenStable();
    expect(spans.at(-1)).toEqual({ fromIndex: 1, endIndex: 4 });
    expect(cells().map((cell) => cell.getAttribute('aria-selected'))).toEqual([
      'false',
      'true',
      'true',
      'true',
      'false',
      'false',
    ]);
    point('pointermove', 5);
    expect(spans.at(-1)).toEqual({ fromIndex: 1, endIndex: 4 });
  });

  it('selects and makes a passage by keyboard alone', async () => {
    await press('ArrowRight');
    await press('ArrowRight', true);
    await press('ArrowRight', true);
    expect(spans.at(-1)).toEqual({ fromIndex: 1, endIndex: 4 });
    expect(track().getAttribute('aria-activedescendant')).toBe('measure-3');
    await press('Enter');
    expect(made).toBe(1);
    await press('Escape');
    expect(spans.at(-1)).toBeNull();
    await press('Enter');
    expect(made).toBe(1);
  });

  it('stops at both ends', async () => {
    await press('End');
    await press('ArrowRight');
    expect(spans.at(-1)).toEqual({ fromIndex: 5, endIndex: 6 });
    await press('Home');
    await press('ArrowLeft');
    expect(spans.at(-1)).toEqual({ fromIndex: 0, endIndex: 1 });
  });

  it('marks measures that are not asked in word as well as in look', () => {
    expect(cells()[5]?.getAttribute('aria-label')).toBe('measure 5, not asked');
    expect(cells()[4]?.classList.contains('is-asked')).toBeTrue();
  });

  it('puts overlapping passages in lanes and names span and state', async () => {
    const band = (id: string, fromIndex: number, endIndex: number): object => ({
      id,
      name: id,
      fromIndex,
      endIndex,
      state: 'climbing',
    });
    fixture.componentRef.setInput('bands', [band('tune', 1, 4), band('seam', 3, 5), band('end', 5, 6)]);
    await fixture.whenStable();
    const bands = [...host.querySelectorAll<HTMLElement>('.band')];
    expect(bands.map((node) => node.style.top)).toEqual(['0px', '26px', '0px']);
    expect(bands[0]?.getAttribute('aria-label')).toBe('tune, mm. 1–3, Climbing');
  });

  it('prints fewer numbers when they would not fit', async () => {
    const many = Array.from({ length: 300 }, (_, index) => ({
      index,
      number: String(index + 1),
      quarters: 4,
      isAsked: true,
    }));
    fixture.componentRef.setInput('measures', many);
    // 1,000 pixels hold 200 cells of 5: two measures share one.
    await untilDrawn(150);
    const labels = [...host.querySelectorAll<HTMLElement>('.number')].map(
      (node) => node.getBoundingClientRect().left,
    );
    expect(labels.length).toBeGreaterThan(5);
    labels.slice(1).forEach((left, n) => expect(left - (labels[n] ?? 0)).toBeGreaterThanOrEqual(29));
  });

  it('gathers measures too narrow to tell apart in one cell, and still selects each', async () => {
    const many = Array.from({ length: 600 }, (_, index) => ({
      index,
      number: String(index + 1),
      quarters: 4,
      isAsked: index < 500,
    }));
    fixture.componentRef.setInput('measures', many);
    const marks = {
      heat: null,
      findings: new Map([[7, 'open']]),
      texts: null,
      breaths: new Set(),
      cues: new Set(),
    };
    fixture.componentRef.setInput('marks', marks);
    // 1,000 pixels hold 200 cells of 5: the next round number of measures that fits is 4 a cell.
    await untilDrawn(150);
    expect(cells().map((cell) => cell.getAttribute('aria-label'))[1]).toBe('mm. 5–8, finding');
    expect(cells().at(-1)?.getAttribute('aria-label')).toBe('mm. 597–600, not asked');
    for (let n = 0; n < 6; n += 1) await press('ArrowRight');
    expect(spans.at(-1)).toEqual({ fromIndex: 6, endIndex: 7 });
    expect(track().getAttribute('aria-activedescendant')).toBe(cells()[1]?.id ?? '');
    expect(cells().filter((cell) => cell.getAttribute('aria-selected') === 'true').length).toBe(1);
    await press('End');
    expect(spans.at(-1)).toEqual({ fromIndex: 599, endIndex: 600 });
  });
});
