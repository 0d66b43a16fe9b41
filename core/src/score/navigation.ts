import type { SignsFound } from './direction-reader.js';
import type { Navigation } from './model.js';
import { wholeNumber } from './number-text.js';
import { child, type XmlNode } from './xml.js';

/** Repeat signs and jumps of the whole piece by measure index: some exporters print them in one part only. */
export class NavigationMap {
  private readonly byMeasure = new Map<number, Navigation>();
  private openEnding: readonly number[] | null = null;

  /** What stands in a measure, or null. */
  at(measureIndex: number): Navigation | null {
    return this.byMeasure.get(measureIndex) ?? null;
  }

  /** A new part starts over: its endings are its own. */
  startPart(): void {
    this.openEnding = null;
  }

  /** Call at the end of every measure: it is inside the ending that is still open. */
  endMeasure(measureIndex: number): void {
    if (this.openEnding) this.entry(measureIndex).endings = this.openEnding;
  }

  /** Adds one barline element. Source: MusicXML 4.0, elements repeat and ending. */
  addBarline(node: XmlNode, measureIndex: number): void {
    const repeat = child(node, 'repeat')?.attributes;
    if (repeat?.['direction'] === 'forward') this.entry(measureIndex).repeatForward = true;
    if (repeat?.['direction'] === 'backward') {
      const entry = this.entry(measureIndex);
      entry.repeatTimes = wholeNumber(repeat['times'], 2, 20) ?? 2;
      entry.repeatAfterJump = repeat['after-jump'] === 'yes';
    }
    const ending = child(node, 'ending')?.attributes;
    if (ending?.['type'] === 'start') this.openEnding = passesOf(ending['number'] ?? '1');
    if (ending?.['type'] === 'stop' || ending?.['type'] === 'discontinue') {
      if (this.openEnding) this.entry(measureIndex).endings = this.openEnding;
      this.openEnding = null;
    }
  }

  /** Adds the signs of one direction or sound element. */
  addSigns(signs: SignsFound, measureIndex: number): void {
    const { segno, coda, toCoda, daCapo, dalSegno, fine } = signs;
    if (segno === null && coda === null && toCoda === null && !daCapo && dalSegno === null && !fine) return;
    const entry = this.entry(measureIndex);
    entry.segno ??= segno;
    entry.coda ??= coda;
    entry.toCoda ??= toCoda;
    entry.dalSegno ??= dalSegno;
    entry.daCapo ||= daCapo;
    entry.fine ||= fine;
  }

  private entry(measureIndex: number): Navigation {
    const found = this.byMeasure.get(measureIndex);
    if (found) return found;
    const fresh: Navigation = {
      repeatForward: false,
      repeatTimes: null,
      repeatAfterJump: false,
      endings: null,
      segno: null,
      coda: null,
      toCoda: null,
      daCapo: false,
      dalSegno: null,
      fine: false,
    };
    this.byMeasure.set(measureIndex, fresh);
    return fresh;
  }
}

function passesOf(text: string): readonly number[] {
  const passes = text.split(/[\s,]+/u).flatMap((part) => {
    const range = /^(\d{1,2})-(\d{1,2})$/u.exec(part);
    if (range)
      return Array.from(
        { length: Math.max(0, Number(range[2]) - Number(range[1]) + 1) },
        (_, n) => Number(range[1]) + n,
      );
    const pass = wholeNumber(part, 1, 99);
    return pass === null ? [] : [pass];
  });
  return passes.length === 0 ? [1] : passes;
}
