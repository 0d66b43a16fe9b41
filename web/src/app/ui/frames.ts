import { effect, signal, type Signal } from '@angular/core';

/** A slice of work holds the page up no longer than this. */
const SLICE_MS = 6;

/**
 * Does a piece of work item by item and lets the page breathe between slices.
 * Shape:  in order; stops quietly when `isWanted` says so
 * Errors: those of the work
 */
export async function inSlices<T>(
  items: readonly T[],
  work: (item: T) => void,
  isWanted: () => boolean,
): Promise<void> {
  // Not within the work that asked for it: that has a frame of its own.
  await nextFrame();
  let started = performance.now();
  for (const item of items) {
    if (performance.now() - started > SLICE_MS) {
      await nextFrame();
      started = performance.now();
    }
    if (!isWanted()) return;
    work(item);
  }
}

/** The time after the next picture of the page was drawn; a page in the background draws none, so time alone goes on too. */
export function nextFrame(): Promise<void> {
  return new Promise((done) => {
    const late = setTimeout(done, 100);
    requestAnimationFrame(() => {
      clearTimeout(late);
      setTimeout(done);
    });
  });
}

/**
 * A count that grows a step a frame until it has reached its end, so that what it shows comes bit by bit.
 * Shape:  begins with `start`; never falls, also where the end does
 * Errors: none; asked outside of an injection context Angular's own
 */
export function countByFrames(end: () => number, { start = 0, step = 1 } = {}): Signal<number> {
  const count = signal(start);
  effect(() => {
    if (count() < end()) void nextFrame().then(() => count.update((before) => before + step));
  });
  return count.asReadonly();
}
