import type { Finder } from './finding-parts.js';
import { breaths } from '../statements/breaths.js';
import { changes } from '../statements/changes.js';
import { fastRuns } from '../statements/fast-runs.js';
import { foreignNotes } from '../statements/foreign-notes.js';
import { heldOver } from '../statements/held-over.js';
import { leads } from '../statements/leads.js';
import { leaps, ranges } from '../statements/ranges.js';
import { longRests } from '../statements/rests.js';
import { returns } from '../statements/returns.js';
import { awkwardMoves, doubleDots, oddSigns, ornamentNeighbours } from '../statements/signs.js';
import { techniques } from '../statements/techniques.js';
import { tempoReturns } from '../statements/tempo-returns.js';
import { deciding, dynamics, feel, longestNote, meters, telling, tested } from '../statements/whole.js';

/** All that turns a reading into findings. Rhythms and ordinary runs are facts in their panels, not findings. */
export const FINDERS: readonly Finder[] = [
  deciding,
  returns,
  changes,
  meters,
  foreignNotes,
  fastRuns,
  oddSigns,
  heldOver,
  ornamentNeighbours,
  techniques,
  awkwardMoves,
  doubleDots,
  longRests,
  tempoReturns,
  feel,
  leaps,
  leads,
  breaths,
  dynamics,
  longestNote,
  ranges,
  tested,
  telling,
];
