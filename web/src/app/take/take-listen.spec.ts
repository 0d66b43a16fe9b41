import { provideHttpClient } from '@angular/common/http';
import { provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { ToldTake } from '@vivid-cue/core/takes';
import type { TakeMarks } from '@vivid-cue/contract';
import { NO_MARKS } from '@vivid-cue/contract/take-marks';
import { TakeListen } from './take-listen';
import { TakePlayer } from './take-player';

const measure = (index: number, bpm: number | null): ToldTake['measures'][number] => ({
  ...{ index, number: String(index + 1), start: index * 2, end: index * 2 + 2, bpm, confidence: 0.9, lu: 0 },
});
const slip = (seconds: number, index: number): ToldTake['slips'][number] => ({
  ...{ seconds, index, number: String(index + 1), note: 1, kind: 'missing', confidence: 0.7 },
});

const TOLD: ToldTake = {
  ...{ seconds: 8, beatQuarters: 1, sure: 0.95, opening: 120, deciding: null, drift: null, tuning: 0 },
  measures: [measure(0, 120), measure(1, 118), measure(2, null), measure(3, 96)],
  ...{ evenness: [], hairpins: [], contrasts: [], loudest: null, pauses: [], restarts: [], pitches: [] },
  slips: [slip(2.5, 1), slip(6.5, 3)],
  notices: [],
  sentences: [{ text: 'Opens at 120, measure 4 at 96: start at 96.', confidence: 0.8, measures: ['4'] }],
};

describe('TakeListen', () => {
  let fixture: ComponentFixture<TakeListen>;
  let host: HTMLElement;
  let marks: TakeMarks;

  async function shown(told: ToldTake | null): Promise<void> {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        TakePlayer,
      ],
    });
    fixture = TestBed.createComponent(TakeListen);
    host = fixture.nativeElement as HTMLElement;
    marks = NO_MARKS;
    for (const [name, value] of Object.entries({ url: '/nothing', seconds: 8, told, marks }))
      fixture.componentRef.setInput(name, value);
    fixture.componentRef.setInput('bounds', { min: 116, max: 116, beatUnit: 'quarter' });
    fixture.componentInstance.marks.subscribe((next) => {
      marks = next;
    });
    host.style.width = '900px';
    document.body.append(host);
    await fixture.whenStable();
    await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
    await fixture.whenStable();
  }
  afterEach(() => host.remove());

  const press = async (key: string): Promise<void> => {
    document.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    await fixture.whenStable();
  };

  it('says what the take says with how sure it is, and what the sheet asks', async () => {
    await shown(TOLD);
    const said = host.querySelector('.said')?.textContent ?? '';
    expect(said).toContain('Opens at 120, measure 4 at 96: start at 96.');
    expect(said).toContain('The sheet asks 116.');
    expect(said).toContain('80 % sure');
    // A measure of which nobody is sure has no dot, and breaks the line: nothing is made up.
    expect(host.querySelectorAll('circle').length).toBe(3);
    expect(host.querySelectorAll('polyline').length).toBe(1);
    expect(host.querySelectorAll('.ribbon button').length).toBe(4);
  });

  it('asks what may have slipped, and only what a person confirms is marked', async () => {
    await shown(TOLD);
    expect(host.querySelectorAll('.ask').length).toBe(2);
    expect(marks.taps).toEqual([]);
    await press('y');
    expect(marks.fine).toEqual([2.5]);
    await press('s');
    expect(marks.taps).toEqual([{ index: 3, number: '4', seconds: 6.5 }]);
    expect(host.querySelectorAll('.ask').length).toBe(0);
    expect(host.textContent).toContain('Slipped: m. 4');
  });

  it('taps the measure that sounds, and takes the last tap back', async () => {
    await shown(TOLD);
    host.querySelectorAll<HTMLButtonElement>('.ribbon button')[2]?.click();
    await press('x');
    expect(marks.taps).toEqual([{ index: 2, number: '3', seconds: 4 }]);
    [...host.querySelectorAll<HTMLButtonElement>('button')]
      .find(({ textContent }) => textContent.includes('take the last back'))
      ?.click();
    await fixture.whenStable();
    expect(marks.taps).toEqual([]);
  });

  it('takes downbeats by hand where there are no notes, and only there', async () => {
    await shown(null);
    for (const seconds of [1, 3, 5, 7]) {
      fixture.debugElement.injector.get(TakePlayer).seek(seconds);
      await press('d');
    }
    expect(marks.downbeats).toEqual([1, 3, 5, 7]);
    // 4 beats × 60 / 2 s: arithmetic.
    expect(host.textContent).toContain('Opens at 120');
  });
});
