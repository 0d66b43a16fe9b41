import type { Knex } from 'knex';
import type { AccountInput } from '@vivid-cue/contract';

/** An instructor with the studio they own. */
export interface Account {
  readonly userId: string;
  readonly studioId: string;
  readonly passwordHash: string;
  readonly name: string;
  readonly studioName: string;
  readonly zone: string;
  readonly vocabulary: 'us' | 'uk';
  /** When the studio was removed; null where it is open. */
  readonly deletedAt: Date | null;
}

const ACCOUNT_COLUMNS = {
  userId: 'u.id',
  studioId: 'u.studio_id',
  passwordHash: 'u.password_hash',
  name: 'u.name',
  studioName: 's.name',
  zone: 's.zone',
  vocabulary: 's.vocabulary',
  deletedAt: 's.deleted_at',
};

function accounts(db: Knex): Knex.QueryBuilder {
  return db('users as u').join('studios as s', 's.id', 'u.studio_id').select(ACCOUNT_COLUMNS);
}

/** So many studios may one address open; a try to sign in looks at each. */
const MOST_ACCOUNTS = 20;

/** The accounts of an address, the newest first: the one query that runs before a studio is known. */
export async function accountsByEmail(db: Knex, email: string): Promise<Account[]> {
  return (await accounts(db)
    .where('u.email', email)
    .orderBy('u.created_at', 'desc')
    .limit(MOST_ACCOUNTS)) as Account[];
}

/** The account with an identifier, whoever's it is. */
export async function accountOf(db: Knex, userId: string): Promise<Account | null> {
  return ((await accounts(db).where('u.id', userId).first()) as Account | undefined) ?? null;
}

/** Sets a password, and ends all sessions of its instructor but one. */
export async function setPassword(
  db: Knex,
  userId: string,
  { passwordHash, keptSid }: { readonly passwordHash: string; readonly keptSid: string },
): Promise<void> {
  await db('users').where({ id: userId }).update({ password_hash: passwordHash });
  await db('sessions').where({ user_id: userId }).whereNot({ sid: keptSid }).delete();
}

/** Marks a studio as removed and ends the sessions of its instructors, or takes that back. */
export async function markStudio(db: Knex, studioId: string, deletedAt: Date | null): Promise<void> {
  await db('studios').where({ id: studioId }).update({ deleted_at: deletedAt });
  if (deletedAt !== null)
    await db('sessions')
      .whereIn('user_id', db('users').where({ studio_id: studioId }).select('id'))
      .delete();
}

/** The account of a signed-in instructor. */
export async function accountById(db: Knex, studioId: string, userId: string): Promise<Account | null> {
  return (
    ((await accounts(db).where({ 'u.id': userId, 'u.studio_id': studioId, 's.deleted_at': null }).first()) as
      Account | undefined) ?? null
  );
}

/** Opens a studio with its instructor, both or neither. Gives false when the address or an identifier is taken. */
export async function insertAccount(
  db: Knex,
  input: AccountInput,
  { passwordHash, now }: { readonly passwordHash: string; readonly now: Date },
): Promise<boolean> {
  try {
    await db.transaction(async (trx) => {
      await trx('studios').insert({
        id: input.studioId,
        name: input.studioName,
        zone: input.zone,
        created_at: now,
      });
      await trx('users').insert({
        id: input.id,
        studio_id: input.studioId,
        email: input.email.toLowerCase(),
        name: input.name,
        password_hash: passwordHash,
        created_at: now,
      });
    });
    return true;
  } catch (error) {
    if ((error as { code?: string }).code === 'ER_DUP_ENTRY') return false;
    throw error;
  }
}
