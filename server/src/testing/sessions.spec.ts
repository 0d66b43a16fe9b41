import request from 'supertest';
import { v7 as newId } from 'uuid';
import type { ProblemDetails, SessionView } from '@vivid-cue/contract';
import { Browser, expectStatus, startServer, type TestServer } from './world.js';

describe('sessions', () => {
  let server: TestServer;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(() => server.db('rate_hits').delete());
  afterAll(() => server.db.destroy());

  const cookieOf = (response: { readonly headers: Readonly<Record<string, unknown>> }): string =>
    String((response.headers['set-cookie'] as string[] | undefined)?.[0] ?? '');

  it('set a cookie that scripts cannot read and other sites cannot send', async () => {
    const cookie = cookieOf(await request(server.app).get('/api/session'));
    expect(cookie).toMatch(/^vivid-cue=/u);
    expect(cookie).toContain('HttpOnly');
    expect(cookie).toContain('SameSite=Lax');
  });

  it('begin afresh at sign-in, so that a planted identifier is worth nothing', async () => {
    const email = `${newId()}@studio.example`;
    await new Browser(server.app).openStudio(email);
    const planted = await request(server.app).get('/api/session');
    const before = cookieOf(planted).split(';')[0] ?? '';
    const token = (planted.body as SessionView).csrfToken;
    const signedIn = await request(server.app)
      .post('/api/session')
      .set('Cookie', before)
      .set('X-CSRF-Token', token)
      .send({ email: email.toUpperCase(), password: 'long enough to guess' });
    expect(signedIn.status).toBe(200);
    const after = cookieOf(signedIn).split(';')[0] ?? '';
    expect(after).not.toBe(before);
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

  it('store passwords as Argon2id only, and one address once', async () => {
    const email = `${newId()}@studio.example`;
    await new Browser(server.app).openStudio(email);
    const row = (await server.db('users').where({ email }).first('password_hash')) as {
      password_hash: string;
    };
    expect(row.password_hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/u);
    const second = new Browser(server.app);
    await expectAsync(second.openStudio(email)).toBeRejectedWithError(/email-taken/u);
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
