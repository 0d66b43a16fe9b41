import { instrumentKey, type PartScope } from '../scope.js';
import { STRENGTH, type Place, type Seed } from './place.js';

/** An item that was split into its keys is no part beside them: what it says holds for each of them. */
export function withoutParents(seeds: readonly Seed[]): Seed[] {
  const groups = new Set(seeds.map(({ group }) => group));
  const parents = new Map(seeds.filter(({ id }) => groups.has(id)).map((seed) => [seed.id, seed]));
  return seeds.flatMap((seed) => {
    if (parents.has(seed.id)) return [];
    const said = parents.get(seed.group ?? '')?.evidence ?? [];
    return [
      { ...seed, evidence: [...seed.evidence, ...said.map((one) => ({ ...one, strength: STRENGTH.group }))] },
    ];
  });
}

/** An instrument or division that is the only one on the sheet limits nothing. */
export function withoutWholes(seeds: readonly Seed[]): {
  readonly narrowed: (place: Place) => Place;
  readonly seeds: Seed[];
} {
  const names = (of: (scope: PartScope) => readonly string[]): Set<string> =>
    new Set(seeds.flatMap(({ place }) => of(place.scope).map((name) => instrumentKey(name))));
  const isOne = {
    instruments: names(({ instruments }) => instruments).size === 1,
    divisions:
      names(({ divisions }) => divisions).size === 1 &&
      seeds.every(({ place }) => place.scope.divisions.length > 0),
  };
  const narrowed = (place: Place): Place => ({
    ...place,
    scope: {
      ...place.scope,
      ...(isOne.instruments && { instruments: [] }),
      ...(isOne.divisions && { divisions: [] }),
    },
  });
  return { narrowed, seeds: seeds.map((seed) => ({ ...seed, place: narrowed(seed.place) })) };
}
