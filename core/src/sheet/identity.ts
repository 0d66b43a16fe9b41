import { labelKey } from './labels.js';
import type {
  Choice,
  SheetChangeNotice,
  SheetPart,
  SheetQuestion,
  StructuredSheet,
  WorkSource,
} from './model.js';
import { listOf, scopeNames } from './scope.js';

/** A part as people tell it from others of the same name: "Etude 1 (Flute)". */
export function partName(part: Pick<SheetPart, 'label' | 'scope'>, all: readonly SheetPart[]): string {
  const isShared = all.filter(({ label }) => labelKey(label) === labelKey(part.label)).length > 1;
  const names = scopeNames(part.scope);
  return isShared && names.length > 0 ? `${part.label} (${names.join(', ')})` : part.label;
}

/**
 * Rules of choice that name labels, as rules that name parts.
 * Shape:  where parts of several scopes carry the labels, one rule for each scope; a label that no part carries stays
 */
export function choicesByPart(choices: readonly Choice[], parts: readonly SheetPart[]): Choice[] {
  return choices.flatMap((choice) => {
    const scopes = scopesNamed(choice, parts);
    return scopes.map((scope) => ({
      ...choice,
      of: choice.of.map((one) =>
        typeof one === 'string' ? refOf(one, scope) : one.map((label) => refOf(label, scope)),
      ),
    }));
  });
}

/** The parts that a rule may mean, scope by scope; all of them in one where no label is shared. */
function scopesNamed({ of }: Choice, parts: readonly SheetPart[]): (readonly SheetPart[])[] {
  const keys = new Set(of.flat().map((label) => labelKey(label)));
  const named = parts.filter(({ id, label }) => keys.has(labelKey(label)) || keys.has(id));
  const isShared = new Set(named.map(({ label }) => labelKey(label))).size < named.length;
  if (!isShared) return [parts];
  const groups = new Map<string, SheetPart[]>();
  for (const part of named) {
    const key = JSON.stringify([part.scope.instruments, part.scope.divisions]);
    groups.set(key, [...(groups.get(key) ?? []), part]);
  }
  return [...groups.values()];
}

function refOf(name: string, parts: readonly SheetPart[]): string {
  const part =
    parts.find(({ id }) => id === name) ?? parts.find(({ label }) => labelKey(label) === labelKey(name));
  return part?.id ?? name;
}

/** Where a work is printed, as it is exchanged: a page is a number where it is one. */
export type ExchangedSource = Omit<WorkSource, 'page'> & { readonly page: string | number | null };

function exchangedSource(source: WorkSource): ExchangedSource {
  const { page } = source;
  return { ...source, page: page !== null && /^\d{1,6}$/u.test(page) ? Number(page) : page };
}

/** A sheet as it is exchanged in JSON: choices name labels where one part alone carries them. Source: docs/formats.md */
export type ExchangedSheet = Omit<StructuredSheet, 'parts' | 'questions' | 'changes'> & {
  readonly parts: readonly (Omit<SheetPart, 'scope' | 'source'> & {
    readonly source: ExchangedSource;
    readonly appliesTo: readonly string[];
    readonly list?: string | null;
  })[];
  readonly questions: readonly Omit<SheetQuestion, 'partId'>[];
  readonly changes: readonly Omit<SheetChangeNotice, 'partId'>[];
};

/**
 * A sheet in the form in which it is exchanged.
 * Shape:  choices name a part by its label, by its identifier where several carry that label
 * Source: docs/formats.md
 */
export function exchangedSheet(sheet: StructuredSheet): ExchangedSheet {
  const counts = new Map<string, number>();
  for (const { label } of sheet.parts) counts.set(label, (counts.get(label) ?? 0) + 1);
  const name = (id: string): string => {
    const label = sheet.parts.find((part) => part.id === id)?.label;
    return label !== undefined && counts.get(label) === 1 ? label : id;
  };
  return {
    ...sheet,
    parts: sheet.parts.map(({ id, label, scope, ...part }) => {
      const list = listOf(scope);
      const appliesTo = scopeNames(scope).filter((one) => one !== list);
      return { id, label, appliesTo, list, ...part, source: exchangedSource(part.source) };
    }),
    choices: sheet.choices.map((choice) => ({
      ...choice,
      of: choice.of.map((one) => (typeof one === 'string' ? name(one) : one.map(name))),
    })),
    questions: sheet.questions.map(({ about, ask, candidates }) => ({ about, ask, candidates })),
    changes: sheet.changes.map(({ part, field, old, new: now, text }) => ({
      part,
      field,
      old,
      new: now,
      ...(text !== undefined && { text }),
    })),
  };
}
