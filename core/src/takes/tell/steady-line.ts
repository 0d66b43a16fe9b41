/**
 * A place on a line of times: `step` from the place before it on the written clock; `seen` null where nothing was heard.
 * Shape:  `isBroken` where time stood still, or jumped, between the place before and this one
 * Units:  seconds; `spread` the standard deviation to be expected of what was seen
 */
export interface LinePoint {
  readonly step: number;
  readonly isBroken: boolean;
  readonly seen: number | null;
  readonly spread: number;
}

/** Where the line goes through a place, and how steep it is there. Units: seconds; seconds a second of the written clock */
export interface LinePlace {
  readonly seconds: number;
  readonly pace: number;
}

/** How much a pace wanders: its variance, as a share of the pace squared, after a second of the written clock. */
const WANDERS = [1e-4, 3e-4, 1e-3, 3e-3, 1e-2, 3e-2];
/** How much farther from their time notes may stand than is expected. */
const STRAYS = [0.7, 1, 1.4, 2];
/** Degrees of freedom (Student's t): of what is seen, where few are far off; of the pace, which mostly stays and at times is another at once. */
const FREEDOM = { seen: 4, pace: 1 };
const ROUNDS = 8;
/** How little is known of a time after a break, and of the pace at the beginning (a share). Units: standard deviations, seconds */
const UNKNOWN = { seconds: 10, pace: 0.3 };

/**
 * The steadiest line of times that what was seen speaks for: a pace that wanders, or changes at once where many say so,
 * but does not follow a single early note. How much it wanders, and how far notes stray, is what makes the whole likeliest.
 * Shape:  a place a point
 * Units:  as LinePlace; `pace` about how steep the line is
 * Source: local linear trend with a smoother of Kalman's kind (Rauch, Tung and Striebel 1965); Student's t by weights
 *         that are reckoned anew (Lange, Little and Taylor 1989); both from memory
 */
export function steadyLine(points: readonly LinePoint[], pace: number): readonly LinePlace[] {
  let [best, likeliest] = [[] as readonly LinePlace[], -Infinity];
  for (const wander of WANDERS)
    for (const stray of STRAYS) {
      const { places, likelihood } = lineFor(points, { pace, wander: wander * pace * pace, stray });
      if (likelihood > likeliest) [best, likeliest] = [places, likelihood];
    }
  return best;
}

interface Manner {
  readonly pace: number;
  readonly wander: number;
  readonly stray: number;
}

/** What is believed of a place: time and pace with their variances and what they have in common. */
interface Belief extends LinePlace {
  readonly ofSeconds: number;
  readonly shared: number;
  readonly ofPace: number;
}

/** A point with what the last round says of it: shares of its weight. */
interface Weighed extends LinePoint {
  readonly trust: number;
  readonly calm: number;
}

function lineFor(
  points: readonly LinePoint[],
  manner: Manner,
): { places: readonly LinePlace[]; likelihood: number } {
  let weighed = points.map((point): Weighed => ({ ...point, trust: 1, calm: 1 }));
  for (let round = 1; ; round += 1) {
    const { ahead, known, likelihood } = goForward(weighed, manner);
    const { places, turns } = goBack(weighed, ahead, known);
    if (round === ROUNDS) return { places, likelihood };
    weighed = weighed.map((point, n) =>
      weighedAnew(point, { belief: places[n], turn: turns[n] ?? 0, manner }),
    );
  }
}

function weighedAnew(
  point: Weighed,
  { belief, turn, manner }: { belief: Belief | undefined; turn: number; manner: Manner },
): Weighed {
  const variance = (point.spread * manner.stray) ** 2;
  const off =
    point.seen === null || !belief ? 0 : ((point.seen - belief.seconds) ** 2 + belief.ofSeconds) / variance;
  return {
    ...point,
    trust: (FREEDOM.seen + 1) / (FREEDOM.seen + off),
    calm: point.step > 0 ? (FREEDOM.pace + 1) / (FREEDOM.pace + turn / (manner.wander * point.step)) : 1,
  };
}

