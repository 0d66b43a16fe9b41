// What must hold when things break: npm run test:faults. A database and a server of its own are killed, restarted, filled
// up and kept waiting; everything is ended by the process that this script started.
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as rest } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { v7 as newId } from 'uuid';
import mysql from 'mysql2/promise';

const root = fileURLToPath(new URL('../', import.meta.url));
const ROUNDS = 20;
const WRITERS = 8;
const PORT = 4395;
const url = `http://127.0.0.1:${PORT}`;
let data = mkdtempSync(join(tmpdir(), 'vivid-cue-faults-'));

function db(...words) {
  const env = { ...process.env, VIVID_CUE_DATA: join(data, '.data') };
  return execFileSync('bash', [`${root}scripts/db.sh`, ...words], {
    env,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
  });
}
const databasePid = () => Number(readFileSync(join(data, '.data/mariadb/server.pid'), 'utf8'));

class Server {
  process = null;
  async start() {
    this.begin(db('url', 'vivid_cue_faults'));
    await untilHealthy();
  }
  begin(databaseUrl) {
    this.process = spawn(process.execPath, [`${root}server/dist/main.js`], {
      env: {
        ...process.env,
        DATABASE_URL: databaseUrl,
        PORT: String(PORT),
        SESSION_SECRET: 'a secret of the faults, long enough to be one',
        SIGN_UPS_AN_HOUR: '1000',
      },
      stdio: 'ignore',
    });
  }
  /** Sends a signal and waits for the end. Gives milliseconds. */
  async end(signal) {
    const own = this.process;
    if (!own || own.exitCode !== null || own.signalCode !== null) return 0;
    const sinceMs = performance.now();
    const gone = new Promise((done) => own.once('exit', done));
    own.kill(signal);
    await gone;
    return performance.now() - sinceMs;
  }
}
const server = new Server();
/** Waits until the server says that it is well; for at most a minute: a build may run beside it. */
async function untilHealthy() {
  for (let tries = 0; tries < 1200; tries += 1) {
    if (await healthy()) return;
    await rest(50);
  }
  throw new Error('the server is not well');
}
const healthy = () =>
  fetch(`${url}/health`).then(
    ({ ok }) => ok,
    () => false,
  );

/** One browser of one instructor. */
class Person {
  cookies = new Map();
  csrf = '';
  async call(method, path, body, type = 'application/json') {
    const answer = await fetch(url + path, {
      method,
      headers: {
        Cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
        'X-CSRF-Token': this.csrf,
        ...(body !== undefined && { 'Content-Type': type }),
      },
      body: body === undefined ? undefined : type === 'application/json' ? JSON.stringify(body) : body,
      signal: AbortSignal.timeout(8000),
    });
    for (const cookie of answer.headers.getSetCookie()) {
      const [name, value] = cookie.split(';')[0].split(/=(.*)/u);
      this.cookies.set(name, value);
    }
    const text = await answer.text();
    return {
      status: answer.status,
      headers: answer.headers,
      body: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : text,
    };
  }
  async refresh() {
    this.csrf = (await this.call('GET', '/api/session')).body.csrfToken;
  }
  async path() {
    await this.refresh();
    await this.call('POST', '/api/accounts', {
      id: newId(),
      studioId: newId(),
      email: `${newId()}@studio.example`,
      password: 'three wet herons waiting',
      name: 'Odalys',
      studioName: 'A studio',
      zone: 'UTC',
    });
    await this.refresh();
    const [studentId, sheetId] = [newId(), newId()];
    const { blankPart } = await import('../core/dist/sheet/index.js');
    const tempo = { beatUnit: 'quarter', bpmMin: 116, bpmMax: 116, bound: 'exact', words: null };
    const part = { ...blankPart('Etude', 'etude', newId()), title: 'Ferry Lines', tempo };
    await this.call('POST', '/api/students', { id: studentId, name: 'Ilse', instrument: 'clarinet' });
    await this.call('POST', '/api/sheets', {
      id: sheetId,
      body: 'A body',
      year: '2027',
      division: '',
      instrument: 'clarinet',
      deadlines: [],
      parts: [part],
    });
    this.studentId = studentId;
    await this.call('POST', '/api/programs', { id: newId(), studentId, sheetId });
    const page = await this.call('GET', `/api/students/${studentId}`);
    this.partId = page.body.programs[0].parts[0].id;
    await this.upload(readFileSync(`${root}demo/studies/ferry-lines.musicxml`));
    this.passageId = newId();
    const made = await this.call('POST', `/api/program-parts/${this.partId}/passages`, {
      id: this.passageId,
      name: '',
      from: '9',
      to: '12',
      target: null,
    });
    if (made.status !== 201) throw new Error(JSON.stringify(made.body));
  }
  upload(bytes) {
    return this.call(
      'PUT',
      `/api/program-parts/${this.partId}/score?id=${newId()}&fileName=study.musicxml`,
      bytes,
      'application/octet-stream',
    );
  }
  rep(id) {
    return this.call('POST', `/api/passages/${this.passageId}/reps`, {
      id,
      at: new Date().toISOString(),
      bpm: 60,
      beatUnit: 'quarter',
      context: 'alone',
      isClean: true,
    });
  }
}

