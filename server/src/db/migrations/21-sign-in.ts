import type { Knex } from 'knex';

/**
 * Sessions know whose they are, so that all of one instructor can end; tries to sign in wait longer and longer. An address
 * may open several studios: address and password together name one, so that nobody learns which addresses are known.
 * Studios can be removed and come back for a while.
 */
export const signIn: Knex.Migration = {
  async up(db) {
    await db('sessions').delete();
    await db.raw(`ALTER TABLE sessions ADD COLUMN IF NOT EXISTS user_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NULL,
      ADD INDEX IF NOT EXISTS sessions_user (user_id)`);
    await db.raw(`ALTER TABLE rate_hits ADD COLUMN IF NOT EXISTS blocked_until_ms BIGINT NOT NULL DEFAULT 0`);
    await db.raw('ALTER TABLE users ADD INDEX IF NOT EXISTS users_email (email)');
    await db.raw('ALTER TABLE users DROP INDEX IF EXISTS users_email_unique');
    await db.raw('ALTER TABLE studios ADD COLUMN IF NOT EXISTS deleted_at DATETIME(3) NULL');
  },
  async down(db) {
    await db('sessions').delete();
    await db.raw('ALTER TABLE sessions DROP INDEX IF EXISTS sessions_user, DROP COLUMN IF EXISTS user_id');
    await db.raw('ALTER TABLE rate_hits DROP COLUMN IF EXISTS blocked_until_ms');
    // Of several accounts of one address the newest keeps it.
    await db.raw(`UPDATE users u JOIN users v ON v.email = u.email AND v.id > u.id
      SET u.email = CONCAT(u.id, '@twice.invalid')`);
    await db.raw('ALTER TABLE users ADD UNIQUE KEY IF NOT EXISTS users_email_unique (email)');
    await db.raw('ALTER TABLE users DROP INDEX IF EXISTS users_email');
    await db.raw('ALTER TABLE studios DROP COLUMN IF EXISTS deleted_at');
  },
};
