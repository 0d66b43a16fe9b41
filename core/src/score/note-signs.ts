import { child, childrenNamed, childText, type XmlNode } from './xml.js';

/** Articulation signs by the names that musicians use; others keep their MusicXML name. */
const ARTICULATION_NAMES: Readonly<Record<string, string>> = {
  'strong-accent': 'strong accent',
  'detached-legato': 'detached legato',
};

/**
 * What is printed at a note beside its pitch and length.
 * Shape:  lists are empty and values null where nothing stands; `beams` of the first level only
 * Source: MusicXML 4.0, elements articulations, ornaments, slur, beam, accidental, time-modification, type, dot
 */
export interface NoteSigns {
  /** staccato, tenuto, accent, strong accent, staccatissimo … in the order of the file. */
  readonly articulations: readonly string[];
  /** trill, turn, inverted-turn, mordent, inverted-mordent, tremolo … */
  readonly ornaments: readonly string[];
  /** The accidental printed above or below an ornament: it alters the neighbour. */
  readonly ornamentAccidental: string | null;
  readonly slurStarts: number;
  readonly slurStops: number;
  readonly beam: 'begin' | 'continue' | 'end' | null;
  /** The accidental that is printed: sharp, flat, natural … */
  readonly accidental: string | null;
  /** Notes in the time of others: [3, 2] for triplets; nested tuplets multiply. */
  readonly tuplet: readonly [actual: number, normal: number] | null;
  readonly noteType: string | null;
  readonly dots: number;
  readonly hasFermata: boolean;
  readonly hasBreath: boolean;
  readonly graceSlash: boolean;
  /** How it is played: up-bow, down-bow, stopped, open-string, harmonic, snap-pizzicato … */
  readonly techniques: readonly string[];
  /** Strokes through the stem: three are a roll, or a tremolo of thirty-seconds. */
  readonly tremolo: number;
}

/** Technical signs that only say which finger, string or position. */
const FINGERS: ReadonlySet<string> = new Set(['fingering', 'string', 'fret', 'pluck', 'other-technical']);
const NO_ORNAMENTS: ReadonlySet<string> = new Set(['accidental-mark', 'wavy-line']);

/**
 * Reads the signs of a note.
 * Errors: none; unknown elements are passed over
 * Source: MusicXML 4.0, element notations
 */
export function readSigns(node: XmlNode): NoteSigns {
  const notations = childrenNamed(node, 'notations').flatMap(({ children }) => children);
  const inside = (name: string): readonly XmlNode[] =>
    notations.filter((one) => one.name === name).flatMap(({ children }) => children);
  const articulations = inside('articulations').map(({ name }) => name);
  const slurs = notations.filter(({ name }) => name === 'slur').map(({ attributes }) => attributes['type']);
  const accidental = child(node, 'accidental');
  const beam = childrenNamed(node, 'beam').find(({ attributes }) => (attributes['number'] ?? '1') === '1');
  const tremolo = inside('ornaments').find(({ name }) => name === 'tremolo');
  return {
    articulations: articulations
      .filter((name) => name !== 'breath-mark' && name !== 'caesura')
      .map((name) => ARTICULATION_NAMES[name] ?? name),
    ornaments: inside('ornaments')
      .filter(({ name }) => !NO_ORNAMENTS.has(name))
      .map(({ name }) => name.replace(/-mark$/u, '')),
    ornamentAccidental:
      [...inside('ornaments'), ...notations].find(({ name }) => name === 'accidental-mark')?.text.trim() ??
      null,
    slurStarts: slurs.filter((type) => type === 'start').length,
    slurStops: slurs.filter((type) => type === 'stop').length,
    beam: beamOf(beam?.text.trim()),
    accidental: accidental ? accidental.text.trim() : null,
    tuplet: tupletOf(child(node, 'time-modification')),
    noteType: childText(node, 'type'),
    dots: childrenNamed(node, 'dot').length,
    hasFermata: notations.some(({ name }) => name === 'fermata'),
    hasBreath: articulations.includes('breath-mark') || articulations.includes('caesura'),
    graceSlash: child(node, 'grace')?.attributes['slash'] === 'yes',
    techniques: inside('technical')
      .map(({ name }) => name)
      .filter((name) => !FINGERS.has(name)),
    tremolo: tremolo ? Number(tremolo.text.trim()) || 3 : 0,
  };
}

function beamOf(text: string | undefined): NoteSigns['beam'] {
  return text === 'begin' || text === 'continue' || text === 'end' ? text : null;
}

function tupletOf(node: XmlNode | undefined): NoteSigns['tuplet'] {
  const [actual, normal] = [Number(childText(node, 'actual-notes')), Number(childText(node, 'normal-notes'))];
  return actual > 0 && normal > 0 && actual !== normal ? [actual, normal] : null;
}
