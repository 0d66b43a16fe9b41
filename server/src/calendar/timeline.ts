import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import { groupBy } from '@vivid-cue/core/base';
import { daysLeft, dueMoment, instantOf, type TimelineEntry, type TimelineView } from '@vivid-cue/contract';
import { rowsOf, type Studio } from '../db/studio.js';
import { deadlinesOf, type DeadlineRow } from '../published/repository.js';
import { programRows, type ProgramRow } from '../programs/repository.js';
import { sheetTitle } from '../published/sheet-view.js';
import { studioFacts } from '../studio/facts.js';

/**
 * Every date of the studio's programs in one line of time.
 * Shape:  soonest first; dates that are past by more than a week are left out
 * Units:  calendar days in the studio's zone
 */
export async function timeline(
  studio: Studio,
  nowMs: number,
  studentId: string | null,
): Promise<TimelineView> {
  const { zone } = await studioFacts(studio);
  const programs = await programRows(studio, studentId);
  const byRevision = groupBy(programs, ({ revision_id }) => revision_id);
  const names = await studentNames(studio);
  const dates = await deadlinesOf(studio, [...byRevision.keys()]);
  const entries = dates.flatMap((deadline) => {
    const own = byRevision.get(deadline.revision_id) ?? [];
    return entryOf(deadline, own, { zone, nowMs, names });
  });
  return {
    zone,
    entries: entries
      .filter((entry) => entry.daysLeft >= -7)
      .sort((a, b) => a.daysLeft - b.daysLeft || a.sheetTitle.localeCompare(b.sheetTitle)),
  };
}

async function studentNames(studio: Studio): Promise<ReadonlyMap<string, string>> {
  const rows = (await rowsOf(studio, 'students').select('id', 'name')) as { id: string; name: string }[];
  return new Map(rows.map(({ id, name }) => [id, name]));
}

function entryOf(
  deadline: DeadlineRow,
  programs: readonly ProgramRow[],
  {
    zone,
    nowMs,
    names,
  }: { readonly zone: string; readonly nowMs: number; readonly names: ReadonlyMap<string, string> },
): TimelineEntry[] {
  const moment = dueMoment(deadline);
  const [program] = programs;
  if (!moment || !program || deadline.date === null) return [];
  const instant = instantOf(moment);
  // A date without a time of day is the body's calendar day; it is not carried into another one.
  const local = new TZDate(instant, zone);
  return [
    {
      deadlineId: deadline.id,
      sheetId: program.sheet_id,
      sheetTitle: sheetTitle(program),
      what: deadline.kind,
      date: deadline.date,
      endDate: deadline.endDate,
      time: deadline.time,
      zone: deadline.zone,
      localDate: deadline.time === null ? moment.date : format(local, 'yyyy-MM-dd'),
      localTime: deadline.time === null ? null : format(local, 'HH:mm'),
      daysLeft: daysLeft(moment, nowMs, zone),
      students: programs.map(({ student_id: id }) => ({ id, name: names.get(id) ?? '' })),
    },
  ];
}
