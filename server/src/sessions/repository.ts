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
}

const ACCOUNT_COLUMNS = {
  userId: 'u.id',
  studioId: 'u.studio_id',
  passwordHash: 'u.password_hash',
  name: 'u.name',
  studioName: 's.name',
  zone: 's.zone',
  vocabulary: 's.vocabulary',
};

function accounts(db: Knex): Knex.QueryBuilder {
  return db('users as u').join('studios as s', 's.id', 'u.studio_id').select(ACCOUNT_COLUMNS);
}

/** The account of an address: the one query that runs before a studio is known. */
export async function accountByEmail(db: Knex, email: string): Promise<Account | null> {
  return ((await accounts(db).where('u.email', email).first()) as Account | undefined) ?? null;
}

/** The account of a signed-in instructor. */
export async function accountById(db: Knex, studioId: string, userId: string): Promise<Account | null> {
  return (
    ((await accounts(db).where({ 'u.id': userId, 'u.studio_id': studioId }).first()) as
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
