import type { Choice } from '../model.js';
import type { SheetReading } from '../reading.js';
import type { PartAnchor } from './corrections.js';

/** A part that is known by where it begins. */
export interface KnownPart {
  readonly id: string;
  readonly at: PartAnchor;
}

/**
 * A reading in which parts that begin at the same words keep the identifiers that they had.
 * Shape:  the parts of the reading with where they begin, as `known` to the next one
 */
export function withKnownParts(
  reading: SheetReading,
  known: readonly KnownPart[],
): { readonly reading: SheetReading; readonly known: KnownPart[] } {
  const idAt = new Map(known.map(({ id, at }) => [keyOf(at), id]));
  const own = new Map<string, string>();
  const taken = new Set<string>();
  reading.sheet.parts.forEach(({ id }, n) => {
    const at = reading.anchors[n];
    const had = at ? idAt.get(keyOf(at)) : undefined;
    if (had !== undefined && !taken.has(had)) own.set(id, had);
    taken.add(own.get(id) ?? id);
  });
  const idOf = (id: string): string => own.get(id) ?? id;
  const { sheet } = reading;
  const parts = sheet.parts.map((part) => ({ ...part, id: idOf(part.id) }));
  return {
    reading: {
      ...reading,
      sheet: {
        ...sheet,
        parts,
        choices: sheet.choices.map((choice) => renamed(choice, idOf)),
        questions: sheet.questions.map((one) => ({
          ...one,
          partId: one.partId === null ? null : idOf(one.partId),
        })),
      },
    },
    known: parts.flatMap(({ id }, n) => {
      const at = reading.anchors[n];
      return at ? [{ id, at }] : [];
    }),
  };
}

function renamed(choice: Choice, idOf: (id: string) => string): Choice {
  return { ...choice, of: choice.of.map((one) => (typeof one === 'string' ? idOf(one) : one.map(idOf))) };
}

function keyOf({ line, nth, index }: PartAnchor): string {
  return JSON.stringify([line, nth, index]);
}
