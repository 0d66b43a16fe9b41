import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { ScoreStop } from './issues.js';
import { SCORE_LIMITS } from './limits.js';

/**
 * A small piece of the file: one child of a measure or of the header.
 * Shape:  `text` is the element's own text, untrimmed
 * Source: XML 1.0
 */
export interface XmlNode {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  text: string;
  readonly children: XmlNode[];
}

/** What the reader wants to hear of: the elements it enters and leaves, and whole small pieces. */
export interface XmlListener {
  /** Names of elements handed over whole, with their children. */
  readonly pieces: ReadonlySet<string>;
  enter(name: string, attributes: Readonly<Record<string, string>>): void;
  leave(name: string): void;
  piece(node: XmlNode): void;
}

const CHUNK_LENGTH = 65536;

/**
 * Streams a document past a listener; only one small piece is in memory at a time.
 * Shape:  elements in document order; elements inside a piece are not entered
 * Errors: ScoreStop with score-not-xml, score-broken-xml or score-hostile
 * Source: XML 1.0; entities declared in the document are refused, external ones never fetched
 */
export function streamXml(text: string, listener: XmlListener): void {
  if (!/^\uFEFF?\s*</u.test(text.slice(0, 256))) {
    throw new ScoreStop(
      'score-not-xml',
      '',
      'This is not a MusicXML file; choose a .musicxml, .xml or .mxl export of the score.',
    );
  }
  const parser = new SaxesParser({ xmlns: false, position: true });
  connect(parser, listener);
  for (let at = 0; at < text.length; at += CHUNK_LENGTH) parser.write(text.slice(at, at + CHUNK_LENGTH));
  parser.close();
}

function connect(parser: SaxesParser<{ xmlns: false; position: true }>, listener: XmlListener): void {
  const open: XmlNode[] = [];
  let depth = 0;
  let elements = 0;
  let nodesInPiece = 0;
  refuse(parser);
  parser.on('opentag', (tag: SaxesTagPlain) => {
    depth += 1;
    elements += 1;
    if (depth > SCORE_LIMITS.depth || elements > SCORE_LIMITS.elements) throw hostileSize();
    const parent = open.at(-1);
    if (parent === undefined && !listener.pieces.has(tag.name)) {
      listener.enter(tag.name, tag.attributes);
      return;
    }
    nodesInPiece = parent === undefined ? 1 : nodesInPiece + 1;
    if (nodesInPiece > SCORE_LIMITS.nodesInOneChild) throw hostileSize();
    const node: XmlNode = { name: tag.name, attributes: tag.attributes, text: '', children: [] };
    parent?.children.push(node);
    open.push(node);
  });
  parser.on('text', (text) => {
    const node = open.at(-1);
    if (node && node.text.length < 10_000) node.text += text;
  });
  parser.on('closetag', (tag: SaxesTagPlain) => {
    depth -= 1;
    const node = open.pop();
    if (node === undefined) listener.leave(tag.name);
    else if (open.length === 0) listener.piece(node);
  });
}

/** Stops at what is broken or hostile before any of it is taken. */
function refuse(parser: SaxesParser<{ xmlns: false; position: true }>): void {
  parser.on('error', (error) => {
    throw new ScoreStop(
      'score-broken-xml',
      `line ${parser.line}`,
      `The file is broken at line ${parser.line} (${brief(error.message)}); export it again.`,
    );
  });
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY/iu.test(doctype)) {
      throw new ScoreStop(
        'score-hostile',
        '',
        'The file defines text entities, which no score needs, so it was not opened.',
      );
    }
  });
}

function hostileSize(): ScoreStop {
  return new ScoreStop(
    'score-hostile',
    '',
    'The file nests or repeats elements far beyond any score, so it was not opened.',
  );
}

function brief(message: string): string {
  return message
    .replace(/^\d+:\d+: /u, '')
    .replace(/[.\s]+$/u, '')
    .slice(0, 80);
}

/**
 * The first child of a name.
 * Shape:  undefined when there is none
 */
export function child(node: XmlNode | undefined, name: string): XmlNode | undefined {
  return node?.children.find((candidate) => candidate.name === name);
}

/**
 * The trimmed text of the first child of a name.
 * Shape:  null when the child is absent or blank
 */
export function childText(node: XmlNode | undefined, name: string): string | null {
  const text = child(node, name)?.text.trim() ?? '';
  return text === '' ? null : text;
}

/**
 * All children of a name, in order.
 * Shape:  possibly empty
 */
export function childrenNamed(node: XmlNode | undefined, name: string): readonly XmlNode[] {
  return node?.children.filter((candidate) => candidate.name === name) ?? [];
}
