import { hash, verify } from '@node-rs/argon2';
import type { Knex } from 'knex';
import type { AccountInput, SignIn } from '@vivid-cue/contract';
import { Problem } from '../http/problem.js';
import { accountByEmail, insertAccount, type Account } from './repository.js';

/** Argon2id with 19 MiB, 2 passes, 1 lane. Source: OWASP password storage cheat sheet (from memory). */
const ARGON2ID = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** A hash of nothing anybody types: verified for unknown addresses, so that they take as long as known ones. */
const DECOY = hash('no such account', ARGON2ID);

/**
 * The account that an address and a password open.
 * Errors: Problem sign-in-wrong, the same for an unknown address and a wrong password
 */
export async function checkSignIn(db: Knex, { email, password }: SignIn): Promise<Account> {
  const account = await accountByEmail(db, email.toLowerCase());
  const isRight = await verify(account?.passwordHash ?? (await DECOY), password);
  if (account && isRight) return account;
  throw new Problem(
    'sign-in-wrong',
    'That e-mail address and password do not go together. Check both and try again.',
  );
}

/**
 * Opens a studio and gives its account.
 * Errors: Problem email-taken
 */
export async function openStudio(db: Knex, input: AccountInput, now: Date): Promise<Account> {
  const passwordHash = await hash(input.password, ARGON2ID);
  const isNew = await insertAccount(db, input, { passwordHash, now });
  const account = isNew ? await accountByEmail(db, input.email.toLowerCase()) : null;
  if (account) return account;
  throw new Problem('email-taken', 'A studio with this e-mail address exists; sign in instead.', {
    issues: [{ where: 'email', message: 'This address is in use.' }],
  });
}
