import type { Seconds } from '../music/index.js';

/**
 * A place where one may stop, in time.
 * Units: `until` when the sound before ends, `from` when it goes on: seconds
 */
export interface Stop {
  readonly until: Seconds;
  readonly from: Seconds;
  readonly harm: number;
  /** Whether one stops here whatever comes, or never. */
  readonly pin: 'must' | 'never' | null;
}

/** What is to be covered, and how long one stretch may be. Units: seconds */
export interface Reach {
  readonly start: Seconds;
  readonly end: Seconds;
  readonly usable: Seconds;
}

/** Of two plans of equal harm the one with fewer stops is taken; each counts so little (our own). */
const STOP_COST = 1e-3;
const NEAR = 1e-6;

interface Node {
  readonly cost: number;
  readonly longest: number;
  readonly before: number;
}

/**
 * The stops that make every stretch fit at the least harm.
 * Shape:  rising indexes of `stops`; null where no choice makes every stretch fit; of equal harm fewer stops, then the one
 *         whose longest stretch is shorter
 * Units:  seconds
 * Source: dynamic programming over the places, exact; each looks back only as far as one stretch reaches
 */
export function chooseStops(stops: readonly Stop[], { start, end, usable }: Reach): number[] | null {
  const nodes: (Node | null)[] = [{ cost: 0, longest: 0, before: -1 }];
  const fromOf = (node: number): Seconds => (node === 0 ? start : (stops[node - 1]?.from ?? end));
  const all = [...stops, { until: end, from: end, harm: 0, pin: 'must' as const }];
  all.forEach(({ until, harm, pin }, n) => {
    let best: Node | null = null;
    for (let node = n; pin !== 'never' && node >= 0; node -= 1) {
      const stretch = until - fromOf(node);
      if (stretch > usable + NEAR) break;
      const way = nodes[node];
      if (way) best = better(best, joined(way, { node, stretch, cost: harm + STOP_COST }));
      if (stops[node - 1]?.pin === 'must') break;
    }
    nodes.push(best);
  });
  return path(nodes);
}

function joined(
  way: Node,
  { node, stretch, cost }: { readonly node: number; readonly stretch: number; readonly cost: number },
): Node {
  return { cost: way.cost + cost, longest: Math.max(way.longest, stretch), before: node };
}

function better(one: Node | null, other: Node): Node {
  if (!one || other.cost < one.cost - NEAR) return other;
  return other.cost < one.cost + NEAR && other.longest < one.longest - NEAR ? other : one;
}

function path(nodes: readonly (Node | null)[]): number[] | null {
  const last = nodes.at(-1);
  if (!last) return null;
  const chosen: number[] = [];
  for (let node = last.before; node > 0; node = nodes[node]?.before ?? 0) chosen.unshift(node - 1);
  return chosen;
}

/** The longest stretch that no stop can cut: what must fit whatever is planned. Units: seconds */
export function leastReach(stops: readonly Stop[], { start, end }: Omit<Reach, 'usable'>): number {
  let [from, least]: [number, number] = [start, 0];
  for (const stop of stops) {
    if (stop.pin === 'never') continue;
    least = Math.max(least, stop.until - from);
    from = stop.from;
  }
  return Math.max(least, end - from);
}
