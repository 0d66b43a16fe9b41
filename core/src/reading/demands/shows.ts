import { meterText } from '../../music/index.js';
import type { Score } from '../../score/index.js';
import type { MeasureDemand } from './demands.js';
import type { Inventory } from '../inventory/inventory.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';

/** What a part tests, as a reasoned guess. Shape: the strongest first. */
export interface Shows {
  readonly what: 'line and tone' | 'technique' | 'articulation' | 'rhythm' | 'style';
  readonly why: string;
}

/** Guesses below this strength are not made; at most two are (our own knees). */
const WEAKEST = 0.5;
const MOST = 2;

/**
 * A guess at what the part shows the jury.
 * Shape:  two guesses at most, none without evidence
 * Source: common practice, no source; the strengths are our own
 */
export function shows(
  score: Score,
  line: SoloLine,
  { inventory, demands }: { readonly inventory: Inventory; readonly demands: readonly MeasureDemand[] },
): Shows[] {
  const notes = line.played.flat();
  if (notes.length === 0) return [];
  const guesses = [...ofTheNotes(notes, { inventory, demands }), ...ofTheWriting(score, notes, inventory)];
  return guesses
    .sort((a, b) => b.strength - a.strength)
    .filter(({ strength }) => strength >= WEAKEST)
    .slice(0, MOST)
    .map(({ what, why }) => ({ what, why }));
}

/** A guess and how much speaks for it, from 0 to 1. */
type Guess = Shows & { readonly strength: number };

function ofTheNotes(
  notes: readonly LineNote[],
  { inventory, demands }: { readonly inventory: Inventory; readonly demands: readonly MeasureDemand[] },
): Guess[] {
  const slurred = notes.filter(({ isSlurredInto }) => isSlurredInto).length / notes.length;
  const rates = demands.map(({ facts }) => facts.rate).sort((a, b) => a - b);
  const rate = rates[Math.floor(rates.length / 2)] ?? 0;
  const kinds = new Set(inventory.articulations.map(({ kind }) => kind).filter((kind) => kind !== 'slurred'));
  const signed = notes.filter(({ signs }) => signs.articulations.length > 0).length / notes.length;
  const usual = `a usual measure has ${rate.toFixed(1)} notes a second`;
  return [
    {
      what: 'line and tone',
      strength: Math.min(1, 0.7 * slurred + 0.6 * Math.max(0, 1 - rate / 4)),
      why: `${percent(slurred)} of the notes are slurred and ${usual}`,
    },
    { what: 'technique', strength: Math.min(1, rate / 9), why: usual },
    {
      what: 'articulation',
      // Two accents over a line of slurs test no articulation.
      strength: signed < 0.15 ? 0 : Math.min(1, 0.8 * signed + 0.12 * kinds.size),
      why: `${percent(signed)} of the notes carry a sign, in ${kinds.size} kinds`,
    },
  ];
}

function ofTheWriting(score: Score, notes: readonly LineNote[], { ornaments }: Inventory): Guess[] {
  const meters = new Set(score.measures.map(({ meter }) => meterText(meter))).size;
  const durations = new Set(notes.map(({ length }) => length.toFixed(4))).size;
  const tuplets = notes.filter(({ signs }) => signs.tuplet !== null).length / notes.length;
  const { words } = score.marks;
  return [
    {
      what: 'rhythm',
      strength: Math.min(1, 0.25 * (meters - 1) + 0.06 * durations + 0.8 * tuplets),
      why: `${meters} meter${meters === 1 ? '' : 's'}, ${durations} durations, ${percent(tuplets)} of the notes in tuplets`,
    },
    {
      what: 'style',
      strength: Math.min(1, (words.length + ornaments.length) / Math.max(8, score.measures.length)),
      why: `${words.length} words and ${ornaments.length} ornaments stand in ${score.measures.length} measures`,
    },
  ];
}

function percent(share: number): string {
  return `${Math.round(share * 100)} %`;
}
