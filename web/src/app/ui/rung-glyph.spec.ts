import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { STATES, STATE_WORDS, type ReadinessState } from '@vivid-cue/core/readiness';
import { RungGlyph } from './rung-glyph';

describe('RungGlyph', () => {
  async function show(state: ReadinessState, hasWord = true): Promise<HTMLElement> {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(RungGlyph);
    fixture.componentRef.setInput('state', state);
    fixture.componentRef.setInput('hasWord', hasWord);
    await fixture.whenStable();
    return fixture.nativeElement as HTMLElement;
  }

  for (const [place, state] of STATES.entries()) {
    it(`fills ${place} of five steps from the bottom for ${state} and says the word`, async () => {
      const host = await show(state);
      const steps = [...host.querySelectorAll('.step')].map((step) => step.classList.contains('is-filled'));
      expect(steps).toEqual([1, 2, 3, 4, 5].map((step) => step <= place));
      expect(getComputedStyle(host.querySelector('.steps') as Element).flexDirection).toBe('column-reverse');
      expect(host.textContent?.trim()).toBe(STATE_WORDS[state]);
    });
  }

  it('keeps the word for screen readers where there is no room for it', async () => {
    const host = await show('climbing', false);
    expect(host.querySelector('.visually-hidden')?.textContent).toBe('Climbing');
  });
});
