import { capital, groupBy } from '../../base/index.js';
import { pitchName } from '../../music/index.js';
import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import { ruleFor } from '../findings/ornament-rules.js';
import type { AwkwardPair } from '../demands/awkward-pairs.js';
import { secondsBetween } from '../line/pace.js';
import { firstOf, listed, measuresText } from './places.js';

/**
 * Members of a series that lack its mark.
 * Shape:  one finding a mark and row of neighbouring measures
 * Source: see odd-ones-out.ts
 */
export const oddSigns: Finder = ({ indexOf, oddOnesOut }) => {
  const groups = groupBy(oddOnesOut, ({ measure, what }) => `${measure} ${what}`);
  return [...groups.values()].flatMap((own) => {
    const [first] = own;
    if (!first) return [];
    const { measure, what, why } = first;
    const index = indexOf(measure);
    const ordinals = own.map(({ note }) => note);
    const isOther = /dot|crescendo|diminuendo/u.test(what);
    const text = own.length === 1 ? why : why.replace(/on note \d+/u, `on notes ${listed(ordinals)}`);
    return [
      raw('odd-one-out', {
        title: isOther ? `The ${what} is other than before.` : `${capital(what)} missing here?`,
        sentence: `${capital(text)}. Printed so, or an oversight? Settle it once.`,
        places: [index],
        notes: ordinals.map((note) => ({ index, note })),
        detail: `${ordinals.join(' ')} ${what}`,
      }),
    ];
  });
};

/**
 * Trills, turns and mordents with their neighbour, by the sheet's rule where it has one.
 * Shape:  one finding for all of a kind on a note with the same neighbour
 * Source: see inventory.ts
 */
export const ornamentNeighbours: Finder = ({ score, indexOf, ornaments: all, ornamentRules }) => {
  const known = all.filter(({ neighbour }) => neighbour !== null);
  const alike = groupBy(known, ({ kind, note, neighbour, by }) =>
    [kind, note.replace(/\d+$/u, ''), neighbour, by].join(' '),
  );
  return [...alike.values()].flatMap((own) => {
    const [one] = own;
    if (!one || one.neighbour === null) return [];
    const rule = ruleFor(one, ornamentRules);
    const neighbour = rule?.neighbour ?? one.neighbour;
    const places = [...new Set(own.map(({ measure }) => indexOf(measure)))];
    const where = places.length === 1 ? '' : `In ${measuresText(score, places)}. `;
    return [
      raw('ornament', {
        title: `${capital(one.kind.replace(/-/gu, ' '))} with ${neighbour}${one.other === null ? '' : ` and ${one.other}`}.`,
        sentence: `${where}${neighbourReason(one)}${one.other === null ? '' : `, and ${one.other} on the other side`}${rule ? `. The sheet says: “${rule.text}”` : '; the sheet’s own rule comes first.'}`,
        places,
        detail: `${one.kind} ${one.note} ${one.neighbour}`,
      }),
    ];
  });
};

function neighbourReason({ note, neighbour, by }: Reading['ornaments'][number]): string {
  const on = `On ${note.replace(/\d+$/u, '')}`;
  if (by === 'sign') return `${on} the accidental at the sign gives ${neighbour} as the neighbour`;
  if (by === 'measure') return `${on} the neighbour is ${neighbour}, which stands earlier in the measure`;
  return `${on} the key gives ${neighbour} as the neighbour`;
}

/** Tongued apart and this slow no pair is awkward, slurred in twice the time. Units: seconds (our own knee). */
const SLOW_SECONDS = 0.5;
/** A reason in so many measures, and so large a share of them, is nothing to settle (our own knees). */
const DAILY_MEASURES = 4;
const DAILY_SHARE = 0.25;

/**
 * Pairs that the instrument makes awkward, where they are slurred or at speed.
 * Shape:  one finding a reason
 * Source: see awkward-pairs.data.ts and slide.ts
 */
export const awkwardMoves: Finder = (from) => {
  const { score, indexOf, awkwardPairs } = from;
  const real = awkwardPairs.filter((pair) => isPressed(from, pair));
  const played = score.measures.filter(({ index }) => (from.line.played[index]?.length ?? 0) > 0).length;
  return [...groupBy(real, ({ why }) => why)].flatMap(([why, pairs]) => {
    const places = [...new Set(pairs.map(({ measure }) => indexOf(measure)))];
    const texts = [...new Set(pairs.map((pair) => `${pair.from}–${pair.to}`))];
    // What comes everywhere is the instrument's daily bread.
    if (places.length >= DAILY_MEASURES && places.length > DAILY_SHARE * played) return [];
    return raw('awkward', {
      title: `${capital(why)}.`,
      sentence: `${firstOf(texts)} in ${measuresText(score, places)}: settle it once and repeat the pair by itself.`,
      places,
      notes: pairs.flatMap(({ measure, note }) => [{ index: indexOf(measure), note }]),
      detail: why,
    });
  });
};

function isPressed({ line, indexOf, pace }: Reading, pair: AwkwardPair): boolean {
  const index = indexOf(pair.measure);
  const notes = line.played[index] ?? [];
  const note = notes.find(
    ({ ordinal, written }) => ordinal === pair.note && written !== null && pitchName(written) === pair.from,
  );
  if (!note) return true;
  const end = note.start + note.length;
  const next = notes.find(({ start }) => start > note.start + 1e-6) ?? line.played[index + 1]?.[0];
  const seconds = secondsBetween(pace, note.start, end) ?? 0;
  return seconds < (next?.isSlurredInto ? 2 : 1) * SLOW_SECONDS;
}

/** Double dots: the note behind them is short. */
export const doubleDots: Finder = ({ score, line }) => {
  const notes = line.notes.filter(({ signs }) => signs.dots === 2);
  if (notes.length === 0) return [];
  const places = [...new Set(notes.map(({ measureIndex }) => measureIndex))];
  return [
    raw('double-dot', {
      title: notes.length === 1 ? 'A double dot.' : `${notes.length} double dots.`,
      sentence: `In ${measuresText(score, places)}: feel the smallest value, the note after it is short.`,
      places,
      notes: notes.map(({ measureIndex, ordinal }) => ({ index: measureIndex, note: ordinal })),
      detail: notes.map(({ ordinal }) => ordinal).join(' '),
    }),
  ];
};
