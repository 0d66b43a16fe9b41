import type { AddedHarm, AirPlace, PlaceKind } from './places.js';

const PLACES: Readonly<Record<PlaceKind, string>> = {
  rest: 'in the rest',
  'quick rest': 'in the short rest, quickly',
  'breath mark': 'at the printed breath',
  hold: 'after the hold',
  'phrase end': 'where the phrase ends',
  'long note': 'after the long note',
  'marked place': 'where you marked it possible',
  'bar line': 'at the bar line',
  'tongued note': 'between two tongued notes',
  'inside a slur': 'inside a slur: it breaks the line',
};

const ADDED: Readonly<Record<AddedHarm, string>> = {
  leading: 'the note before it leads up and is cut off from its goal',
  crescendo: 'the crescendo loses its goal',
  resolution: 'it parts the step from its downbeat',
  short: 'the note before it is too short to give away its end',
};

/** Why a place is good or bad. Shape: "at the bar line; the crescendo loses its goal" */
export function placeText({ kind, added }: Pick<AirPlace, 'kind' | 'added'>): string {
  return [PLACES[kind], ...added.map((name) => ADDED[name])].join('; ');
}
