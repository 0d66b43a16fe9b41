import { parseArgs, type ParseArgsConfig } from 'node:util';
import type { Result } from '@vivid-cue/core/base';

/** A person's mistake on the command line, said in one sentence. */
export class CommandError extends Error {
  override readonly name = 'CommandError';
}

/**
 * Reads options and positionals of one command.
 * Shape:  every command takes --json, which is also how it prints without it
 * Errors: CommandError for an option that the command does not have
 */
export function readArgs<T extends NonNullable<ParseArgsConfig['options']>>(
  args: readonly string[],
  options: T,
): { values: Readonly<Partial<Record<keyof T, string>>>; positionals: readonly string[] } {
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      options: { ...options, json: { type: 'boolean' } },
      allowPositionals: true,
    });
    return { values: values as Partial<Record<keyof T, string>>, positionals };
  } catch (error) {
    const reason = error instanceof Error ? (error.message.split(/[.\n]/u)[0] ?? '') : '';
    throw new CommandError(`${reason}.`);
  }
}

/** An option that takes one of some words. Errors: CommandError with what it takes */
export function oneOf<Value extends string>(name: string, text: string, values: readonly Value[]): Value {
  const found = values.find((one) => one === text);
  if (found === undefined) throw new CommandError(`--${name} takes ${values.join(' or ')}; "${text}" came.`);
  return found;
}

/** What a reader of the core gives. Errors: CommandError with its sentences where it refused */
export function accepted<Value>(read: Result<Value, string>): Value {
  if (!read.ok) throw new CommandError(read.issues.map(({ message }) => message).join(' '));
  return read.value;
}
