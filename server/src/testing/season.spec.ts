import fc from 'fast-check';
import { v7 as newId } from 'uuid';
import type { SeasonView } from '@vivid-cue/contract';
import type { ForecastsView } from '@vivid-cue/contract/forecasts';
import { forecastsDone } from '../forecasts/service.js';
import { SharedAnswers } from '../season/shared-answers.js';
import { expectStatus, FreshWorlds, planInput, repInput, studioOf } from './world.js';

describe('the season', () => {
  const worlds = new FreshWorlds();
  const { call } = worlds;

  /** The part as the season has it, and as the score's own page judges it, which remembers nothing. */
  async function judged(): Promise<readonly [season: unknown, room: unknown]> {
    const { rows } = (await expectStatus(200, call('readSeason'))).body as SeasonView;
    const part = rows[0]?.program?.parts[0];
    const { programPartId } = worlds.world;
    const room = (await expectStatus(200, call('readScoreRoom', { programPartId }))).body as {
      readonly part: Readonly<Record<string, unknown>>;
    };
    return [
      {
        state: part?.state,
        chance: part?.chance,
        expectedSlips: part?.expectedSlips,
        sentence: part?.sentence,
      },
      room.part,
    ];
  }

  it('remembers a judgement only until something moves that it rests on', async () => {
    const { passageId, programPartId } = worlds.world;
    const seen = new Set<string>();
    const moves: readonly (() => Promise<unknown>)[] = [
      () => expectStatus(201, call('createRep', { passageId }, repInput({ at: later(1) }))),
      () => expectStatus(200, call('retractRep', { repId: worlds.world.repId })),
      () => expectStatus(200, call('changeTarget', { programPartId }, { bpm: 90, beatUnit: 'quarter' })),
      () => expectStatus(204, call('removePassage', { passageId })),
      () => expectStatus(204, call('restorePassage', { passageId })),
      () =>
        expectStatus(
          200,
          call('changeNumbering', { programPartId }, { restarts: [{ index: 20, number: 1 }] }),
        ),
      () => expectStatus(200, call('changeSettings', {}, inUkWords, { 'If-Match': '"1"' })),
      () => Promise.resolve((worlds.server.clock.nowMs += 20 * 86_400_000)),
    ];
    for (const [n, move] of [() => Promise.resolve(), ...moves].entries()) {
      await move();
      if (n === moves.length) await worlds.world.browser.signInAgain();
      const [season, room] = await judged();
      expect(season).withContext(`after move ${n}`).toEqual(room);
      seen.add(JSON.stringify(season));
    }
    expect(seen.size).withContext('most moves show').toBeGreaterThan(5);
  });

  it('looks ahead in the background, keeps the answer until something moves, and then looks again', async () => {
    const { passageId, studentId } = worlds.world;
    const studio = await studioOf(worlds.server, worlds.world);
    const ask = async (): Promise<ForecastsView> =>
      (await expectStatus(200, call('readForecasts'))).body as ForecastsView;
    expect(await ask()).toEqual({ forecasts: [], isWorking: true });
    await forecastsDone(studio.id);
    const first = await ask();
    expect(first.isWorking).toBeFalse();
    const [one] = first.forecasts;
    expect([one?.date, one?.daysLeft]).toEqual(['2027-04-10', 31]);
    const { rows } = (await expectStatus(200, call('readSeason'))).body as SeasonView;
    expect(one?.chance)
      .withContext('a month of practice')
      .toBeGreaterThan(rows[0]?.program?.chance ?? 1);
    expect(
      [one?.low ?? 1, one?.chance ?? 0, one?.high ?? 0].map((chance, n, all) => chance >= (all[n - 1] ?? 0)),
    ).toEqual([true, true, true]);
    expect(await ask()).toEqual(first);
    // What moves, a rep or a plan, is looked at anew; the old answer stands meanwhile.
    for (const move of [
      () => expectStatus(201, call('createRep', { passageId }, repInput({ at: later(1), isClean: false }))),
      () => expectStatus(200, call('keepPlan', { studentId }, planInput(passageId))),
    ]) {
      await move();
      const meanwhile = await ask();
      expect([meanwhile.isWorking, meanwhile.forecasts.length]).toEqual([true, 1]);
      await forecastsDone(studio.id);
      expect((await ask()).isWorking).toBeFalse();
    }
  });

  it('needs the instructor for what only the instructor can do now, and for nothing that can wait', async () => {
    const { passageId, studentId, programId, surpriseId, noteId, sheet } = worlds.world;
    const need = async (): Promise<string | null> =>
      ((await expectStatus(200, call('readSeason'))).body as SeasonView).rows[0]?.need ?? null;
    expect(await need()).toBe('flagged a measure');
    await expectStatus(204, call('clearSurprise', { surpriseId }));
    expect(await need()).toBe('wrote to you');
    await expectStatus(204, call('seeNote', { noteId }));
    expect(await need()).toBeNull();
    // Nothing played for a week is no matter five weeks before the day, and is one three weeks before it.
    worlds.server.clock.nowMs += 6 * 86_400_000;
    expect(await need()).toBe('nothing played for 6 days');
    await expectStatus(201, call('createRep', { passageId }, repInput({ at: later(1) })));
    expect(await need()).toBeNull();
    // A form that is due within the week, until it is ticked.
    const form = {
      id: newId(),
      kind: 'registration',
      date: '2027-03-20',
      time: null,
      zone: 'Atlantic/Reykjavik',
    };
    const { id: _id, ...change } = { ...sheet, deadlines: [form, ...sheet.deadlines] };
    await expectStatus(200, call('changeSheet', { sheetId: sheet.id }, change, { 'If-Match': '"1"' }));
    expect(await need()).toBe('registration in 4 days');
    await expectStatus(
      200,
      call('tickTask', { studentId }, { subjectId: programId, kind: 'forms', doneOn: '2027-03-16' }),
    );
    expect(await need()).toBeNull();
  });

  function later(minutes: number): string {
    worlds.server.clock.nowMs += minutes * 60_000;
    return new Date(worlds.server.clock.nowMs).toISOString();
  }

  const inUkWords = {
    studioName: 'A studio',
    zone: 'Atlantic/Reykjavik',
    vocabulary: 'uk',
    rungRule: 'three-in-a-row',
    tempoPolicy: 'keep',
    climbSchool: 'steady',
    slipRule: 'two-down',
    dayMinutes: 40,
    dayCap: 60,
    takeDays: 60,
    restDays: [],
  };
});

describe('answers that are shared', () => {
  it('were begun after each was asked, at most two for whoever asks meanwhile, and none is left over', async () => {
    await expectAsync(
      fc.assert(
        fc.asyncProperty(fc.scheduler(), fc.integer({ min: 1, max: 9 }), async (scheduler, count) => {
          const shared = new SharedAnswers<number>();
          let begun = 0;
          const work = async (): Promise<number> => {
            begun += 1;
            const own = begun;
            await scheduler.schedule(Promise.resolve());
            if (own % 3 === 0) throw new Error(String(own));
            return own;
          };
          const asked = Array.from({ length: count }, async () => {
            await scheduler.schedule(Promise.resolve());
            const before = begun;
            const answer = await shared
              .ask('season', work)
              .catch((error: unknown) => Number((error as Error).message));
            return answer > before;
          });
          const answers = await scheduler.waitFor(Promise.all(asked));
          return answers.every(Boolean) && begun <= count;
        }),
      ),
    ).toBeResolved();
  });
});
