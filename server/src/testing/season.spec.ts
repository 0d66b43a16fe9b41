import fc from 'fast-check';
import type { SeasonView } from '@vivid-cue/contract';
import { SharedAnswers } from '../season/shared-answers.js';
import { expectStatus, FreshWorlds, repInput } from './world.js';

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
