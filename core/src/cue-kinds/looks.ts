import type { CueKind } from './kinds.js';

/** Inks in which cues are written; each is legible on both grounds. */
export const CUE_INKS = ['teal', 'brick', 'plum', 'moss', 'slate', 'umber'] as const;
/** Shapes round or under a cue's sign: colour is never alone. */
export const CUE_SHAPES = ['bare', 'ring', 'box', 'lozenge', 'line'] as const;

/** One ink. */
export type CueInk = (typeof CUE_INKS)[number];
/** One shape. */
export type CueShape = (typeof CUE_SHAPES)[number];

/** How cues of a kind are drawn. */
export interface CueLook {
  readonly ink: CueInk;
  readonly shape: CueShape;
}

/** How a studio draws a kind. */
export interface KindLook extends CueLook {
  readonly kind: CueKind;
}

/** How kinds are drawn until a studio chooses: what the hands do is bare, what the ear and head do has a shape. */
const USUAL: Readonly<Record<CueKind, CueLook>> = {
  trap: { ink: 'brick', shape: 'lozenge' },
  breath: { ink: 'teal', shape: 'bare' },
  fingering: { ink: 'plum', shape: 'bare' },
  slide: { ink: 'plum', shape: 'bare' },
  stick: { ink: 'plum', shape: 'bare' },
  roll: { ink: 'plum', shape: 'line' },
  bow: { ink: 'slate', shape: 'bare' },
  string: { ink: 'slate', shape: 'ring' },
  dynamic: { ink: 'moss', shape: 'line' },
  ornament: { ink: 'umber', shape: 'ring' },
  articulation: { ink: 'umber', shape: 'line' },
  character: { ink: 'moss', shape: 'box' },
  rhythm: { ink: 'brick', shape: 'line' },
  ear: { ink: 'teal', shape: 'ring' },
  equipment: { ink: 'umber', shape: 'box' },
  other: { ink: 'slate', shape: 'box' },
};

/** How a kind is drawn: as the studio chose, or as usual. */
export function lookOf(kind: CueKind, chosen: readonly KindLook[]): CueLook {
  const own = chosen.find((look) => look.kind === kind);
  return own ? { ink: own.ink, shape: own.shape } : USUAL[kind];
}

/** Inks as colours on light paper, as the screen has them. */
const COLOURS: Readonly<Record<CueInk, string>> = {
  teal: '#0F5E63',
  brick: '#A63D2F',
  plum: '#7A3E6E',
  moss: '#4C5A14',
  slate: '#2F5D9B',
  umber: '#7A4B00',
};

/** The colour of an ink on paper. Shape: "#0F5E63" */
export function inkColour(ink: CueInk): string {
  return COLOURS[ink];
}
