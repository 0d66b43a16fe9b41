import { instrumentKey, partsHolding, scopeOf } from '@vivid-cue/core/sheet';
import type { StudentView } from '@vivid-cue/contract';
import { controlOf, type PartForm, type SheetForm } from './sheet-form';

/** An instrument that a sheet names. Shape: `who` are the students who play it, by name */
export interface SheetInstrument {
  readonly key: string;
  readonly name: string;
  readonly parts: number;
  readonly who: readonly string[];
}

/** The instruments that a part is for, as names are compared. Shape: empty where it is for all */
export function instrumentsOfPart(
  part: PartForm,
): readonly { readonly key: string; readonly name: string }[] {
  const scope = controlOf(part, 'scope').value;
  const names = scope.split(/\s*;\s*/u).filter((one) => one !== '');
  // Options and divisions are told apart by core; a name that it does not know came from the text as an instrument.
  const stood = part.controls.stood.value.scope.instruments;
  const own = names.filter((name) => stood.includes(name));
  return [...new Set([...own, ...scopeOf(names, []).instruments])].map((name) => ({
    key: instrumentKey(name),
    name,
  }));
}

/** Every instrument that the parts of a sheet name, with the students who play it. Shape: in the order of the text */
export function sheetInstruments(form: SheetForm, students: readonly StudentView[]): SheetInstrument[] {
  const all = new Map<string, { name: string; parts: number }>();
  for (const part of form.controls.parts.controls)
    for (const { key, name } of instrumentsOfPart(part)) {
      const known = all.get(key) ?? { name, parts: 0 };
      all.set(key, { ...known, parts: known.parts + 1 });
    }
  const named = [...all].map(([key, { name }]) => ({
    key,
    scope: { instruments: [name], divisions: [], options: [] },
  }));
  const playing = students.map(({ name, instrument }) => ({
    name,
    keys: new Set(partsHolding(named, { instrument, division: null }).map(({ key }) => key)),
  }));
  return [...all].map(([key, one]) => ({
    key,
    ...one,
    who: playing.filter(({ keys }) => keys.has(key)).map(({ name }) => name),
  }));
}

/**
 * The instruments whose parts are shown at first: those of the studio's students.
 * Shape:  all of them where no student plays any
 */
export function shownAtFirst(instruments: readonly SheetInstrument[]): ReadonlySet<string> {
  const own = instruments.filter(({ who }) => who.length > 0);
  return new Set((own.length > 0 ? own : instruments).map(({ key }) => key));
}

/** The parts that are shown, by their identifiers. Shape: all where `shown` is null */
export function shownParts(form: SheetForm, shown: ReadonlySet<string> | null): string[] {
  return form.controls.parts.controls
    .filter((part) => isPartShown(part, shown))
    .map(({ controls }) => controls.id.value);
}

/** Whether a part is shown: it is for all, or for an instrument that is open. */
export function isPartShown(part: PartForm, shown: ReadonlySet<string> | null): boolean {
  if (shown === null) return true;
  const own = instrumentsOfPart(part);
  return own.length === 0 || own.some(({ key }) => shown.has(key));
}
