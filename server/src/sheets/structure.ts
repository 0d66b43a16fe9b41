import { blankPart, NO_SOURCE, type Deadline, type RevisedPart, type SheetPart } from '@vivid-cue/core/sheet';
import type { DeadlineInput, SheetPartInput } from '@vivid-cue/contract';
import { partView, type PartRow } from './repository.js';

/**
 * A stored part as the core's rules see it.
 * Shape:  a part without details states only label, kind, span, tempo and title
 * Units:  as SheetPart
 * Errors: none
 * Source: none
 */
export function partStructure({
  kind,
  label,
  workTitle,
  from,
  to,
  tempo,
  detail,
}: SheetPartInput): SheetPart {
  const blank = blankPart(label, kind);
  const point = (text: string): number | string => (/^\d+$/u.test(text) ? Number(text) : text);
  const span = from === null || to === null ? [] : [{ from: point(from), to: point(to), anchorText: null }];
  const head = { ...blank, title: workTitle === '' ? null : workTitle, tempo };
  if (detail == null) return { ...head, measures: span };
  const { composer, book, number, page, edition, measures, ...rest } = detail;
  return {
    ...head,
    ...rest,
    source: { ...NO_SOURCE, composer, book, number, page, edition },
    measures:
      measures.length > 0
        ? measures.map((run) => ({ ...run, from: point(run.from), to: point(run.to) }))
        : span,
  };
}

/** Stored parts with their origins. */
export function revisedParts(rows: readonly PartRow[]): RevisedPart[] {
  return rows.map((row) => ({ originId: row.origin_id, part: partStructure(partView(row)) }));
}

/** A stored date as the core's rules see it. */
export function deadlineStructure({ kind, date, endDate, time, zone, text }: DeadlineInput): Deadline {
  return {
    what: kind,
    date: endDate == null || date === null ? date : `${date}/${endDate}`,
    time,
    zone,
    text: text ?? '',
  };
}
