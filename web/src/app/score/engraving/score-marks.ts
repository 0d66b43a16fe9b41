import type { CueLook } from '@vivid-cue/core/cue-kinds';
import type { EngravedNote, NotePlace } from '@vivid-cue/core/reading';

/** What is drawn over and behind the engraved music. Shape: lists by measure index; null where a layer is off. */
export interface ScoreMarks {
  readonly engraved: readonly (readonly EngravedNote[])[];
  /** What each measure asks, 0 to 1. */
  readonly heat: readonly (number | null)[] | null;
  readonly articulations: boolean;
  /** The note that is asked for, such as "C" or "Bb"; OFF_KEY for all that the key does not have. */
  readonly name: string | null;
  readonly rhythms: readonly (string | null)[] | null;
  /** Measures that come again: "= 3" or "~ 3". */
  readonly alike: readonly (string | null)[] | null;
  /** Measures with an open finding, and with a kept one. */
  readonly findings: ReadonlyMap<number, 'open' | 'kept'> | null;
  /** Signs at notes, by measure index: what was settled, and what is offered. */
  readonly signs: ReadonlyMap<number, readonly ScoreSign[]>;
}

/** A sign at a note. Shape: `note` from 1, null for the measure; fingers below, bows above, breaths after their note */
export interface ScoreSign {
  readonly note: number | null;
  readonly text: string;
  readonly place: 'below' | 'above' | 'after';
  readonly isOffered: boolean;
  /** How far into the measure a sign at no note stands: 0 its beginning, 1 its end. */
  readonly share?: number | null;
  /** In which ink and shape; as chosen notes are where none is told. */
  readonly look?: CueLook;
  /** The cue that it stands for, which can be dragged to another note. */
  readonly cueId?: string;
}

/** The chosen finding in the music. */
export interface ChosenMarks {
  readonly places: ReadonlySet<number>;
  readonly notes: readonly NotePlace[];
}

/** Articulations by the shape that shows each; kinds without one get the last. */
export const ARTICULATION_SHAPES = {
  tongued: 'ring',
  slurred: 'bow',
  staccato: 'dot',
  tenuto: 'bar',
  accent: 'wedge',
  'strong accent': 'peak',
  staccatissimo: 'drop',
  other: 'square',
} as const;

/** A shape for articulations. */
export type ArticulationShape = (typeof ARTICULATION_SHAPES)[keyof typeof ARTICULATION_SHAPES];

/** The shape of an articulation by its name. */
export function shapeOf(kind: string): ArticulationShape {
  return kind in ARTICULATION_SHAPES
    ? ARTICULATION_SHAPES[kind as keyof typeof ARTICULATION_SHAPES]
    : ARTICULATION_SHAPES.other;
}

/** Outlines in a square from -1 to 1. */
export const SHAPE_PATHS: Readonly<Record<ArticulationShape, string>> = {
  ring: 'M0-.8A.8.8 0 1 1 0 .8A.8.8 0 1 1 0-.8ZM0-.5A.5.5 0 1 0 0 .5A.5.5 0 1 0 0-.5Z',
  bow: 'M-1 .2Q0-1 1 .2L1 .6Q0-.5-1 .6Z',
  dot: 'M0-.75A.75.75 0 1 1 0 .75A.75.75 0 1 1 0-.75Z',
  bar: 'M-1-.35H1V.35H-1Z',
  wedge: 'M-.9-.8L1 0L-.9 .8Z',
  peak: 'M-.8 .9L0-1L.8 .9Z',
  drop: 'M-.5-1H.5L0 1Z',
  square: 'M-.75-.75H.75V.75H-.75Z',
};

const SVG = 'http://www.w3.org/2000/svg';
/** Size of shapes at a note, in units of the engraving: a staff space is 180. */
const SHAPE_SIZE = 240;
const RING_SIZE = 290;
/** Half of a notehead, which is about 215 wide. */
const HALF_HEAD = 106;
/**
 * Signs stand so far below the lowest note, bows so far above the highest; a breath stands on the upper line, where no
 * note is, and its comma hangs high over its own line of writing.
 */
const SIGN_DROP = 380;
const BOW_RISE = 190;
const BREATH_FALL = 170;
/** A letter of words over the staff is about so wide, a line of them so high. */
const LETTER = 170;
const LINE = 330;
/** An outline below a sign needs so much. */
const FOOT_ROOM = 90;
const MARK = 'vc-mark';

