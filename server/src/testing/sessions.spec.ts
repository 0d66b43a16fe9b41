import request from 'supertest';
import { v7 as newId } from 'uuid';
import type { ProblemDetails, SessionView } from '@vivid-cue/contract';
import { accountInput, Browser, expectStatus, startServer, type TestServer } from './world.js';

describe('sessions', () => {
  let server: TestServer;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(() => server.db('rate_hits').delete());
  afterAll(() => server.db.destroy());

  const cookieOf = (response: { readonly headers: Readonly<Record<string, unknown>> }): string =>
    String((response.headers['set-cookie'] as string[] | undefined)?.[0] ?? '');

  it('set cookies that scripts cannot read and other sites cannot send', async () => {
    const visitor = cookieOf(await request(server.app).get('/api/session'));
    const session = cookieOf(await new Browser(server.app).signUp());
    expect(visitor).toMatch(/^vivid-cue-visitor=/u);
    expect(session).toMatch(/^vivid-cue=/u);
    for (const cookie of [visitor, session]) {
      expect(cookie).toContain('HttpOnly');
      expect(cookie).toContain('SameSite=Lax');
    }
  });

  it('leave no row of who only looks', async () => {
    const count = async (): Promise<number> =>
      Number((await server.db('sessions').count<{ n: number }[]>({ n: '*' }))[0]?.n);
    const before = await count();
    for (let n = 0; n < 5; n += 1) await new Browser(server.app).refresh();
    await request(server.app).get('/api/season');
    expect(await count()).toBe(before);
  });

  it('are stored so that who reads the table can sign in as nobody', async () => {
    const cookie = cookieOf(await new Browser(server.app).signUp());
    const sid = decodeURIComponent(/^vivid-cue=([^;]*)/u.exec(cookie)?.[1] ?? '').replace(/^s:|\..*$/gu, '');
    const rows = JSON.stringify(await server.db('sessions').select());
    expect(sid.length).toBeGreaterThan(20);
    expect(rows).not.toContain(sid);
  });

  it('end for good after a fortnight, however busy they were', async () => {
    const browser = await new Browser(server.app).openStudio();
    const beganMs = server.clock.nowMs;
    for (const days of [5, 10, 13]) {
      server.clock.nowMs = beganMs + days * 86_400_000;
      expect((await browser.call('readSeason')).status)
        .withContext(`${days} days`)
        .toBe(200);
    }
    server.clock.nowMs = beganMs + 14 * 86_400_000 + 1000;
    expect((await browser.call('readSeason')).status).toBe(401);
    server.clock.nowMs = beganMs;
  });

  it('begin afresh at sign-in, so that a planted identifier is worth nothing', async () => {
    const email = `${newId()}@studio.example`;
    await new Browser(server.app).openStudio(email);
    const visitor = await request(server.app).get('/api/session');
    const token = (visitor.body as SessionView).csrfToken;
    const planted = 'vivid-cue=s%3Aplanted-by-somebody-else.c2lnbmF0dXJl';
    const before = `${planted}; ${cookieOf(visitor).split(';')[0] ?? ''}`;
    const signedIn = await request(server.app)
      .post('/api/session')
      .set('Cookie', before)
      .set('X-CSRF-Token', token)
      .send({ email: email.toUpperCase(), password: 'long enough to guess' });
    expect(signedIn.status).toBe(200);
    const after = cookieOf(signedIn).split(';')[0] ?? '';
    expect(after).toMatch(/^vivid-cue=s/u);
    expect(after).not.toContain('planted');
    expect((await request(server.app).get('/api/season').set('Cookie', before)).status).toBe(401);
    expect((await request(server.app).get('/api/season').set('Cookie', after)).status).toBe(200);
  });

  it('answer an unknown address and a wrong password alike', async () => {
    const email = `${newId()}@studio.example`;
    await new Browser(server.app).openStudio(email);
    const browser = new Browser(server.app);
    await browser.refresh();
    const wrong = await browser.call('signIn', {}, { email, password: 'not the password' });
    const unknown = await browser.call(
      'signIn',
      {},
      { email: 'nobody@studio.example', password: 'not the password' },
    );
    expect([wrong.status, wrong.body]).toEqual([401, unknown.body]);
    expect((wrong.body as ProblemDetails).code).toBe('sign-in-wrong');
  });

  it('end on the server, not only in the browser', async () => {
    const browser = await new Browser(server.app).openStudio();
    expect((await browser.call('readSeason')).status).toBe(200);
    await expectStatus(204, browser.call('signOut'));
    expect((await browser.call('readSeason')).status).toBe(401);
  });

  it('live in the database, so that another server process knows them', async () => {
    const email = `${newId()}@studio.example`;
    const browser = await new Browser(server.app).openStudio(email);
    const other = await startServer();
    const sessions = await server.db('sessions').count<{ n: number }[]>({ n: '*' });
    expect(Number(sessions[0]?.n)).toBeGreaterThan(0);
    browser.moveTo(other.app);
    expect((await browser.call('readSeason')).status).toBe(200);
    await other.db.destroy();
  });

  it('store passwords as Argon2id only', async () => {
    const email = `${newId()}@studio.example`;
    await new Browser(server.app).openStudio(email);
    const row = (await server.db('users').where({ email }).first('password_hash')) as {
      password_hash: string;
    };
    expect(row.password_hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/u);
  });

  it('tell nobody which addresses are known: one address may open several studios, each with its password', async () => {
    const email = `${newId()}@studio.example`;
    const first = await new Browser(server.app).openStudio(email);
    const second = await new Browser(server.app).signUp({ email, password: 'three wet herons waiting' });
    const fresh = await new Browser(server.app).signUp();
    expect([second.status, Object.keys(second.body as object).sort()]).toEqual([
      fresh.status,
      Object.keys(fresh.body as object).sort(),
    ]);
    const studioOf = async (password: string): Promise<string | undefined> => {
      const browser = new Browser(server.app);
      await browser.refresh();
      const { body } = await expectStatus(200, browser.call('signIn', {}, { email, password }));
      return (body as SessionView).instructor?.studioId;
    };
    expect(await studioOf('long enough to guess')).not.toBe(await studioOf('three wet herons waiting'));
    expect((await first.call('readSeason')).status).toBe(200);
  });

  it('open one studio for a request sent twice', async () => {
    const input = accountInput();
    const answers = [];
    for (let n = 0; n < 2; n += 1) answers.push(await new Browser(server.app).signUp(input));
    const studios = answers.map(({ status, body }) => [status, (body as SessionView).instructor?.studioId]);
    expect(studios).toEqual([
      [201, input.studioId],
      [201, input.studioId],
    ]);
  });

  // NIST SP 800-63B, clause 5.1.1.2 (from memory): length counts; common, repeated and context-specific ones are refused.
  it('refuse passwords that are one character, the address, or among the most common', async () => {
    const email = 'odalys.brandvold@studio.example';
    for (const password of [
      'aaaaaaaaaaaa',
      email,
      'odalysbrandvold',
      'passwordpassword',
      'qwertyuiop123456',
      '123456789012',
    ])
      expect((await new Browser(server.app).signUp({ email, password })).status)
        .withContext(password)
        .toBe(422);
    for (const password of ['three wet herons waiting', 'Gull–tide–oboe–9'])
      expect((await new Browser(server.app).signUp({ password })).status)
        .withContext(password)
        .toBe(201);
  });

  it('make a wrong password wait longer and longer, from wherever it is tried, and forget it with the right one', async () => {
    const email = `${newId()}@studio.example`;
    await new Browser(server.app).openStudio(email);
    const tryWith = async (password: string): Promise<number> => {
      const browser = new Browser(server.app);
      await browser.refresh();
      return (await browser.call('signIn', {}, { email, password })).status;
    };
    const beganMs = server.clock.nowMs;
    const atOnce = await Promise.all(Array.from({ length: 30 }, (_, n) => tryWith(`wrong password ${n}`)));
    expect(atOnce.filter((status) => status === 401).length).toBe(5);
    expect(atOnce.filter((status) => status === 429).length).toBe(25);
    expect(await tryWith('long enough to guess')).toBe(429);
    server.clock.nowMs += 16_000;
    expect(await tryWith('wrong again')).toBe(401);
    server.clock.nowMs += 16_000;
    expect(await tryWith('long enough to guess'))
      .withContext('twice as long now')
      .toBe(429);
    server.clock.nowMs += 16_000;
    expect(await tryWith('long enough to guess')).toBe(200);
    for (let n = 0; n < 4; n += 1) expect(await tryWith('wrong once more')).toBe(401);
    server.clock.nowMs = beganMs;
  });

  it('keep a school of a hundred wrong fingers signed in, and never count a right password', async () => {
    const emails = Array.from({ length: 30 }, () => `${newId()}@studio.example`);
    for (const email of emails) await new Browser(server.app).openStudio(email);
    const tryWith = async (email: string, password: string): Promise<number> => {
      const browser = new Browser(server.app);
      await browser.refresh();
      return (await browser.call('signIn', {}, { email, password })).status;
    };
    for (let round = 0; round < 2; round += 1)
      for (const email of emails) expect(await tryWith(email, 'long enough to guess')).toBe(200);
    const wrong = await Promise.all(emails.map((email) => tryWith(email, 'a slip of the finger')));
    expect(new Set(wrong)).toEqual(new Set([401]));
    expect(await tryWith(emails[0] ?? '', 'long enough to guess')).toBe(200);
  });

  it('end everywhere else when the password changes', async () => {
    const email = `${newId()}@studio.example`;
    const browser = await new Browser(server.app).openStudio(email);
    const elsewhere = new Browser(server.app);
    await elsewhere.refresh();
    await expectStatus(200, elsewhere.call('signIn', {}, { email, password: 'long enough to guess' }));
    const wish = { current: 'long enough to guess', next: 'three wet herons waiting' };
    const wrong = await browser.call('changePassword', {}, { ...wish, current: 'not this one' });
    expect([wrong.status, (wrong.body as ProblemDetails).issues?.[0]?.where]).toEqual([422, 'current']);
    await expectStatus(204, browser.call('changePassword', {}, wish));
    expect((await elsewhere.call('readSeason')).status).toBe(401);
    expect((await browser.call('readSeason')).status).toBe(200);
    await elsewhere.refresh();
    expect((await elsewhere.call('signIn', {}, { email, password: 'long enough to guess' })).status).toBe(
      401,
    );
    expect((await elsewhere.call('signIn', {}, { email, password: wish.next })).status).toBe(200);
  });

  it('end with the studio, which comes back whole within 30 days', async () => {
    const email = `${newId()}@studio.example`;
    const browser = await new Browser(server.app).openStudio(email);
    const student = { id: newId(), name: 'Ilse Vantongeren', instrument: 'clarinet' };
    await expectStatus(201, browser.call('createStudent', {}, student));
    const wish = { id: newId(), studentId: null };
    const link = await expectStatus(201, browser.call('createCalendarLink', {}, wish));
    const calendar = async (): Promise<number> =>
      (await request(server.app).get((link.body as { path: string }).path)).status;
    expect(await calendar()).toBe(200);
    expect((await browser.call('removeStudio', {}, { password: 'not this one' })).status).toBe(422);
    await expectStatus(204, browser.call('removeStudio', {}, { password: 'long enough to guess' }));
    expect((await browser.call('readSeason')).status).toBe(401);
    await browser.refresh();
    const login = { email, password: 'long enough to guess' };
    const closed = await browser.call('signIn', {}, login);
    expect([closed.status, (closed.body as ProblemDetails).code]).toEqual([409, 'studio-removed']);
    expect(await calendar()).toBe(404);
    await expectStatus(200, browser.call('restoreStudio', {}, login));
    expect(await calendar()).toBe(200);
    await browser.refresh();
    expect((await browser.call('readStudent', { studentId: student.id })).status).toBe(200);
  });

  it('refuse a short password and a made-up zone, naming the fields', async () => {
    const browser = new Browser(server.app);
    await browser.refresh();
    const input = {
      id: newId(),
      studioId: newId(),
      email: 'x@studio.example',
      password: 'short',
      name: 'X',
      studioName: 'Y',
      zone: 'Atlantis/Deep',
    };
    const refused = (await browser.call('createAccount', {}, input)).body as ProblemDetails;
    expect(refused.issues?.map(({ where }) => where).sort()).toEqual(['password', 'zone']);
  });

  it('come with headers that let no script stand in a page and no other site frame it', async () => {
    const { headers } = await request(server.app).get('/api/session');
    const policy = String(headers['content-security-policy']);
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval'");
    expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/u);
    expect(policy).toContain("frame-ancestors 'none'");
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['cache-control']).toBe('no-store');
    expect(headers['x-powered-by']).toBeUndefined();
  });
});
