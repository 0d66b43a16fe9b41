import { asSeconds, type QuarterCount, type Seconds } from '../music/index.js';
import { secondsOver, secondsTo, type Pace } from '../reading/index.js';
import { placesAt, type AirMusic, type AirPlace } from './places.js';
import { chooseStops, leastReach, type Stop } from './choose-stops.js';
import { capacityFor, usableAir } from './fit.js';

/** A place that was settled. Units: quarters from the beginning to where the sound before it ends */
export interface AirPin {
  readonly at: QuarterCount;
  readonly kind: 'must' | 'never';
}

/** What a plan is made for. Shape: `capacity` what a long tone lasts. Units: seconds */
export interface AirWish {
  readonly pace: Pace;
  readonly capacity: Seconds;
  readonly pins?: readonly AirPin[];
}

/** Sound in one breath. Units: quarters from the beginning; seconds */
export interface AirStretch {
  readonly from: QuarterCount;
  readonly to: QuarterCount;
  readonly seconds: Seconds;
}

/** A breath of a plan. */
export interface PlannedBreath {
  readonly place: AirPlace;
  readonly isPinned: boolean;
  /** How many times faster the music must go for this breath to be needed no more, the others staying; null for a rest. */
  readonly needlessAt: number | null;
}

/**
 * Where to breathe.
 * Shape:  without a plan that fits `breaths` are the rests alone and `isFeasible` is false
 * Units:  see the members
 */
export interface BreathPlan {
  readonly isFeasible: boolean;
  readonly stretches: readonly AirStretch[];
  readonly breaths: readonly PlannedBreath[];
  readonly harm: number;
  /** What a long tone must last at least for any plan at this tempo. */
  readonly leastCapacity: Seconds;
  /** What it must last for no breath but in rests. */
  readonly oneBreathCapacity: Seconds;
  /** How many times faster the music must go for no breath but in rests; under 1 where it may go slower. */
  readonly oneBreathSpeed: number;
}

/**
 * The breaths that make every stretch fit the air at the least harm. Rests long enough are always breathed in.
 * Shape:  breaths rising
 * Units:  seconds, quarters
 * Source: docs/computation.md §5, dynamic programming
 */
export function breathPlan(noted: AirMusic, { pace, capacity, pins = [] }: AirWish): BreathPlan {
  const music = { ...noted, places: placesAt(noted, pace) };
  const stops = stopsOf(music, pace, pins);
  const reach = { start: secondsTo(pace, music.start), end: secondsTo(pace, music.end) };
  const usable = usableAir(capacity);
  const found = chooseStops(stops, { ...reach, usable });
  const rests = stops.flatMap(({ pin }, n) => (pin === 'must' ? [n] : []));
  const chosen = found ?? rests;
  const free = music.places.flatMap((place, n) =>
    place.kind === 'rest' && stops[n]?.pin === 'must' ? [n] : [],
  );
  const oneBreath = Math.max(...stretchesAt(music, pace, free).map(({ seconds }) => seconds));
  return {
    isFeasible: found !== null,
    stretches: stretchesAt(music, pace, chosen),
    breaths: chosen.flatMap((n, k): readonly PlannedBreath[] => {
      const place = music.places[n];
      if (!place) return [];
      const between = { from: music.places[chosen[k - 1] ?? -1], to: music.places[chosen[k + 1] ?? -1] };
      return [
        {
          place,
          isPinned: pinAt(pins, place)?.kind === 'must',
          needlessAt:
            place.kind === 'rest'
              ? null
              : secondsOver(pace, between.from?.resumes ?? music.start, between.to?.at ?? music.end) / usable,
        },
      ];
    }),
    harm: chosen.reduce((sum, n) => sum + (music.places[n]?.harm ?? 0), 0),
    leastCapacity: capacityFor(asSeconds(leastReach(stops, reach))),
    oneBreathCapacity: capacityFor(asSeconds(oneBreath)),
    oneBreathSpeed: oneBreath / usable,
  };
}

/** Music whose places are weighed at a tempo. */
type PlacedMusic = Omit<AirMusic, 'places'> & { readonly places: readonly AirPlace[] };

function pinAt(pins: readonly AirPin[], { at }: { readonly at: QuarterCount }): AirPin | undefined {
  return pins.find((pin) => Math.abs(pin.at - at) < 1e-6);
}

function stopsOf({ places }: PlacedMusic, pace: Pace, pins: readonly AirPin[]): Stop[] {
  return places.map((place) => ({
    until: secondsTo(pace, place.at),
    from: secondsTo(pace, place.resumes),
    harm: place.harm,
    pin: pinAt(pins, place)?.kind ?? (place.kind === 'rest' ? 'must' : null),
  }));
}

function stretchesAt(
  { start, end, places }: PlacedMusic,
  pace: Pace,
  chosen: readonly number[],
): AirStretch[] {
  const stops = chosen.flatMap((n) => places[n] ?? []);
  const froms = [start, ...stops.map(({ resumes }) => resumes)];
  const tos = [...stops.map(({ at }) => at), end];
  return froms.map((from, n) => {
    const to = tos[n] ?? end;
    return { from, to, seconds: secondsOver(pace, from, to) };
  });
}

/** A way to make a phrase possible that is not. Units: seconds; how many times faster */
export type AirWay =
  | { readonly kind: 'air'; readonly capacity: Seconds }
  | { readonly kind: 'tempo'; readonly speed: number }
  | { readonly kind: 'place'; readonly place: AirPlace };

/**
 * What would make a phrase possible: more air, a faster tempo, or a breath at a place that was ruled out.
 * Shape:  nothing for a plan that fits, which whoever has it gives along; the place is the least harmful one whose pin, taken back, makes a plan
 * Units:  see AirWay
 */
export function waysToBreathe(
  music: AirMusic,
  wish: AirWish,
  plan: BreathPlan = breathPlan(music, wish),
): AirWay[] {
  if (plan.isFeasible) return [];
  const { pace, capacity, pins = [] } = wish;
  const places = placesAt(music, pace);
  const place = pins
    .filter(({ kind }) => kind === 'never')
    .flatMap((pin) => {
      const others = pins.filter((one) => one !== pin);
      const isEnough = breathPlan(music, { pace, capacity, pins: others }).isFeasible;
      const own = places.find((one) => pinAt([pin], one));
      return isEnough && own ? [own] : [];
    })
    .sort((a, b) => a.harm - b.harm)[0];
  return [
    { kind: 'air', capacity: plan.leastCapacity },
    { kind: 'tempo', speed: plan.leastCapacity / capacity },
    ...(place ? [{ kind: 'place' as const, place }] : []),
  ];
}
