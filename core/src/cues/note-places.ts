import { SaxesParser } from 'saxes';

/** What notations have their signs in. */
export type NotationGroup = 'notations' | 'articulations' | 'technical';

/** A note of the file as it stands in its text. Units: characters from the beginning of the text */
export interface PlacedNote {
  readonly measureIndex: number;
  /** Before its tag; after the last thing that may stand before notations; before its closing tag. */
  readonly begin: number;
  readonly notationsAt: number;
  /** Before the closing tags of what it has already; null for what it has not. */
  readonly ends: Readonly<Record<NotationGroup, number | null>>;
  readonly end: number;
  /** "C#4", "x" for a stroke, null for a rest. */
  readonly pitch: string | null;
  readonly isGrace: boolean;
  readonly isTiedOn: boolean;
}

/** Where a text may be written into. Units: characters from the beginning of the text */
export interface TextPlaces {
  readonly notes: readonly PlacedNote[];
  /** Where each measure's content begins. */
  readonly measures: readonly number[];
  /** Where a field about the file may stand, and what must stand around it. */
  readonly field: { readonly at: number; readonly before: string; readonly after: string } | null;
}

/** Children of a note that stand behind its notations. Source: MusicXML 4.0, element note */
const BEHIND: ReadonlySet<string> = new Set(['lyric', 'play', 'listen']);
/** Children of the score that stand behind its identification. Source: MusicXML 4.0, score-header */
const AFTER_HEAD: ReadonlySet<string> = new Set(['defaults', 'credit', 'part-list']);

interface OpenNote {
  readonly ends: Record<NotationGroup, number | null>;
  begin: number;
  notationsAt: number | null;
  step: string;
  alter: number;
  octave: string;
  isRest: boolean;
  isStroke: boolean;
  isGrace: boolean;
  isCue: boolean;
  isTiedOn: boolean;
}

/**
 * Finds the notes of a part in the text of a MusicXML file.
 * Shape:  notes in the order of the text; cue notes and hidden ones are left out, as the reader leaves them out
 * Units:  characters from the beginning of the text
 * Source: MusicXML 4.0, score-partwise
 */
export function textPlaces(text: string, partId: string): TextPlaces {
  const finder = new PlaceFinder(partId);
  const parser = new SaxesParser({ xmlns: false, position: true });
  const tagAt = (): number => text.lastIndexOf('<', parser.position - 1);
  let begun = 0;
  parser.on('opentagstart', () => {
    begun = tagAt();
  });
  parser.on('opentag', ({ name, attributes }) =>
    finder.open(name, { attributes, begin: begun, end: parser.position }),
  );
  parser.on('text', (more) => finder.hear(more));
  parser.on('closetag', ({ name, isSelfClosing: isEmptyTag }) =>
    finder.close(name, { at: tagAt(), isEmptyTag }),
  );
  parser.write(text).close();
  return finder;
}

interface Tag {
  readonly attributes: Readonly<Record<string, string>>;
  readonly begin: number;
  readonly end: number;
}

class PlaceFinder implements TextPlaces {
  readonly notes: PlacedNote[] = [];
  readonly measures: number[] = [];
  field: TextPlaces['field'] = null;
  private isOwn = false;
  private note: OpenNote | null = null;
  private readonly path: string[] = [];
  private words = '';

  constructor(private readonly partId: string) {}

  open(name: string, { attributes, begin, end }: Tag): void {
    const parent = this.path.at(-1);
    this.path.push(name);
    this.words = '';
    if (parent === 'score-partwise' && name === 'part') this.isOwn = attributes['id'] === this.partId;
    if (this.isOwn && name === 'measure' && parent === 'part') this.measures.push(end);
    if (this.isOwn && name === 'note' && parent === 'measure') this.note = opened(begin, attributes);
    else if (this.note && parent === 'note') entered(this.note, { name, attributes, tagBegin: begin });
    if (parent === 'score-partwise' && AFTER_HEAD.has(name))
      this.field ??= {
        at: begin,
        before: '<identification><miscellaneous>',
        after: '</miscellaneous></identification>',
      };
  }

  hear(more: string): void {
    this.words += more;
  }

  close(name: string, { at, isEmptyTag }: { readonly at: number; readonly isEmptyTag: boolean }): void {
    this.path.pop();
    if (name === 'miscellaneous') this.field ??= { at, before: '', after: '' };
    if (name === 'identification')
      this.field ??= { at, before: '<miscellaneous>', after: '</miscellaneous>' };
    const { note } = this;
    if (!note) return;
    if (name === 'step') note.step = this.words.trim();
    if (name === 'alter') note.alter = Number(this.words.trim());
    if (name === 'octave') note.octave = this.words.trim();
    // The first of each: what comes later of the same name is passed over by many programs.
    if (isGroup(name) && !isEmptyTag) note.ends[name] ??= at;
    if (name !== 'note') return;
    if (!note.isCue) this.notes.push(placed(note, this.measures.length - 1, at));
    this.note = null;
  }
}

function isGroup(name: string): name is NotationGroup {
  return name === 'notations' || name === 'articulations' || name === 'technical';
}

function opened(begin: number, attributes: Readonly<Record<string, string>>): OpenNote {
  return {
    ends: { notations: null, articulations: null, technical: null },
    ...{ begin, notationsAt: null, step: '', alter: 0, octave: '' },
    ...{ isRest: false, isStroke: false, isGrace: false, isTiedOn: false },
    isCue: attributes['print-object'] === 'no',
  };
}

function entered(
  note: OpenNote,
  {
    name,
    attributes,
    tagBegin,
  }: {
    readonly name: string;
    readonly attributes: Readonly<Record<string, string>>;
    readonly tagBegin: number;
  },
): void {
  if (name === 'rest') note.isRest = true;
  if (name === 'unpitched') note.isStroke = true;
  if (name === 'grace') note.isGrace = true;
  if (name === 'cue') note.isCue = true;
  if (name === 'tie' && attributes['type'] === 'stop') note.isTiedOn = true;
  if (BEHIND.has(name)) note.notationsAt ??= tagBegin;
}

const ACCIDENTALS: Readonly<Record<string, string>> = { '-2': 'bb', '-1': 'b', '0': '', '1': '#', '2': '##' };

function placed(note: OpenNote, measureIndex: number, end: number): PlacedNote {
  const { step, alter, octave, isRest, isStroke, isGrace, isTiedOn, begin } = note;
  const pitch = isRest ? null : isStroke ? 'x' : `${step}${ACCIDENTALS[String(alter)] ?? ''}${octave}`;
  return {
    measureIndex,
    begin,
    notationsAt: note.notationsAt ?? end,
    ends: note.ends,
    end,
    pitch,
    isGrace,
    isTiedOn,
  };
}
