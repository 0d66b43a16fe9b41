import type { Deadline, SheetChangeNotice, SheetPart, SheetQuestion, StructuredSheet } from '../model.js';
import type { ErrataReading } from './read-errata.js';

/**
 * The sheet as a notice leaves it.
 * Shape:  parts and dates carry the new values; notes and questions of the notice are added; a question that a change
 *         answers is gone
 * Units:  as StructuredSheet
 * Source: docs/formats.md
 */
export function amendSheet(sheet: StructuredSheet, errata: ErrataReading): StructuredSheet {
  const parts = sheet.parts.map((part) =>
    amendPart(
      part,
      errata.changes.filter(({ partId }) => partId === part.id),
    ),
  );
  const deadlines = sheet.deadlines.map((deadline) => {
    const own = errata.changes.filter((change) => change.part === `deadlines[${deadline.what}]`);
    return own.reduce<Deadline>((result, { field, new: value }) => ({ ...result, [field]: value }), deadline);
  });
  const answered = new Set(errata.changes.map(({ partId, part, field }) => `${partId ?? part}/${field}`));
  const isAnswered = ({ partId, about }: SheetQuestion): boolean =>
    answered.has(partId === null ? about : `${partId}/${about.replace(/^.*\//u, '')}`);
  return {
    ...sheet,
    parts,
    deadlines,
    notes: [
      ...sheet.notes,
      ...errata.notes.filter(({ text }) => !sheet.notes.some((known) => known.text === text)),
    ],
    questions: [...sheet.questions.filter((question) => !isAnswered(question)), ...errata.questions],
    amends: errata.amends,
    changes: errata.changes,
  };
}

function amendPart(part: SheetPart, changes: readonly SheetChangeNotice[]): SheetPart {
  return changes.reduce<SheetPart>((result, { field, new: value }) => {
    if (field in result.source) return { ...result, source: { ...result.source, [field]: value } };
    return field in result ? { ...result, [field]: value } : result;
  }, part);
}
