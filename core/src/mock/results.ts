import { concordance, panelResult, type PanelResult } from './agreement.js';
import type { MockItem } from './day.js';

/** What one listener gave for one thing that one player played. Shape: points by criterion; measure indexes that slipped */
export interface GivenScore {
  readonly listenerId: string;
  readonly playerId: string;
  readonly itemId: string;
  readonly points: readonly (number | null)[];
  readonly taps: readonly number[];
}

/** A player with what was called up. */
export interface PlayedDay {
  readonly id: string;
  readonly items: readonly Pick<MockItem, 'id' | 'criteria'>[];
}

/** The result of one thing that was played. Units: points */
export interface ItemResult {
  readonly itemId: string;
  readonly most: number;
  readonly panel: PanelResult | null;
  /** Each criterion's mean of those who gave points for it. */
  readonly criteria: readonly {
    readonly name: string;
    readonly mean: number | null;
    readonly most: number;
  }[];
  /** How many listeners tapped each measure, by its index. */
  readonly taps: ReadonlyMap<number, number>;
}

/** The result of one player. Shape: listeners who scored everything make the panel; `heardBy` how many */
export interface PlayerResult {
  readonly playerId: string;
  readonly most: number;
  readonly panel: PanelResult | null;
  readonly items: readonly ItemResult[];
}

/** The results of a day. Shape: agreement over the things that every listener scored, null below three listeners */
export interface DayResults {
  readonly players: readonly PlayerResult[];
  readonly agreement: number | null;
}

/** A slip that so many listeners tapped is one. Source: the design */
export const TAPPED_BY = 2;

/** What a listener gave in all; null while something is not scored. */
function totalOf(points: readonly (number | null)[] | undefined, count: number): number | null {
  if (points?.length !== count) return null;
  return points.reduce<number | null>((sum, one) => (sum === null || one === null ? null : sum + one), 0);
}

/**
 * What a panel's scores come to, of all players of a day.
 * Shape:  see DayResults; no claim about placing
 * Units:  points
 * Source: the design; Kendall and Babington Smith (1939)
 */
export function dayResults(players: readonly PlayedDay[], scores: readonly GivenScore[]): DayResults {
  const listeners = [...new Set(scores.map(({ listenerId }) => listenerId))];
  const given = new Map(scores.map((one) => [keyOf(one), one]));
  const pointsOf = (listenerId: string, playerId: string, item: PlayedDay['items'][number]): number | null =>
    totalOf(given.get(keyOf({ listenerId, playerId, itemId: item.id }))?.points, item.criteria.length);
  const whole = (listenerId: string, player: PlayedDay): number | null =>
    totalOf(
      player.items.map((item) => pointsOf(listenerId, player.id, item)),
      player.items.length,
    );
  return {
    players: players.map((player) => ({
      playerId: player.id,
      most: player.items.reduce((sum, item) => sum + mostOf(item), 0),
      panel: panelResult(listeners.flatMap((id) => whole(id, player) ?? [])),
      items: player.items.map((item) => itemResult(player.id, item, { listeners, given, pointsOf })),
    })),
    agreement: agreementOf(players, listeners, pointsOf),
  };
}

function keyOf({
  listenerId,
  playerId,
  itemId,
}: Pick<GivenScore, 'listenerId' | 'playerId' | 'itemId'>): string {
  return `${listenerId} ${playerId} ${itemId}`;
}

function mostOf({ criteria }: PlayedDay['items'][number]): number {
  return criteria.reduce((sum, { points }) => sum + points, 0);
}

type PointsOf = (listenerId: string, playerId: string, item: PlayedDay['items'][number]) => number | null;

interface Given {
  readonly listeners: readonly string[];
  readonly given: ReadonlyMap<string, GivenScore>;
  readonly pointsOf: PointsOf;
}

function itemResult(
  playerId: string,
  item: PlayedDay['items'][number],
  { listeners, given, pointsOf }: Given,
): ItemResult {
  const own = listeners.flatMap(
    (listenerId) => given.get(keyOf({ listenerId, playerId, itemId: item.id })) ?? [],
  );
  const taps = new Map<number, number>();
  for (const one of own) for (const index of new Set(one.taps)) taps.set(index, (taps.get(index) ?? 0) + 1);
  return {
    itemId: item.id,
    most: mostOf(item),
    panel: panelResult(listeners.flatMap((id) => pointsOf(id, playerId, item) ?? [])),
    criteria: item.criteria.map(({ name, points: most }, n) => {
      const values = own.flatMap(({ points }) => points[n] ?? []);
      const mean = values.length === 0 ? null : values.reduce((sum, one) => sum + one, 0) / values.length;
      return { name, mean, most };
    }),
    taps,
  };
}

/** How far listeners agree on what went better and what went worse: shares of the points, over what all of them scored. */
function agreementOf(
  players: readonly PlayedDay[],
  listeners: readonly string[],
  pointsOf: PointsOf,
): number | null {
  const rows = listeners.map((listenerId) =>
    players.flatMap((player) =>
      player.items.map((item) => {
        const points = pointsOf(listenerId, player.id, item);
        return points === null ? null : points / Math.max(1, mostOf(item));
      }),
    ),
  );
  const scoring = rows.filter((row) => row.some((one) => one !== null));
  const all = (scoring[0] ?? []).flatMap((_, n) => (scoring.every((row) => row[n] != null) ? [n] : []));
  return concordance(scoring.map((row) => all.map((n) => row[n] ?? 0)));
}

/** The measures that slipped for the panel. Shape: indexes that at least two listeners tapped, ascending */
export function panelSlips({ taps }: Pick<ItemResult, 'taps'>): number[] {
  return [...taps].flatMap(([index, count]) => (count >= TAPPED_BY ? [index] : [])).sort((a, b) => a - b);
}
