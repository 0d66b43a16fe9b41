import { levelHeight, type ContrastHeard } from './contrasts.js';
import type { HairpinHeard } from './dynamics.js';

/** A printed change that comes out less than this does not reach the listener (the design). Units: LU */
const HEARD = 3;
/** From so much against it a change goes the other way (our own). Units: LU */
const TURNED = 1;
/** Running notes that stray farther than this are heard as uneven, and so little is steady (our own). Units: per cent */
const UNEVEN = 8;
const STEADY = 5;

/** What becomes of a printed change. Shape: `went` along what is printed, less than 0 against it. Units: LU */
export interface Reach {
  readonly went: number;
  readonly isUp: boolean;
  readonly became: 'heard' | 'flat' | 'turned';
}

function reach(isUp: boolean, changeLu: number): Reach {
  const went = isUp ? changeLu : -changeLu;
  return { went, isUp, became: went >= HEARD ? 'heard' : went < -TURNED ? 'turned' : 'flat' };
}

/** What becomes of a hairpin. */
export function hairpinReach({ printed, changeLu }: HairpinHeard): Reach {
  return reach(printed === 'crescendo', changeLu);
}

/** What becomes of a change of level. */
export function contrastReach({ fromLevel, toLevel, changeLu }: ContrastHeard): Reach {
  return reach(levelHeight(toLevel) > levelHeight(fromLevel), changeLu);
}

/** How running notes are heard. Units: per cent that they stray */
export function unevenness(percent: number): 'uneven' | 'nearly even' | 'steady' {
  return percent >= UNEVEN ? 'uneven' : percent <= STEADY ? 'steady' : 'nearly even';
}