/** A student at the desk, who came by a personal link and reports what was played. */
class Student extends Person {
  static async of(instructor) {
    const student = new Student();
    student.passageId = instructor.passageId;
    const linkId = newId();
    const link = await instructor.call('POST', `/api/students/${instructor.studentId}/links`, { id: linkId });
    await student.refresh();
    const entered = await student.call('POST', '/api/desk/session', { linkId, code: link.body.code });
    if (entered.status !== 200) throw new Error(JSON.stringify(entered.body));
    student.csrf = entered.body.csrfToken;
    return student;
  }
  rep(id) {
    const rep = {
      id,
      at: new Date().toISOString(),
      bpm: 60,
      beatUnit: 'quarter',
      context: 'alone',
      isClean: true,
    };
    return this.call('POST', `/api/desk/passages/${this.passageId}/rep-list`, { reps: [rep] });
  }
}

let passed = 0;
const failures = [];
async function check(name, work) {
  try {
    const word = await work();
    passed += 1;
    console.log(`  ok    ${name}${word ? `: ${word}` : ''}`);
  } catch (error) {
    failures.push(`${name}: ${error.message}`);
    console.log(`  wrong ${name}: ${error.message}`);
  }
}
function expect(isSo, what) {
  if (!isSo) throw new Error(what);
}

/** Sends reps, each until it is acknowledged, as a device does that keeps what was not. */
async function write(person, isOn, acknowledged) {
  while (isOn()) {
    const id = newId();
    for (;;) {
      const answer = await person.rep(id).catch(() => null);
      if (answer?.status === 201) break;
      if (answer && answer.status < 500 && answer.status !== 429)
        throw new Error(`a rep was refused with ${answer.status}: ${JSON.stringify(answer.body)}`);
      if (!isOn()) return;
      await rest(20);
    }
    acknowledged.push([person.passageId, id]);
  }
}

async function stored() {
  const connection = await mysql.createConnection(db('url', 'vivid_cue_faults'));
  const [reps] = await connection.query('SELECT id, passage_id FROM reps');
  const [wrong] = await connection.query(
    'SELECT r.id FROM readiness_snapshots r WHERE r.reps <> (SELECT COUNT(*) FROM reps x WHERE x.passage_id = r.id)',
  );
  await connection.end();
  return { reps, wrong };
}

async function kills() {
  const people = Array.from({ length: WRITERS }, () => new Person());
  for (const person of people) await person.path();
  // Half of those who write are students at their desks.
  const writing = [];
  for (const [n, person] of people.entries()) writing.push(n % 2 === 0 ? person : await Student.of(person));
  let isOn = true;
  const acknowledged = [];
  const writers = writing.map((person) => write(person, () => isOn, acknowledged));
  for (let round = 0; round < ROUNDS; round += 1) {
    await rest(250 + Math.random() * 400);
    if (round % 4 === 3) {
      process.kill(databasePid(), 'SIGKILL');
      await rest(150);
      db('start');
    } else {
      await server.end('SIGKILL');
      await server.start();
    }
  }
  await rest(600);
  isOn = false;
  await Promise.all(writers);
  const { reps, wrong } = await stored();
  const known = new Map(reps.map(({ id, passage_id: passage }) => [id, passage]));
  const lost = acknowledged.filter(([passage, id]) => known.get(id) !== passage);
  expect(acknowledged.length > ROUNDS, `only ${acknowledged.length} reps were acknowledged`);
  expect(lost.length === 0, `${lost.length} of ${acknowledged.length} acknowledged reps are lost`);
  expect(wrong.length === 0, `${wrong.length} records count other reps than there are`);
  return `${acknowledged.length} acknowledged reps, none lost, none counted twice`;
}

async function restart() {
  const person = new Person();
  await person.path();
  const pid = server.process.pid;
  db('stop');
  const away = await person.rep(newId());
  expect(
    away.status === 503 && away.headers.get('retry-after') !== null,
    `${away.status} while the database was away`,
  );
  expect(/The database does not answer/u.test(away.body.detail), away.body.detail);
  const health = await fetch(`${url}/health`);
  expect(health.status === 503, `/health said ${health.status}`);
  db('start');
  await untilHealthy();
  expect((await person.rep(newId())).status === 201, 'no rep was taken after the database came back');
  expect(server.process.pid === pid && server.process.exitCode === null, 'the server ended');
}

async function startWithout() {
  await server.end('SIGTERM');
  db('stop');
  const late = rest(1500).then(() => db('start'));
  server.begin(lastUrl);
  await late;
  await untilHealthy();
}
let lastUrl = '';

