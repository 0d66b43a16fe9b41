import type { Knex } from 'knex';

interface OldPart {
  readonly id: string;
  readonly label: string;
  readonly span_from: string | null;
  readonly span_to: string | null;
  readonly detail: string | null;
}
interface Run {
  readonly from: string | number;
  readonly to: string | number;
  readonly anchorText: string | null;
}
interface Extras {
  readonly choices: readonly { readonly of: readonly (string | readonly string[])[] }[];
  readonly questions: readonly { readonly about: string }[];
}

/**
 * A part is known by its identifier: choices and questions name it by that, what it holds for is a scope, and the
 * measures it asks are kept run by run. A program may hold for one division of its sheet.
 */
export const partIdentity: Knex.Migration = {
  async up(db) {
    await db.raw(`ALTER TABLE sheet_parts ADD COLUMN measures TEXT NULL AFTER work_title,
      ADD COLUMN scope TEXT NULL AFTER measures`);
    for (const part of (await db('sheet_parts').select(
      'id',
      'label',
      'span_from',
      'span_to',
      'detail',
    )) as OldPart[])
      await db('sheet_parts').where({ id: part.id }).update(identified(part));
    await db.raw(`ALTER TABLE sheet_parts MODIFY measures TEXT NOT NULL, MODIFY scope TEXT NOT NULL,
      DROP COLUMN span_from, DROP COLUMN span_to`);
    await db.raw('ALTER TABLE programs ADD COLUMN division VARCHAR(120) NULL AFTER revision_id');
    await db.raw('ALTER TABLE sheets MODIFY instrument VARCHAR(400) NOT NULL');
    await renameParts(db, 'label', 'id');
  },
  async down(db) {
    if (!(await db.schema.hasColumn('sheet_parts', 'measures'))) return;
    await renameParts(db, 'id', 'label');
    await db.raw('ALTER TABLE programs DROP COLUMN IF EXISTS division');
    await db('sheets').update({ instrument: db.raw('LEFT(instrument, 60)') });
    await db.raw('ALTER TABLE sheets MODIFY instrument VARCHAR(60) NOT NULL');
    await db.raw(
      `ALTER TABLE sheet_parts ADD COLUMN IF NOT EXISTS span_from VARCHAR(20) NULL,
      ADD COLUMN IF NOT EXISTS span_to VARCHAR(20) NULL`,
    );
    const parts = db('sheet_parts').whereNotNull('measures').select('id', 'measures', 'scope', 'detail');
    for (const part of (await parts) as NewPart[])
      await db('sheet_parts').where({ id: part.id }).update(hulled(part));
    await db.raw('ALTER TABLE sheet_parts DROP COLUMN measures, DROP COLUMN scope');
  },
};

interface NewPart {
  readonly id: string;
  readonly measures: string;
  readonly scope: string;
  readonly detail: string | null;
}

/** A part as it was before: the hull of its runs, and what no column held then, in its detail. */
function hulled({ measures, scope, detail }: NewPart): Record<string, string | null> {
  const runs = JSON.parse(measures) as Run[];
  const { options } = JSON.parse(scope) as { readonly options: readonly string[] };
  const rest = detail === null ? {} : (JSON.parse(detail) as object);
  return {
    span_from: runs[0] ? String(runs[0].from) : null,
    span_to: runs.length === 0 ? null : String(runs.at(-1)?.to),
    detail: JSON.stringify({ ...rest, measures: runs, appliesTo: options }),
  };
}

function identified({ span_from: from, span_to: to, detail }: OldPart): Record<string, string | null> {
  const {
    measures = [],
    appliesTo = [],
    ...rest
  } = (detail === null ? {} : JSON.parse(detail)) as {
    readonly measures?: readonly Run[];
    readonly appliesTo?: readonly string[];
  };
  const hull = from === null || to === null ? [] : [{ from, to, anchorText: null }];
  return {
    measures: JSON.stringify(measures.length > 0 ? measures : hull),
    scope: JSON.stringify({ instruments: [], divisions: [], options: appliesTo }),
    detail: detail === null ? null : JSON.stringify(rest),
  };
}

/** Names parts the other way in all revisions. */
async function renameParts(db: Knex, from: 'id' | 'label', to: 'id' | 'label'): Promise<void> {
  const revisions = (await db('sheet_revisions').select('id', 'extras')) as { id: string; extras: string }[];
  for (const { id, extras } of revisions)
    await db('sheet_revisions')
      .where({ id })
      .update({ extras: await renamed(db, id, { extras: JSON.parse(extras) as Extras, from, to }) });
}

/** Choices and questions of a revision with their parts named the other way; what no part answers to stays. */
async function renamed(
  db: Knex,
  revisionId: string,
  {
    extras,
    from,
    to,
  }: { readonly extras: Extras; readonly from: 'id' | 'label'; readonly to: 'id' | 'label' },
): Promise<string> {
  const parts = (await db('sheet_parts')
    .where({ revision_id: revisionId })
    .whereNull('deleted_at')
    .select({ id: 'origin_id' }, 'label')) as { id: string; label: string }[];
  const other = (name: string): string => parts.find((part) => part[from] === name)?.[to] ?? name;
  const choices = extras.choices.map((choice) => ({
    ...choice,
    of: choice.of.map((one) => (typeof one === 'string' ? other(one) : one.map((name) => other(name)))),
  }));
  const questions = extras.questions.map((question) => {
    const label = question.about.replace(/\/[^/]*$/u, '');
    const partId = parts.find((part) => part.label === label)?.id ?? null;
    return to === 'id' ? { ...question, partId } : { ...question, partId: undefined };
  });
  return JSON.stringify({ ...extras, choices, questions });
}
