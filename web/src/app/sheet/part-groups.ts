import { markText, type Vocabulary } from '@vivid-cue/core/music';
import { runsText } from '@vivid-cue/core/score';
import { citationOf, type PartKind } from '@vivid-cue/core/sheet';
import { controlOf, partOf, type PartForm, type SheetForm } from './sheet-form';

/**
 * A part in one line: what it is called, its work, and what is asked of it.
 * Shape:  `asked` has number, page, book, measures, tempo, key and points, as far as they are stated
 */
export function partLine(
  form: PartForm,
  vocabulary: Vocabulary,
): {
  readonly label: string;
  readonly title: string;
  readonly asked: string;
} {
  const part = partOf(form);
  const asked = [
    citationOf(part),
    runsText(part.measures, vocabulary),
    part.key ?? '',
    markText(part.tempo),
    part.points === null ? '' : `${part.points} points`,
  ];
  return {
    label: part.label,
    title: part.title ?? '',
    asked: asked.filter((piece) => piece !== '').join(' · '),
  };
}

/** Parts that hold for the same list, division or instrument. Shape: `n` is the part's place on the whole sheet. */
export interface PartGroup {
  readonly name: string;
  readonly parts: readonly { readonly part: PartForm; readonly n: number }[];
}

/**
 * The parts of a sheet by what they hold for, in the order in which each group first stands.
 * Shape:  one group without a name where nothing is said
 */
export function partGroups(form: SheetForm): PartGroup[] {
  const groups = new Map<string, { part: PartForm; n: number }[]>();
  form.controls.parts.controls.forEach((part, n) => {
    const name = controlOf(part, 'scope').value.trim();
    groups.set(name, [...(groups.get(name) ?? []), { part, n }]);
  });
  return [...groups].map(([name, parts]) => ({ name, parts }));
}

/**
 * The place on the whole sheet that a place in a group stands for.
 * Shape:  behind the group's last part where the place is its end
 */
export function placeInGroup({ parts }: PartGroup, index: number, from: number): number {
  const others = parts.filter(({ n }) => n !== from);
  const at = others[index]?.n ?? (others.at(-1)?.n ?? from) + 1;
  return at > from ? at - 1 : at;
}

/** Moves a part to another place on the sheet; a place that is none leaves it where it is. */
export function movePart(form: SheetForm, from: number, to: number): void {
  const { parts } = form.controls;
  const part = parts.at(from);
  if (!part || to < 0 || to >= parts.length || from === to) return;
  parts.removeAt(from);
  parts.insert(to, part);
}

/** A part as a rule of choice speaks of it: its identifier, its name, and what it holds for. */
export interface NamedPart {
  readonly id: string;
  readonly label: string;
  readonly group: string;
  readonly kind: PartKind;
}

/** The parts with their names; those of one name are told apart by what they hold for. */
export function namedParts(form: SheetForm): NamedPart[] {
  const all = form.controls.parts.controls.map((part) => ({
    id: part.controls.id.value,
    label: controlOf(part, 'label').value,
    group: controlOf(part, 'scope').value,
    kind: controlOf(part, 'kind').value as PartKind,
  }));
  return all.map((part) => {
    const isShared = all.filter(({ label }) => label === part.label).length > 1;
    return isShared && part.group !== '' ? { ...part, label: `${part.label} (${part.group})` } : part;
  });
}
