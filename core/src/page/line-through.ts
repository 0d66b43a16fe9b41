/** A point with how much it counts. */
export interface WeighedPoint {
  readonly x: number;
  readonly y: number;
  readonly weight: number;
}

/** The straight line that runs closest to points; level where they stand above one another. Source: weighted least squares */
export function lineThrough(points: readonly WeighedPoint[]): (x: number) => number {
  const all = points.reduce((sum, { weight }) => sum + weight, 0);
  if (all === 0) return () => 0;
  const mean = (of: (point: WeighedPoint) => number): number =>
    points.reduce((sum, point) => sum + point.weight * of(point), 0) / all;
  const [mx, my] = [mean(({ x }) => x), mean(({ y }) => y)];
  const spread = mean(({ x }) => (x - mx) ** 2);
  const slope = spread < 1e-6 ? 0 : mean(({ x, y }) => (x - mx) * (y - my)) / spread;
  return (x) => my + slope * (x - mx);
}
