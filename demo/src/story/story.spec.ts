import { readFileSync } from 'node:fs';
import { makePlan, waysOut, type WayOut } from '@vivid-cue/core/plan';
import { planInputOf } from '@vivid-cue/contract/plan-input';
import { deskView, rebuildReadiness, connect, migrate, season, type Studio } from '@vivid-cue/server';
import { STUDIES, writeMusicXml } from '../compose/index.js';
import { seedStory } from './seed.js';

describe('the demo story', () => {
  const db = connect(process.env['DATABASE_URL'] ?? '');
  const nowMs = Date.UTC(2026, 10, 25, 18, 0, 0);
  let studio: Studio;

  beforeAll(async () => {
    await migrate(db);
    await db('studios')
      .whereIn('id', db('users').where('email', 'like', '%@tern-island.example').select('studio_id'))
      .delete();
    // A first try that is broken off at the second student must leave nothing in the way of the next one.
    const breakOff = (line: string): void => {
      if (line.includes('trombone')) throw new Error('Ctrl-C');
    };
    await expectAsync(seedStory({ db, nowMs, seed: 1, tell: breakOff })).toBeRejectedWithError('Ctrl-C');
    studio = await seedStory({ db, nowMs, seed: 20261125, tell: () => undefined });
  });
  afterAll(async () => {
    await db('studios').where({ id: studio.id }).delete();
    await db.destroy();
  });

  it('shows eight students and every state of readiness', async () => {
    const { rows } = await season(studio, nowMs);
    const states = rows.flatMap(
      ({ program }) => program?.parts.flatMap(({ ribbon }) => ribbon.map(([, state]) => state)) ?? [],
    );
    expect(rows.length).toBe(8);
    expect([...new Set(states)]).toEqual(
      jasmine.arrayWithExactContents(['unopened', 'mapped', 'grounded', 'climbing', 'at-tempo', 'holding']),
    );
  });

  it('has one student in trouble with a way out, and one whose plan cannot hold under the cap', async () => {
    const { rows } = await season(studio, nowMs);
    const waysOf = async (name: string): Promise<readonly WayOut[] | null> => {
      const student = rows.find((row) => row.student.name === name)?.student;
      const input = planInputOf(await deskView(studio, student?.id ?? '', nowMs), nowMs);
      const plan = makePlan(input);
      return plan.holds ? null : waysOut(input, plan, { slowestShare: 1, mostMinutes: 180 });
    };
    const [trouble, lost] = [await waysOf('Bram Oyelaran'), await waysOf('Piet Okonjo-Lund')];
    expect(trouble?.some((way) => way.kind === 'minutes' && way.isWithinCap)).toBeTrue();
    expect(lost?.some((way) => way.kind === 'minutes' && way.isWithinCap)).toBeFalse();
    expect(await waysOf('Ilse Vantongeren')).toBeNull();
  });

  it('is there once, even after a first try was broken off half way', async () => {
    const users: readonly { email: string }[] = await db('users')
      .where('email', 'like', '%@tern-island.example')
      .select('email');
    expect(users.map(({ email }) => email)).toEqual(['odalys@tern-island.example']);
  });

  it('stores the readiness that a rebuild counts from its reps', async () => {
    const snapshots = async (): Promise<object[]> => {
      const rows = (await db('readiness_snapshots')
        .where({ studio_id: studio.id })
        .orderBy('id')) as object[];
      return rows.map((row) => ({ ...row, writes: null }));
    };
    const stored = await snapshots();
    await rebuildReadiness(db);
    expect(await snapshots()).toEqual(stored);
  });
});

describe('the studies composed for the demo', () => {
  for (const study of STUDIES) {
    it(`${study.file}.musicxml is what its shorthand writes`, () => {
      const file = readFileSync(new URL(`../../studies/${study.file}.musicxml`, import.meta.url), 'utf8');
      expect(file).toBe(writeMusicXml(study));
    });
  }
});