interface Box {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Takes away what was drawn in a measure. */
export function clearMarks(measure: Element, layer: 'layers' | 'chosen'): void {
  for (const node of measure.querySelectorAll(`.${MARK}[data-layer="${layer}"]`)) node.remove();
}

/**
 * Draws the layers of one measure into its engraving.
 * Shape:  places are read from the picture's own numbers, so that nothing has to be laid out
 * Units:  of the engraving
 * Errors: none; notes are left out where the picture has another number of them than the reading
 * Source: the structure of Verovio's SVG: g.measure, g.staff > path, g.note > g.notehead > use
 */
export function drawLayers(measure: Element, index: number, marks: ScoreMarks): void {
  const box = boxOf(measure);
  if (!box) return;
  const heat = marks.heat?.[index];
  if (heat !== null && heat !== undefined)
    behind(measure, box, { kind: 'heat' }).style.setProperty('--heat', String(heat));
  const rhythm = marks.rhythms?.[index];
  if (rhythm)
    behind(measure, box, { kind: 'rhythm' }).dataset['rhythm'] = String((rhythm.charCodeAt(0) - 65) % 4);
  const alike = marks.alike?.[index];
  if (alike) behind(measure, box, { kind: 'alike' });
  const words = [rhythm, alike].filter((text) => text);
  if (words.length > 0) label(measure, box, words.join(' · '));
  const finding = marks.findings?.get(index);
  if (finding) underline(measure, box, finding);
  const signs = marks.signs.get(index);
  if (signs) drawSigns(measure, { box, own: marks.engraved[index] ?? [], signs });
  if (marks.articulations || marks.name !== null) drawNotes(measure, marks.engraved[index] ?? [], marks);
}

/** Draws the chosen finding in one measure. */
export function drawChosen(
  measure: Element,
  index: number,
  {
    chosen,
    engraved,
  }: {
    readonly chosen: ChosenMarks;
    readonly engraved: ScoreMarks['engraved'];
  },
): void {
  const box = boxOf(measure);
  if (!box || !chosen.places.has(index)) return;
  const ordinals = new Set(chosen.notes.filter((one) => one.index === index).map(({ note }) => note));
  const notes = pairedNotes(measure, engraved[index] ?? []);
  let hasNote = false;
  for (const { node, note } of notes) {
    // Grace notes carry the ordinal of the note they stand after.
    if (note.isGrace || !ordinals.has(note.note)) continue;
    hasNote = true;
    shapeAt(node, { shape: 'ring', size: RING_SIZE, kind: 'chosen-note', layer: 'chosen' });
  }
  if (!hasNote) behind(measure, box, { kind: 'chosen-measure', layer: 'chosen' });
}

function drawNotes(measure: Element, own: readonly EngravedNote[], marks: ScoreMarks): void {
  for (const { node, note } of pairedNotes(measure, own)) {
    if (marks.articulations && note.articulation !== null) {
      const shape = shapeOf(note.articulation);
      shapeAt(node, {
        shape,
        size: SHAPE_SIZE,
        kind: `articulation ${shape}`,
        layer: 'layers',
        isBelow: true,
      });
    }
    if (marks.name !== null && isAsked(note, marks.name))
      shapeAt(node, { shape: 'ring', size: RING_SIZE, kind: 'asked-name', layer: 'layers' });
  }
}

/** Signs that somebody settled or that are offered: in one row below all notes of the measure, breaths over the staff. */
function drawSigns(
  measure: Element,
  {
    box,
    own,
    signs,
  }: { readonly box: Box; readonly own: readonly EngravedNote[]; readonly signs: readonly ScoreSign[] },
): void {
  const placed = pairedNotes(measure, own).flatMap(({ node, note }) => {
    const place = note.isGrace ? null : headPlace(node);
    return place ? [{ note: note.note, ...place }] : [];
  });
  const low = Math.max(box.bottom, ...heightsOf(measure, BELOW)) + SIGN_DROP;
  // Where the line of music has no room below its notes, signs stand above them.
  const isDeep = low > footOf(measure);
  const high = Math.min(box.top, ...heightsOf(measure, ABOVE)) - BOW_RISE;
  const words = wordsOver(measure);
  for (const { note, text, place, isOffered, cueId, look, share = null } of signs) {
    const isBreath = place === 'after';
    const x = signX({ note, share, isBreath }, placed, box);
    const ink = look ? ` ink-${look.ink}` : '';
    const node = element(
      'text',
      `sign${isOffered ? ' offered' : ''}${isBreath ? ' breath' : ''}${ink}`,
      'layers',
    );
    node.setAttribute('x', String(x));
    const over = isBreath ? box.top + BREATH_FALL : Math.min(high, ...clearOf(words, x));
    const y = place === 'below' && !isDeep ? low : over;
    node.setAttribute('y', String(y));
    if (look && look.shape !== 'bare' && !isBreath)
      measure.append(signShape(look, { x, y, width: (text.length + 0.9) * LETTER }));
    node.setAttribute('text-anchor', 'middle');
    node.textContent = text;
    if (cueId !== undefined) node.dataset['cue'] = cueId;
    measure.append(node);
  }
}

/** The outline of a sign's kind: colour is never alone. */
function signShape(
  { ink, shape }: CueLook,
  { x, y, width }: { readonly x: number; readonly y: number; readonly width: number },
): SVGElement {
  const node = element('path', `sign-shape ink-${ink}`, 'layers');
  node.style.stroke = '';
  const [left, right, top, bottom] = [x - width / 2, x + width / 2, y - 270, y + 70];
  const middle = (top + bottom) / 2;
  const half = (bottom - top) / 2;
  const paths: Readonly<Record<CueLook['shape'], string>> = {
    bare: '',
    box: `M${left} ${top}H${right}V${bottom}H${left}Z`,
    ring: `M${left} ${middle}A${half} ${half} 0 0 1 ${left + half} ${top}H${right - half}A${half} ${half} 0 0 1 ${right - half} ${bottom}H${left + half}A${half} ${half} 0 0 1 ${left} ${middle}Z`,
    lozenge: `M${left - 90} ${middle}L${left + 40} ${top}H${right - 40}L${right + 90} ${middle}L${right - 40} ${bottom}H${left + 40}Z`,
    line: `M${left} ${bottom}H${right}`,
  };
  node.setAttribute('d', paths[shape]);
  return node;
}

/** How far from a note a finger may come down. Units: CSS pixels */
const NOTE_REACH_PX = 22;

/**
 * The note of a measure that is meant at a place of the screen.
 * Shape:  its ordinal; null where none is near enough, or where the picture has other notes than the reading
 * Units:  CSS pixels; the way across counts, as a line is read
 */
export function noteNear(
  measure: Element,
  own: readonly EngravedNote[],
  { x, reach = NOTE_REACH_PX }: { readonly x: number; readonly reach?: number },
): number | null {
  let [near, best] = [reach, null as number | null];
  for (const { node, note } of pairedNotes(measure, own)) {
    if (note.isGrace || note.note === 0) continue;
    const { left, width } = (node.querySelector('.notehead') ?? node).getBoundingClientRect();
    const away = Math.abs(left + width / 2 - x);
    if (away < near) [near, best] = [away, note.note];
  }
  return best;
}

/** How far across a sign stands: at its note, after it, or at its share of the measure. */
function signX(
  {
    note,
    share,
    isBreath,
  }: Pick<ScoreSign, 'note'> & { readonly share: number | null; readonly isBreath: boolean },
  placed: readonly { readonly note: number; readonly x: number }[],
  box: Box,
): number {
  const at = placed.find((one) => one.note === note);
  const begin = placed[0]?.x ?? box.left + 2 * HALF_HEAD;
  const left = at?.x ?? begin + (share ?? 0) * (box.right - begin - 2 * HALF_HEAD);
  if (!isBreath) return left + HALF_HEAD;
  const next = placed.find((one) => at !== undefined && one.x > at.x);
  return (left + (next?.x ?? box.right + HALF_HEAD)) / 2 + HALF_HEAD;
}

/** How low a sign may stand: below its line of music nothing is seen. */
function footOf(measure: Element): number {
  const sheet = measure.closest('svg.definition-scale');
  const height = Number((sheet?.getAttribute('viewBox') ?? '').split(' ')[3] ?? Number.NaN);
  const margin = /translate\([-\d.]+,\s*([-\d.]+)\)/u.exec(
    measure.closest('g.page-margin')?.getAttribute('transform') ?? '',
  );
  return Number.isNaN(height) ? Infinity : height - Number(margin?.[1] ?? 0) - FOOT_ROOM;
}

/** What signs stand clear of: heads, stems and beams, dynamics and hairpins below, slurs and articulations above. */
const BELOW =
  '.notehead use, .stem path, .beam polygon, .slur path, .artic use, .dynam text, .dynam use, .hairpin polyline';
const ABOVE = '.notehead use, .stem path, .beam polygon, .slur path, .artic use';

interface Words {
  readonly left: number;
  readonly right: number;
  readonly top: number;
}

/** Tempos, words and letters over a measure. */
function wordsOver(measure: Element): Words[] {
  return [...measure.querySelectorAll('.tempo text, .dir text, .reh text')].map((node) => {
    const left = Number(node.getAttribute('x'));
    const size = (node.textContent.trim().length + 1) * LETTER;
    return { left: left - LETTER, right: left + size, top: Number(node.getAttribute('y')) - LINE };
  });
}

/** How high a sign must stand at a place to be clear of words. */
function clearOf(words: readonly Words[], x: number): number[] {
  return words.filter(({ left, right }) => x > left && x < right).map(({ top }) => top);
}

/** The heights that parts of a measure's picture reach, read from their own numbers. */
function heightsOf(measure: Element, selector: string): number[] {
  return [...measure.querySelectorAll(selector)]
    .flatMap((node) => {
      const at = node.getAttribute('transform') ?? node.getAttribute('d') ?? node.getAttribute('points');
      if (at === null) return Number(node.getAttribute('y') ?? Number.NaN);
      const numbers = [...at.matchAll(/-?[\d.]+/gu)].map(Number);
      return node.hasAttribute('transform') ? numbers.slice(1, 2) : numbers.filter((_, n) => n % 2 === 1);
    })
    .filter((height) => !Number.isNaN(height));
}

/** Stands for every note that the key does not have. */
export const OFF_KEY = 'off the key';

function isAsked({ name, isOffKey }: EngravedNote, asked: string): boolean {
  return asked === OFF_KEY ? isOffKey : name === asked;
}

function pairedNotes(
  measure: Element,
  own: readonly EngravedNote[],
): { readonly node: Element; readonly note: EngravedNote }[] {
  const nodes = [...measure.querySelectorAll('g.note')];
  if (nodes.length !== own.length) return [];
  return nodes.flatMap((node, n) => {
    const note = own[n];
    return note ? [{ node, note }] : [];
  });
}

/** The five lines of the measure's staff. */
export function boxOf(measure: Element): Box | null {
  const lines = [...measure.querySelectorAll(':scope > g.staff > path')].flatMap((path) => {
    const found = /^M(-?[\d.]+) (-?[\d.]+) L(-?[\d.]+)/u.exec(path.getAttribute('d') ?? '');
    return found ? [found.slice(1).map(Number)] : [];
  });
  if (lines.length === 0) return null;
  const tops = lines.map(([, y = 0]) => y);
  return {
    left: Math.min(...lines.map(([x = 0]) => x)),
    right: Math.max(...lines.map(([, , x = 0]) => x)),
    top: Math.min(...tops),
    bottom: Math.max(...tops),
  };
}

function element(name: string, kind: string, layer: string): SVGElement {
  const node = document.createElementNS(SVG, name);
  node.setAttribute('class', `${MARK} ${kind}`);
  node.dataset['layer'] = layer;
  // The engraving's own rule would draw a line round every shape.
  node.style.stroke = 'none';
  return node;
}

function rectangle(kind: string, { left, right, top, bottom }: Box, layer: string): SVGElement {
  const node = element('rect', kind, layer);
  node.setAttribute('x', String(left));
  node.setAttribute('y', String(top));
  node.setAttribute('width', String(right - left));
  node.setAttribute('height', String(bottom - top));
  return node;
}

function behind(
  measure: Element,
  box: Box,
  { kind, layer = 'layers' }: { readonly kind: string; readonly layer?: string },
): SVGElement {
  const room = 260;
  const node = rectangle(kind, { ...box, top: box.top - room, bottom: box.bottom + room }, layer);
  measure.prepend(node);
  return node;
}

function underline(measure: Element, { left, right, bottom }: Box, tone: 'open' | 'kept'): void {
  const edge = { left: left + 40, right: right - 40, top: bottom + 260, bottom: bottom + 305 };
  measure.prepend(rectangle(`finding ${tone}`, edge, 'layers'));
}

/** At the right over the staff: on the left stand clefs and numbers, below it dynamics. */
function label(measure: Element, { right, top }: Box, text: string): void {
  const node = element('text', 'mark-label', 'layers');
  node.setAttribute('x', String(right - 50));
  node.setAttribute('y', String(top - 290));
  node.setAttribute('text-anchor', 'end');
  node.textContent = text;
  measure.append(node);
}

/** Where a note's head is: its left edge, on its middle line. */
function headPlace(note: Element): { readonly x: number; readonly y: number } | null {
  const place = /translate\((-?[\d.]+),\s*(-?[\d.]+)\)/u.exec(
    note.querySelector('g.notehead use')?.getAttribute('transform') ?? '',
  );
  return place && { x: Number(place[1]), y: Number(place[2]) };
}

function shapeAt(
  note: Element,
  {
    shape,
    size,
    kind,
    layer,
    isBelow = false,
  }: {
    readonly shape: ArticulationShape;
    readonly size: number;
    readonly kind: string;
    readonly layer: string;
    readonly isBelow?: boolean;
  },
): void {
  const place = headPlace(note);
  if (!place) return;
  const [x, y] = [place.x + HALF_HEAD, place.y];
  const node = element('path', kind, layer);
  node.setAttribute('d', SHAPE_PATHS[shape]);
  node.setAttribute('transform', `translate(${x} ${y}) scale(${size})`);
  node.setAttribute('fill-rule', 'evenodd');
  if (isBelow) note.prepend(node);
  else note.append(node);
}
