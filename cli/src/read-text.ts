import { resolve } from 'node:path';
import { CommandError } from './command-error.js';
import { readBytes } from './read-bytes.js';

/**
 * The text of a file, or of standard input for "-".
 * Shape:  UTF-8, UTF-16 with its mark, else windows-1252
 * Errors: CommandError for a file that cannot be read or that is longer than `limit`
 * Source: WHATWG Encoding Standard
 */
export function readText(folder: string, file: string, limit: number): string {
  const bytes = readBytes(file === '-' ? 0 : resolve(folder, file), file);
  if (bytes.length > limit)
    throw new CommandError(
      `A sheet has at most ${Math.round(limit / 1000)} kB of text; ${Math.round(bytes.length / 1000)} kB came.`,
    );
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
