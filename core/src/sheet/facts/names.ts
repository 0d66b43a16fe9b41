import { isPersonName } from '../work-line.js';

/** A name without the spaces and signs around it. */
export function trimmed(text: string): string {
  return text
    .trim()
    .replace(/[,.;:]+(?=["”’]?$)/u, '')
    .trim();
}

/** A title that is nothing but quoted loses its marks; one that quotes a part of itself keeps them. */
export function unquoted(text: string): string {
  const match = /^["“„«]([^"“”]*?)["”»]?$/u.exec(text);
  return match ? trimmed(match[1] ?? '') : text;
}

/** Whether most words of a text are large, as titles have them. */
export function isTitleCase(text: string): boolean {
  const words = text.split(/\s+/u).filter((word) => /^["'(]?[\p{L}]{4,}/u.test(word));
  const large = words.filter((word) => /^["'(]?\p{Lu}/u.test(word)).length;
  return /^["']?[\p{Lu}\d]/u.test(text) && large * 2 >= words.length && large > 0 && /\p{L}{2}/u.test(text);
}

/** "Twenty Ladders" is a collection, whoever wrote it. */
const NUMBER_NAME =
  /^(?:two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|fifteen|sixteen|eighteen|twenty|thirty|forty|fifty|sixty|hundred)\b/iu;

/** Whether a text names a person rather than a collection. */
export function isPerson(text: string): boolean {
  return isPersonName(text) && !NUMBER_NAME.test(text);
}
