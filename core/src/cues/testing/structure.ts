import { SaxesParser } from 'saxes';

/**
 * The order in which MusicXML 4.0 has the children of some elements; those in one text may be mixed.
 * Source: MusicXML 4.0, score-partwise, identification, note, direction, notations; from memory
 */
const ORDER: Readonly<Record<string, readonly string[]>> = {
  'score-partwise': [
    ...[
      'work',
      'movement-number',
      'movement-title',
      'identification',
      'defaults',
      'credit',
      'part-list',
      'part',
    ],
  ],
  identification: ['creator', 'rights', 'encoding', 'source', 'relation', 'miscellaneous'],
  note: [
    ...['grace', 'cue', 'chord', 'pitch unpitched rest', 'duration', 'tie', 'instrument', 'play', 'footnote'],
    ...[
      'level',
      'voice',
      'type',
      'dot',
      'accidental',
      'time-modification',
      'stem',
      'notehead',
      'notehead-text',
    ],
    ...['staff', 'beam', 'notations', 'lyric', 'listen'],
  ],
  direction: ['direction-type', 'offset', 'footnote', 'level', 'voice', 'staff', 'sound', 'listening'],
};
/** Where an element may stand at all. Source: as above */
const PARENTS: Readonly<Record<string, readonly string[]>> = {
  notations: ['note'],
  technical: ['notations'],
  articulations: ['notations'],
  fingering: ['technical'],
  string: ['technical'],
  'up-bow': ['technical'],
  'down-bow': ['technical'],
  'breath-mark': ['articulations'],
  direction: ['measure', 'part'],
  'direction-type': ['direction'],
  words: ['direction-type'],
  miscellaneous: ['identification'],
  'miscellaneous-field': ['miscellaneous'],
};

/** What of a file's structure is not as MusicXML has it. Shape: sentences, none for a right file */
export function structureSlips(xml: string): string[] {
  const slips: string[] = [];
  const open: { readonly name: string; last: number }[] = [];
  const parser = new SaxesParser({ xmlns: false });
  parser.on('error', (error) => slips.push(error.message));
  parser.on('opentag', ({ name }) => {
    const parent = open.at(-1);
    const allowed = PARENTS[name];
    if (allowed && parent && !allowed.includes(parent.name)) slips.push(`${name} in ${parent.name}`);
    const order = parent && ORDER[parent.name];
    const at = order?.findIndex((names) => names.split(' ').includes(name)) ?? -1;
    if (parent && order) {
      if (at < 0) slips.push(`${name} is no child of ${parent.name}`);
      else if (at < parent.last) slips.push(`${name} stands too late in ${parent.name}`);
      else parent.last = at;
    }
    open.push({ name, last: -1 });
  });
  parser.on('closetag', () => open.pop());
  parser.write(xml).close();
  return slips;
}
