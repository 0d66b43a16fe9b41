import type { Quarters } from '../music/index.js';
import { childrenNamed, type XmlNode } from './xml.js';

/** A dynamic sign. Units: quarters from the start of its measure. */
export interface DynamicMark {
  readonly measureIndex: number;
  readonly onset: Quarters;
  /** pp, p, mp, mf, f, ff, sfz, fp … */
  readonly mark: string;
}

/** One end of a hairpin or a word such as "cresc." that begins one. */
export interface HairpinEnd {
  readonly measureIndex: number;
  readonly onset: Quarters;
  readonly type: 'crescendo' | 'diminuendo' | 'stop';
  readonly number: string;
}

/** What directions print: dynamics, ends of hairpins, words. */
export interface DirectionMarks {
  readonly dynamics: readonly DynamicMark[];
  readonly hairpins: readonly HairpinEnd[];
  readonly words: readonly {
    readonly measureIndex: number;
    readonly onset: Quarters;
    readonly text: string;
  }[];
}

/**
 * Reads the dynamics, hairpins and words of a direction.
 * Shape:  empty lists where none stands
 * Units:  quarters from the start of the measure
 * Source: MusicXML 4.0, elements dynamics, wedge, words
 */
export function marksIn(node: XmlNode, measureIndex: number, onset: Quarters): DirectionMarks {
  const types = childrenNamed(node, 'direction-type').flatMap(({ children }) => children);
  const place = { measureIndex, onset };
  return {
    dynamics: dynamicsOf(types).map((mark) => ({ ...place, mark })),
    hairpins: types.flatMap(({ name, attributes }) => {
      const type = attributes['type'];
      const isEnd = name === 'wedge' && (type === 'crescendo' || type === 'diminuendo' || type === 'stop');
      return isEnd ? [{ ...place, type, number: attributes['number'] ?? '1' }] : [];
    }),
    words: types
      .filter(({ name, text }) => name === 'words' && text.trim() !== '')
      .map(({ text }) => ({ ...place, text: text.trim() })),
  };
}

/**
 * Reads the dynamics that a file hangs on a note instead of on a direction.
 * Shape:  no hairpins and no words
 * Units:  quarters from the start of the measure
 * Source: MusicXML 4.0, element notations
 */
export function marksAtNote(node: XmlNode, measureIndex: number, onset: Quarters): DirectionMarks {
  const notations = childrenNamed(node, 'notations').flatMap(({ children }) => children);
  const dynamics = dynamicsOf(notations).map((mark) => ({ measureIndex, onset, mark }));
  return { dynamics, hairpins: [], words: [] };
}

function dynamicsOf(nodes: readonly XmlNode[]): string[] {
  return nodes
    .filter(({ name }) => name === 'dynamics')
    .flatMap(({ children }) => children)
    .map(({ name, text }) => (name === 'other-dynamics' ? text.trim() : name))
    .filter((mark) => mark !== '');
}
