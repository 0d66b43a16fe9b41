import type { Choice, SheetPart } from '../model.js';
import { scopeNames } from '../scope.js';
import type { SheetReading } from '../reading.js';
import type { PartAnchor } from './corrections.js';

/** A part that is known by where it begins, or else by its name. Shape: `at` null where nothing tells where */
export interface KnownPart {
  readonly id: string;
  readonly at: PartAnchor | null;
  readonly name: string;
}

/** The name by which a part is known again: what it is called, and for whom it is. */
export function knownName({ label, scope }: Pick<SheetPart, 'label' | 'scope'>): string {
  return [label, ...scopeNames(scope)].join('\n').toLowerCase();
}

/**
 * A reading in which parts that begin at the same words, or else have the same name, keep the identifiers that they had.
 * Shape:  the parts of the reading with where they begin, as `known` to the next one
 */
export function withKnownParts(
  reading: SheetReading,
  known: readonly KnownPart[],
): { readonly reading: SheetReading; readonly known: KnownPart[] } {
  const { sheet, anchors } = reading;
  const own = new Map<string, string>();
  const taken = new Set<string>();
  const take = (keyOfKnown: (part: KnownPart) => string | null, keys: readonly (string | null)[]): void => {
    const free = known.filter(({ id }) => !taken.has(id));
    const byKey = new Map(free.map((part) => [keyOfKnown(part), part.id]));
    sheet.parts.forEach(({ id }, n) => {
      const had = own.has(id) || keys[n] == null ? undefined : byKey.get(keys[n]);
      if (had === undefined || taken.has(had)) return;
      own.set(id, had);
      taken.add(had);
    });
  };
  take(
    ({ at }) => at && keyOf(at),
    anchors.map((at) => at && keyOf(at)),
  );
  take(({ name }) => name, sheet.parts.map(knownName));
  const idOf = (id: string): string => own.get(id) ?? id;
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
    known: parts.map((part, n) => ({ id: part.id, at: anchors[n] ?? null, name: knownName(part) })),
  };
}

function renamed(choice: Choice, idOf: (id: string) => string): Choice {
  return { ...choice, of: choice.of.map((one) => (typeof one === 'string' ? idOf(one) : one.map(idOf))) };
}

function keyOf({ line, nth, index }: PartAnchor): string {
  return JSON.stringify([line, nth, index]);
}
