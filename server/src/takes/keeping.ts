import type { Knex } from 'knex';

/** A take of which not everything came is waited for so many days (our own). */
const WAITING_DAYS = 14;
const DAY_MS = 86_400_000;

/**
 * The last day on which a take is kept: the season's last date and the time that the studio sets.
 * Shape:  null where no date says when the season ends
 * Units:  days of the calendar
 */
export function lastDayOf(lastDate: string | null, takeDays: number): string | null {
  if (lastDate === null) return null;
  return new Date(Date.parse(`${lastDate}T00:00:00Z`) + takeDays * DAY_MS).toISOString().slice(0, 10);
}

/** A take that may have had its time. */
interface OldTake {
  readonly id: string;
  readonly last: string | null;
  readonly schools: string;
}

/**
 * Deletes takes that were dropped before a moment, whose time is over, or of which not everything ever came.
 * Shape:  how many went
 * Units:  milliseconds since 1970
 */
export async function purgeTakes(
  db: Knex,
  { before, nowMs, usualDays }: { readonly before: Date; readonly nowMs: number; readonly usualDays: number },
): Promise<number> {
  let gone: number = await db('takes').where('deleted_at', '<', before).delete();
  gone += await db('takes')
    .whereNull('whole_at')
    .where('created_at', '<', new Date(nowMs - WAITING_DAYS * DAY_MS))
    .delete();
  const rows = (await db('takes as t')
    .join('program_parts as pp', 'pp.id', 't.program_part_id')
    .join('programs as p', 'p.id', 'pp.program_id')
    .join('deadlines as d', 'd.revision_id', 'p.revision_id')
    .join('studios as s', 's.id', 't.studio_id')
    .groupBy('t.id', 's.schools')
    .select('t.id', 's.schools')
    .max({ last: db.raw('COALESCE(d.end_date, d.date)') })) as unknown as OldTake[];
  const today = new Date(nowMs).toISOString().slice(0, 10);
  const over = rows.filter(({ last, schools }) => {
    const { takeDays = usualDays } = JSON.parse(schools) as { readonly takeDays?: number };
    const until = lastDayOf(last?.slice(0, 10) ?? null, takeDays);
    return until !== null && until < today;
  });
  for (const { id } of over) gone += await db('takes').where({ id }).delete();
  return gone;
}
