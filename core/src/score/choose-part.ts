import type { PartInfo } from './model.js';

const ACCOMPANIMENT = /piano|pno\.?|accomp|harpsichord|organ|continuo|guitar|reduction/iu;

/**
 * The part that a player of an instrument wants: the one named like it, else the first solo part, else the first with
 * notes.
 * Shape:  null when no part has notes
 * Source: common practice, no source: in a solo with accompaniment the solo stands above
 */
export function choosePart(parts: readonly PartInfo[], instrument: string | null): PartInfo | null {
  const playable = parts.filter(({ noteCount }) => noteCount > 0);
  const wanted = instrument === null ? null : nameKey(instrument);
  const named =
    wanted === null || wanted === ''
      ? undefined
      : playable.find(({ name }) => nameKey(name).includes(wanted));
  return named ?? playable.find(({ name }) => !ACCOMPANIMENT.test(name)) ?? playable[0] ?? null;
}

function nameKey(name: string): string {
  return name
    .toLowerCase()
    .replace(/\bin [a-g](♭|b|♯|#| flat| sharp)?/gu, '')
    .replace(/[^a-z]+/gu, ' ')
    .trim();
}
