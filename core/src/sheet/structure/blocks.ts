import { readRawLines } from '../text/raw-lines.js';
import { findTables, type Table } from './tables.js';
import { wrapped, type Line } from './wrapped.js';

/** A line of sense or a table. */
export type Block = { readonly line: Line } | { readonly table: Table };

/** The blocks of a cleaned text, in order. */
export function readBlocks(text: string): Block[] {
  const raw = readRawLines(text);
  const blocks: Block[] = [];
  let place = 0;
  const addLines = (end: number): void => {
    blocks.push(...wrapped(raw.slice(place, end)).map((line) => ({ line })));
  };
  for (const table of findTables(raw)) {
    addLines(table.from);
    blocks.push({ table });
    place = table.to;
  }
  addLines(raw.length);
  return blocks;
}
