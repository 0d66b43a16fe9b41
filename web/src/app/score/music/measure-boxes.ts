import { effect, ElementRef, inject, type Signal } from '@angular/core';
import { inRuns, inSpan, type Span } from '@vivid-cue/core/score';
import type { CueView } from '@vivid-cue/contract';
import { scrollInside } from '../../ui/scroll-inside';

/** The texts of cues by the measure they begin in. Units: measure indexes */
export function cueTexts(cues: readonly CueView[]): ReadonlyMap<number, string> {
  const at = new Map<number, string>();
  for (const cue of cues) {
    const before = at.get(cue.fromIndex);
    const said = cueText(cue);
    at.set(cue.fromIndex, before === undefined ? said : `${before} · ${said}`);
  }
  return at;
}

/** A cue as it stands on a box: "’ Breathe here", "beat 3: count". A sign of letters says what its words say. */
export function cueText({ sign, text, beat }: Pick<CueView, 'sign' | 'text' | 'beat'>): string {
  const said = sign.length === 0 || sign.length > 3 ? text : `${sign} ${text}`;
  return beat === null ? said : `beat ${beat}: ${said}`;
}

/** Whether a measure is asked for; all are where the sheet asks for nothing. Units: measure indexes */
export function isAskedFor(asked: readonly Span[], index: number): boolean {
  return asked.length === 0 || inRuns(asked, index);
}

/** Whether a measure is selected. Units: measure indexes */
export function isSelected(selection: Span | null, index: number): boolean {
  return selection !== null && inSpan(selection, index);
}

/** Scrolls the box of the first selected measure into sight, inside of the room's score. Errors: needs an injection context */
export function keepSelectionInSight(selection: Signal<Span | null>): void {
  const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  effect(() => {
    const index = selection()?.fromIndex;
    const box = index === undefined ? null : host.querySelector<HTMLElement>(`[data-at="${index}"]`);
    const frame = host.closest<HTMLElement>('.score');
    if (box && frame) scrollInside(frame, box);
  });
}
