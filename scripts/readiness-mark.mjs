// One line for everything that was counted, so that two databases can be held against each other: how many of each thing,
// and a mark of every number of readiness.
import { createHash } from 'node:crypto';
import mysql from 'mysql2/promise';

const connection = await mysql.createConnection({ uri: process.env.DATABASE_URL, timezone: 'Z' });
const counts = [];
for (const table of [
  'studios',
  'students',
  'sheets',
  'programs',
  'scores',
  'passages',
  'reps',
  'rep_retractions',
  'cues',
]) {
  const [[{ n }]] = await connection.query(`SELECT COUNT(*) AS n FROM ${table}`);
  counts.push(`${n} ${table}`);
}
const mark = createHash('sha256');
const [rows] = await connection.query('SELECT * FROM readiness_snapshots ORDER BY id');
for (const row of rows) mark.update(JSON.stringify(row));
const [files] = await connection.query('SELECT id, file_sha256, MD5(file) AS stored FROM scores ORDER BY id');
mark.update(JSON.stringify(files));
process.stdout.write(`${counts.join(', ')}; readiness ${mark.digest('hex')}\n`);
await connection.end();
