import { SHEET_TEXT_LIMIT } from '@vivid-cue/core/sheet';
import { tooLong } from '../data/sheet-reader';

/** From so many characters on a paste is put in as a value (our own knee). */
const LONG_PASTE = 20_000;

/**
 * Takes a long paste into a text field by itself: one beyond the limit is refused before the page has to hold it; others
 * are put in as a value, because browsers take many seconds to insert a hundred pages line by line.
 * Shape:  the field's new value, or why it is refused; null for a short one, which the browser pastes as ever
 * Units:  characters
 */
export function takeLongPaste(
  event: ClipboardEvent,
): { readonly value: string; readonly refusal: string | null } | null {
  const text = event.clipboardData?.getData('text/plain') ?? '';
  const box = event.target;
  if (text.length < LONG_PASTE || !(box instanceof HTMLTextAreaElement)) return null;
  event.preventDefault();
  if (text.length > SHEET_TEXT_LIMIT) return { value: box.value, refusal: tooLong(text.length) };
  box.setRangeText(text, box.selectionStart, box.selectionEnd, 'end');
  return { value: box.value, refusal: null };
}
