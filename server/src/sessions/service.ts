import { hash, verify } from '@node-rs/argon2';
import type { Knex } from 'knex';
import type { AccountInput, PasswordChange, SignIn } from '@vivid-cue/contract';
import { Problem } from '../http/problem.js';
import { ACCOUNT_LIMIT, ADDRESS_LIMIT, countTry, forgiveTry, quota } from '../http/tries.js';
import { passwordIssue } from './password.js';
import {
  accountById,
  accountOf,
  accountsByEmail,
  insertAccount,
  markStudio,
  setPassword,
  type Account,
} from './repository.js';

/** Argon2id with 19 MiB, 2 passes, 1 lane. Source: OWASP password storage cheat sheet (from memory). */
const ARGON2ID = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** A hash of nothing anybody types: verified for unknown addresses, so that they take as long as known ones. */
const DECOY = hash('no such account', ARGON2ID);

/** A refusal takes a whole number of these, so that its time does not tell how many accounts an address has. Units: milliseconds */
const REFUSAL_MS = 400;

/** Who tries, and when. Units: milliseconds since 1970 */
export interface Visit {
  readonly address: string;
  readonly nowMs: number;
}

/**
 * The account that an address and a password open. Only wrong tries count, by account and by address.
 * Errors: Problem sign-in-wrong, the same for an unknown address and a wrong password; studio-removed; too-many
 */
export async function checkSignIn(db: Knex, { email, password }: SignIn, visit: Visit): Promise<Account> {
  const account = await accountFor(db, { email, password }, visit);
  if (account.deletedAt === null) return account;
  throw new Problem(
    'studio-removed',
    'This studio was removed. It can be brought back within 30 days of that, with everything in it.',
  );
}

async function accountFor(db: Knex, { email, password }: SignIn, visit: Visit): Promise<Account> {
  const { address, nowMs } = visit;
  const startedMs = performance.now();
  const byAccount = { limit: ACCOUNT_LIMIT, whose: email.toLowerCase() };
  const byAddress = { limit: ADDRESS_LIMIT, whose: address };
  await countTry(db, byAddress, nowMs);
  await countTry(db, byAccount, nowMs);
  const account = await matching(await accountsByEmail(db, email.toLowerCase()), password);
  if (account) {
    await forgiveTry(db, byAccount);
    await forgiveTry(db, byAddress);
    return account;
  }
  const tookMs = performance.now() - startedMs;
  await new Promise((done) => setTimeout(done, REFUSAL_MS - (tookMs % REFUSAL_MS)));
  throw new Problem(
    'sign-in-wrong',
    'That e-mail address and password do not go together. Check both and try again.',
  );
}

/** The account whose password it is; null where it is none's. */
async function matching(accounts: readonly Account[], password: string): Promise<Account | null> {
  if (accounts.length === 0) await verify(await DECOY, password);
  for (const account of accounts) if (await verify(account.passwordHash, password)) return account;
  return null;
}

/**
 * Opens a studio and gives its account. An address may open several: address and password together name one, so that
 * nobody learns here which addresses are known. A repeated request gives the same studio again.
 * Errors: Problem input-invalid for a password that is easily guessed, account-refused, too-many
 */
export async function openStudio(db: Knex, input: AccountInput, { now, from }: SignUp): Promise<Account> {
  const { email, password, name, studioName } = input;
  refuseWeak(password, [email, name, studioName], 'password');
  const known = await accountOf(db, input.id);
  const isRepeated = known?.studioId === input.studioId && (await matching([known], password)) !== null;
  if (isRepeated) return known;
  if (from)
    await countTry(
      db,
      { limit: quota('sign-up', from.perHour, HOUR_MS), whose: from.address },
      now.getTime(),
    );
  const before = await matching(await accountsByEmail(db, email.toLowerCase()), password);
  if (before) return before;
  const isNew = await insertAccount(db, input, { passwordHash: await hash(password, ARGON2ID), now });
  const account = isNew ? await accountOf(db, input.id) : null;
  if (account) return account;
  throw new Problem('account-refused', 'This studio could not be opened; reload the page and try again.');
}

const HOUR_MS = 3_600_000;

/** When a studio is opened, and from where. Shape: `from` null for the server's own work, which is not counted */
export interface SignUp {
  readonly now: Date;
  readonly from: { readonly address: string; readonly perHour: number } | null;
}

function refuseWeak(password: string, personal: readonly string[], where: string): void {
  const message = passwordIssue(password, personal);
  if (message !== null) throw new Problem('input-invalid', message, { issues: [{ where, message }] });
}

/** Who is signed in. */
interface SignedIn extends Visit {
  readonly studioId: string;
  readonly userId: string;
}

/** The account of who is signed in, once the password was given again. */
async function confirmed(db: Knex, who: SignedIn, password: string): Promise<Account> {
  const account = await accountById(db, who.studioId, who.userId);
  const tries = { limit: ACCOUNT_LIMIT, whose: who.userId };
  await countTry(db, tries, who.nowMs);
  if (!account || (await matching([account], password)) === null) {
    const message = 'This is not your password. Check it and try again.';
    throw new Problem('input-invalid', message, { issues: [{ where: 'current', message }] });
  }
  await forgiveTry(db, tries);
  return account;
}

/**
 * Changes the password; everybody else who is signed in with the old one is signed out.
 * Errors: Problem input-invalid, too-many
 */
export async function changePassword(
  db: Knex,
  who: SignedIn & { readonly keptSid: string },
  { current, next }: PasswordChange,
): Promise<void> {
  const { name, studioName } = await confirmed(db, who, current);
  refuseWeak(next, [name, studioName], 'next');
  await setPassword(db, who.userId, { passwordHash: await hash(next, ARGON2ID), keptSid: who.keptSid });
}

/**
 * Removes the studio with its account; for 30 days both come back by signing in.
 * Errors: Problem input-invalid, too-many
 */
export async function removeStudio(db: Knex, who: SignedIn, password: string): Promise<void> {
  await confirmed(db, who, password);
  await markStudio(db, who.studioId, new Date(who.nowMs));
}

/**
 * Brings a removed studio back and gives its account.
 * Errors: as checkSignIn but for studio-removed
 */
export async function restoreStudio(db: Knex, input: SignIn, visit: Visit): Promise<Account> {
  const account = await accountFor(db, input, visit);
  await markStudio(db, account.studioId, null);
  return { ...account, deletedAt: null };
}
