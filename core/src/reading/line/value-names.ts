const PLAIN: readonly (readonly [string, number])[] = [
  ['breve', 8],
  ['whole', 4],
  ['half', 2],
  ['quarter', 1],
  ['eighth', 1 / 2],
  ['sixteenth', 1 / 4],
  ['thirty-second', 1 / 8],
  ['sixty-fourth', 1 / 16],
];
const FORMS: readonly (readonly [string, number])[] = [
  ['', 1],
  ['dotted ', 3 / 2],
  ['double-dotted ', 7 / 4],
  ['triplet ', 2 / 3],
  ['quintuplet ', 4 / 5],
  ['septuplet ', 4 / 7],
];

/**
 * The name of a length: 1.5 is "dotted quarter", 1/3 is "triplet eighth".
 * Shape:  lengths that no single note has are given in quarters
 * Units:  quarters
 * Source: names of note values, common practice
 */
export function valueName(length: number): string {
  for (const [form, factor] of FORMS)
    for (const [name, value] of PLAIN) if (Math.abs(value * factor - length) < 1e-4) return `${form}${name}`;
  return `${Number(length.toFixed(3))} quarters`;
}
