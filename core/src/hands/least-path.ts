import { InvariantError } from '../base/index.js';

/** What a way of playing costs. Shape: `go` from one choice to the next, `layer` the index of the later one */
export interface PathCosts<Choice> {
  readonly stay: (choice: Choice, layer: number) => number;
  readonly go: (from: Choice, to: Choice, layer: number) => number;
}

/**
 * The cheapest way through the choices of a row of notes.
 * Shape:  one choice a layer, every layer with at least one; of equal ways the one whose choices stand first, from the end
 *         backwards
 * Errors: InvariantError for an empty layer
 * Source: shortest path over layers, exact; linear in the layers
 */
export function leastPath<Choice>(
  layers: readonly (readonly Choice[])[],
  { stay, go }: PathCosts<Choice>,
): { readonly path: Choice[]; readonly cost: number } {
  let costs: readonly number[] = [];
  const cameFrom: number[][] = [];
  layers.forEach((choices, layer) => {
    if (choices.length === 0) throw new InvariantError(`layer ${layer} offers nothing`);
    const before = layers[layer - 1];
    const found = choices.map((choice) => {
      if (!before) return { cost: 0, from: -1 };
      let [cost, from] = [Infinity, -1];
      before.forEach((other, n) => {
        const way = (costs[n] ?? Infinity) + go(other, choice, layer);
        if (way < cost - 1e-9) [cost, from] = [way, n];
      });
      return { cost, from };
    });
    costs = found.map(({ cost }, n) => {
      const choice = choices[n];
      return choice === undefined ? Infinity : cost + stay(choice, layer);
    });
    cameFrom.push(found.map(({ from }) => from));
  });
  if (layers.length === 0) return { path: [], cost: 0 };
  let at = costs.reduce((best, cost, n) => (cost < (costs[best] ?? Infinity) - 1e-9 ? n : best), 0);
  const cost = costs[at] ?? 0;
  const path: Choice[] = [];
  for (let layer = layers.length - 1; layer >= 0; layer -= 1) {
    const choice = layers[layer]?.[at];
    if (choice !== undefined) path.unshift(choice);
    at = cameFrom[layer]?.[at] ?? 0;
  }
  return { path, cost };
}

/** What one way through the choices costs. Shape: one choice a layer */
export function pathCost<Choice>(path: readonly Choice[], { stay, go }: PathCosts<Choice>): number {
  return path.reduce((sum, choice, layer) => {
    const before = path[layer - 1];
    return sum + stay(choice, layer) + (before === undefined ? 0 : go(before, choice, layer));
  }, 0);
}