/** What is believed of each place before it is seen, and after. */
function goForward(
  points: readonly Weighed[],
  { pace, wander, stray }: Manner,
): { ahead: Belief[]; known: Belief[]; likelihood: number } {
  const [ahead, known]: [Belief[], Belief[]] = [[], []];
  let likelihood = 0;
  let last: Belief = {
    seconds: points.find(({ seen }) => seen !== null)?.seen ?? 0,
    pace,
    ofSeconds: UNKNOWN.seconds ** 2,
    shared: 0,
    ofPace: (UNKNOWN.pace * pace) ** 2,
  };
  for (const { step, isBroken, seen, spread, trust, calm } of points) {
    const next = carried(last, { step, isBroken, wander: wander / calm });
    ahead.push(next);
    last = next;
    if (seen !== null) {
      const variance = next.ofSeconds + (spread * stray) ** 2 / trust;
      const off = seen - next.seconds;
      if (!isBroken) likelihood -= 0.5 * (Math.log(variance) + off ** 2 / variance);
      const [ofSeconds, ofPace] = [next.ofSeconds / variance, next.shared / variance];
      last = {
        seconds: next.seconds + ofSeconds * off,
        pace: next.pace + ofPace * off,
        ofSeconds: next.ofSeconds * (1 - ofSeconds),
        shared: next.shared * (1 - ofSeconds),
        ofPace: next.ofPace - ofPace * next.shared,
      };
    }
    known.push(last);
  }
  return { ahead, known, likelihood };
}

function carried(
  { seconds, pace, ofSeconds, shared, ofPace }: Belief,
  { step, isBroken, wander }: { readonly step: number; readonly isBroken: boolean; readonly wander: number },
): Belief {
  return {
    seconds: seconds + step * pace,
    pace,
    ofSeconds:
      ofSeconds +
      2 * step * shared +
      step ** 2 * ofPace +
      (wander * step ** 3) / 3 +
      (isBroken ? UNKNOWN.seconds ** 2 : 0),
    shared: shared + step * ofPace + (wander * step ** 2) / 2,
    ofPace: ofPace + wander * step,
  };
}

/** What all that was seen says of each place, and by how much (squared) the pace turns before it. */
function goBack(
  points: readonly Weighed[],
  ahead: readonly Belief[],
  known: readonly Belief[],
): { places: Belief[]; turns: number[] } {
  const places = [...known];
  const turns = points.map(() => 0);
  for (let n = points.length - 2; n >= 0; n -= 1) {
    const [here, next, later, point] = [known[n], ahead[n + 1], places[n + 1], points[n + 1]];
    if (!here || !next || !later || !point) continue;
    if (point.step === 0 && !point.isBroken) {
      places[n] = later;
      continue;
    }
    const place = lookedBack(here, { next, later, step: point.step });
    places[n] = place.belief;
    turns[n + 1] = (later.pace - place.belief.pace) ** 2 + place.turn;
  }
  return { places, turns };
}

function lookedBack(
  here: Belief,
  { next, later, step }: { readonly next: Belief; readonly later: Belief; readonly step: number },
): { belief: Belief; turn: number } {
  const whole = next.ofSeconds * next.ofPace - next.shared ** 2;
  // What time and pace here have in common with those of the next place.
  const time = [here.ofSeconds + step * here.shared, here.shared] as const;
  const pace = [here.shared + step * here.ofPace, here.ofPace] as const;
  const gain = ([own, other]: readonly [own: number, other: number]): readonly [number, number] => [
    (own * next.ofPace - other * next.shared) / whole,
    (other * next.ofSeconds - own * next.shared) / whole,
  ];
  const [[t0, t1], [p0, p1]] = [gain(time), gain(pace)];
  const [offTime, offPace] = [later.seconds - next.seconds, later.pace - next.pace];
  const [d0, d1, d2] = [
    later.ofSeconds - next.ofSeconds,
    later.shared - next.shared,
    later.ofPace - next.ofPace,
  ];
  const belief = {
    seconds: here.seconds + t0 * offTime + t1 * offPace,
    pace: here.pace + p0 * offTime + p1 * offPace,
    ofSeconds: here.ofSeconds + t0 * (t0 * d0 + t1 * d1) + t1 * (t0 * d1 + t1 * d2),
    shared: here.shared + p0 * (t0 * d0 + t1 * d1) + p1 * (t0 * d1 + t1 * d2),
    ofPace: here.ofPace + p0 * (p0 * d0 + p1 * d1) + p1 * (p0 * d1 + p1 * d2),
  };
  const both = p0 * later.shared + p1 * later.ofPace;
  return { belief, turn: Math.max(0, later.ofPace + belief.ofPace - 2 * both) };
}
