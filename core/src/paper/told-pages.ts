import { boxesOf, numberAfter, repeatsOfPages, type PaperBox, type PaperPage } from './page-layout.js';
import { lineOfFields, readToldLine, toldFields, writeToldLine, type ToldFields } from './told-line.js';
import type { ToldMusic, ToldRepeat } from './told.js';

/** Pages with what was told of their music. */
export interface PaperDraft {
  readonly fields: ToldFields;
  readonly pages: readonly PaperPage[];
}

/** The number of the very first box: of the pickup, where one was told. Units: printed numbers */
export function startOf({ first, pickup }: Pick<ToldFields, 'first' | 'pickup'>): number {
  return (Number.parseInt(first, 10) || 1) - (pickup.trim() === '' ? 0 : 1);
}

/** The boxes of a draft, numbered. */
export function boxesOfDraft({ fields, pages }: PaperDraft): PaperBox[] {
  return boxesOf(pages, startOf(fields));
}

/**
 * What is told after boxes were corrected: first and last measure as the boxes have them, the repeats that bar lines show,
 * and everything else at the place where it stood, whatever its number is now.
 * Shape:  `after.fields` are those before, but for what was changed along with the boxes
 */
export function toldAfter(before: PaperDraft, after: PaperDraft): ToldFields {
  const boxes = boxesOfDraft(after);
  const [opening, closing] = [boxes[0], boxes.at(-1)];
  if (!opening || !closing) return after.fields;
  const isPickup = after.fields.pickup.trim() !== '';
  const span = {
    first: String(opening.number + (isPickup ? 1 : 0)),
    last: String(Math.max(...boxes.map(({ number, count }) => number + count - 1))),
  };
  const { music } = readToldLine(lineOfFields(after.fields));
  if (!music) return { ...after.fields, ...span, ...repeatFields(after) };
  const old = boxesOfDraft(before);
  const moved = movedMusic({ ...music, first: Number(span.first), last: Number(span.last) }, (number) =>
    old.length === 0 ? number : (numberAfter(old, boxes, number) ?? number),
  );
  const repeats = shownRepeats(before, after, moved.repeats);
  return toldFields(
    readToldLine(writeToldLine(fitted({ ...moved, repeats }))).music ?? moved,
    after.fields.rest,
  );
}

function repeatFields({ fields, pages }: PaperDraft): { readonly repeats: string } {
  const repeats = repeatsOfPages(pages, startOf(fields));
  const text = repeats.map(({ from, to }) => `|: ${from}–${to} :|`).join('; ');
  return { repeats: text === '' ? fields.repeats : text };
}

/** Everything at its place. */
function movedMusic(music: ToldMusic, to: (number: number) => number): ToldMusic {
  const { meters, letters, repeats, tempos, keys, dense } = music;
  const at = <One extends { readonly at: number }>(one: One): One => ({ ...one, at: to(one.at) });
  const span = <One extends { readonly from: number; readonly to: number }>(one: One): One => ({
    ...one,
    from: to(one.from),
    to: Math.max(to(one.from), to(one.to)),
  });
  return {
    ...music,
    meters: meters.map((one, n) => ({ ...one, from: n === 0 ? music.first : to(one.from) })),
    letters: letters.map(at),
    repeats: repeats.map((one) => ({ ...span(one), endings: one.endings.map(span) })),
    tempos: tempos.map((one, n) =>
      n === 0 && one.at <= music.first ? { ...one, at: music.first } : at(one),
    ),
    keys: keys.map((one, n) => (n === 0 && one.at <= music.first ? { ...one, at: music.first } : at(one))),
    dense: dense.map(span),
  };
}

/** Without what lies outside of the measures now. */
function fitted(music: ToldMusic): ToldMusic {
  const { first, last } = music;
  const isIn = ({ at }: { readonly at: number }): boolean => at >= first && at <= last;
  const isWithin = ({ from, to }: { readonly from: number; readonly to: number }): boolean =>
    from >= first && to <= last;
  return {
    ...music,
    meters: music.meters.filter(({ from }) => from >= first && from <= last),
    letters: music.letters.filter(isIn),
    repeats: music.repeats.filter(isWithin),
    tempos: music.tempos.filter(isIn),
    keys: music.keys.filter(isIn),
    dense: music.dense.filter(isWithin),
  };
}

/** The repeats that the pages show, with the endings and times that were told of them; told ones where they show none. */
function shownRepeats(before: PaperDraft, after: PaperDraft, told: readonly ToldRepeat[]): ToldRepeat[] {
  const shown = repeatsOfPages(after.pages, startOf(after.fields));
  const wereShown = repeatsOfPages(before.pages, startOf(before.fields)).length > 0;
  if (shown.length === 0 && !wereShown) return [...told];
  return shown.map((one) => {
    // Printed endings reach over the sign: the first ends with it, the last lies behind it.
    const own = told.find(
      ({ from, to, endings }) => from === one.from && (to === one.to || endings.length > 0),
    );
    return own && own.to >= one.to ? own : one;
  });
}