async function slowClients() {
  const sockets = Array.from({ length: 20 }, () => {
    const socket = connect(PORT, '127.0.0.1');
    socket.on('error', () => undefined);
    socket.write('POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Length: 1000\r\n\r\n{');
    return socket;
  });
  await rest(300);
  expect(await healthy(), 'slow clients keep others waiting');
  const tookMs = await server.end('SIGTERM');
  for (const socket of sockets) socket.destroy();
  expect(tookMs < 10_000, `the server took ${Math.round(tookMs)} ms to end`);
  await server.start();
  return `ended after ${(tookMs / 1000).toFixed(1)} s`;
}

async function staleNumber() {
  db('stop');
  const stranger = spawn('sleep', ['30'], { stdio: 'ignore' });
  writeFileSync(join(data, '.data/mariadb/server.pid'), String(stranger.pid));
  db('stop');
  const isAlive = stranger.exitCode === null && stranger.signalCode === null;
  stranger.kill('SIGKILL');
  db('start');
  expect(isAlive, 'a process that is not ours was ended');
}

function doors() {
  const files = execFileSync(
    'stat',
    [
      '-c',
      '%a',
      join(data, '.data/mariadb'),
      join(data, '.data/mariadb/files'),
      join(data, '.data/mariadb/password'),
    ],
    { encoding: 'utf8' },
  )
    .trim()
    .split('\n');
  expect(
    files.every((mode) => /^[67]00$/u.test(mode)),
    `rights are ${files.join(', ')}`,
  );
  const { port, password } = new URL(lastUrl);
  const tryAs = (user, secret) =>
    mysql.createConnection({ host: '127.0.0.1', port: Number(port), user, password: secret }).then(
      async (one) => {
        await one.end();
        return true;
      },
      () => false,
    );
  return Promise.all([tryAs('root', ''), tryAs('vivid_cue', ''), tryAs('vivid_cue', password)]).then((open) =>
    expect(open.join() === 'false,false,true', `root, nobody, own: ${open.join()}`),
  );
}

/** A database on a disk of its own that is filled up; only root may make one. */
async function diskFull() {
  if (process.getuid() !== 0) return 'skipped: a disk of its own needs root';
  const disk = join(data, 'disk');
  mkdirSync(disk);
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=260m,mode=0755', 'tmpfs', disk], { stdio: 'ignore' });
  } catch {
    return 'skipped: no disk can be made here';
  }
  const before = data;
  await server.end('SIGTERM');
  data = disk;
  try {
    db('start');
    await server.start();
    const person = new Person();
    await person.path();
    const filler = join(disk, 'filler');
    const [, free] = execFileSync('df', ['--output=avail', '-m', disk], { encoding: 'utf8' })
      .trim()
      .split('\n');
    execFileSync('dd', ['if=/dev/zero', `of=${filler}`, 'bs=1M', `count=${Number(free) - 4}`], {
      stdio: 'ignore',
    });
    await rest(2200);
    const refused = await person.upload(readFileSync(`${root}demo/studies/ferry-lines.musicxml`));
    expect(refused.status === 503, `a full disk was answered with ${refused.status}`);
    expect(/no room left/u.test(refused.body.detail), refused.body.detail);
    const kept = await person.rep(newId());
    expect(kept.status === 503, `a rep on a full disk was answered with ${kept.status}`);
    const page = await person.call('GET', '/api/season');
    expect(page.status === 200, `reading on a full disk was answered with ${page.status}`);
    expect(server.process.exitCode === null, 'the server ended');
    rmSync(filler);
    let again = 0;
    for (let tries = 0; tries < 60 && again !== 201; tries += 1) {
      again = (await person.rep(newId())).status;
      if (again !== 201) await rest(250);
    }
    expect(again === 201, `after room was made a rep was answered with ${again}`);
    return 'refused in a sentence, and went on by itself';
  } finally {
    await server.end('SIGKILL');
    db('stop');
    data = before;
    execFileSync('umount', ['-l', disk], { stdio: 'ignore' });
    db('start');
  }
}

try {
  db('start');
  lastUrl = db('url', 'vivid_cue_faults');
  await server.start();
  await check('the folder and its doors are the server’s alone', doors);
  await check(`${ROUNDS} kills of server and database with ${WRITERS} writers`, kills);
  await check('the database goes and comes back', restart);
  await check('slow clients do not keep the server from ending', slowClients);
  await check('a server waits for a database that starts later', startWithout);
  await check('a stale process number ends nobody', staleNumber);
  await check('a full disk', diskFull);
} finally {
  await server.end('SIGKILL');
  if (existsSync(join(data, '.data/mariadb'))) db('stop');
  rmSync(data, { recursive: true, force: true });
}
const failed = failures.length;
console.log(`${passed} passed, ${failed} failed`);
if (process.env['VIVID_CUE_COUNTS'])
  writeFileSync(process.env['VIVID_CUE_COUNTS'], JSON.stringify({ passed, failed, failures }));
process.exitCode = failed > 0 ? 1 : 0;
