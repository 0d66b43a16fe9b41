import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

/** Of how many guesses a password takes, the power of ten that is too few (our own knee; a person at a keyboard never gets there, a stolen table does). */
const TOO_FEW = 7;

let judge: ZxcvbnFactory | null = null;

/**
 * Why a password is too easy to guess.
 * Shape:  a sentence; null where it is good enough
 * Source: NIST SP 800-63B, clause 5.1.1.2, common and context-specific words (from memory); guesses as zxcvbn reckons them
 */
export function passwordIssue(password: string, personal: readonly string[]): string | null {
  // The lists of common passwords are read with the first studio that is opened.
  judge ??= new ZxcvbnFactory({ dictionary: { ...dictionary }, graphs: adjacencyGraphs });
  const own = personal
    .flatMap((text) => [text, ...text.split(/[^\p{L}\d]+/u)])
    .filter((text) => text.length > 2);
  const { guessesLog10 } = judge.check(password.slice(0, 100), own);
  return guessesLog10 < TOO_FEW
    ? 'This password is easily guessed: it repeats itself, is your own name or address, or is among the most common. A few words that do not belong together are easiest.'
    : null;
}
