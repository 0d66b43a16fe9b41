// What the dump programs are told of the database in DATABASE_URL: dump-words.mjs dump | name | tables. No password ever
// stands in a command line.
import mysql from 'mysql2/promise';

const url = new URL(process.env.DATABASE_URL);
const name = url.pathname.slice(1);
const [what] = process.argv.slice(2);
if (what === 'name') process.stdout.write(name);
else if (what === 'dump')
  process.stdout.write(
    `[client]\nhost=${url.hostname}\nport=${url.port || 3306}\nprotocol=tcp\nuser=${decodeURIComponent(url.username)}\npassword="${decodeURIComponent(url.password)}"\n`,
  );
else {
  const connection = await mysql.createConnection(process.env.DATABASE_URL);
  const [rows] = await connection.query('SHOW TABLES');
  process.stdout.write(String(rows.length));
  await connection.end();
}
