import { v7 as newId } from 'uuid';
import type { ProblemDetails, StudentRecord, TakesView, TakeView } from '@vivid-cue/contract';
import { sha256 } from '../db/sha256.js';
import { purgeTakes } from '../takes/keeping.js';
import { flacHead } from '../takes/flac-head.js';
import { rangeOf } from '../takes/send-sound.js';
import { flacOf } from './flac.js';
import { TOLD } from './requests.js';
import { expectStatus, FreshWorlds, rehearsed, repInput, sendChunk, TAKE_SOUND, takeInput } from './world.js';

const CHUNK = 512 * 1024;
const DAY_MS = 86_400_000;

/** Noise does not pack: a sound of several pieces. */
async function longSound(): Promise<Buffer> {
  let seed = 7;
  const noise = Float32Array.from({ length: 400_000 }, () => {
    seed = (seed * 48_271) % 2_147_483_647;
    return seed / 1_073_741_823.5 - 1;
  });
  return flacOf(noise, 48_000);
}

describe('takes', () => {
  const worlds = new FreshWorlds(rehearsed);
  const pieces = (bytes: Buffer): Buffer[] =>
    Array.from({ length: Math.ceil(bytes.length / CHUNK) }, (_, n) =>
      bytes.subarray(n * CHUNK, (n + 1) * CHUNK),
    );
  const codeOf = ({ body }: { body: unknown }): string => (body as ProblemDetails).code;
  const take = async (takeId = worlds.world.takeId): Promise<TakeView> =>
    (await expectStatus(200, worlds.call('readTake', { takeId }))).body as TakeView;

  // RFC 9639, 8.2 (STREAMINFO), on what libFLAC wrote; RFC 9110, 14.1.2, with its examples of a body of 10,000 bytes.
  it('read the head of FLAC and ranges as their standards say', () => {
    expect(flacHead(TAKE_SOUND)).toEqual({ rate: 8000, channels: 1, bits: 16, seconds: 1 });
    expect(flacHead(TAKE_SOUND.subarray(1))).toBeNull();
    const ranges = ['bytes=0-499', 'bytes=500-999', 'bytes=-500', 'bytes=9500-'].map((text) =>
      rangeOf(text, 10_000),
    );
    expect(ranges).toEqual([
      { from: 0, to: 499 },
      { from: 500, to: 999 },
      { from: 9500, to: 9999 },
      { from: 9500, to: 9999 },
    ]);
    expect([rangeOf(undefined, 10), rangeOf('bytes=0-1,4-5', 10), rangeOf('bytes=10-', 10)]).toEqual([
      null,
      null,
      'none',
    ]);
  });

  it('come in pieces, in any order and twice, go on where they were, and are whole only then', async () => {
    const { browser, studentId, programPartId } = worlds.world;
    const sound = await longSound();
    const input = takeInput(programPartId, { sound: { bytes: sound.length, sha256: sha256(sound) } });
    const takeId = String(input['id']);
    const all = pieces(sound);
    expect(all.length).toBeGreaterThan(1);
    await expectStatus(201, worlds.call('createTake', { studentId }, input));
    const last = all.length - 1;
    await expectStatus(200, sendChunk(browser, { takeId, n: last, bytes: all[last] ?? Buffer.alloc(0) }));
    expect(await take(takeId)).toEqual(
      jasmine.objectContaining({ isWhole: false, arrived: { sound: [last], original: [] } }),
    );
    await expectStatus(404, worlds.call('readTakeSound', { takeId }));
    await expectStatus(201, worlds.call('createTake', { studentId }, input));
    for (const n of [0, 0, ...all.keys()])
      await expectStatus(200, sendChunk(browser, { takeId, n, bytes: all[n] ?? Buffer.alloc(0) }));
    expect((await take(takeId)).isWhole).toBeTrue();
    const whole = await expectStatus(200, worlds.call('readTakeSound', { takeId }).buffer(true));
    expect(Buffer.compare(whole.body as Buffer, sound)).toBe(0);
    const range = { Range: `bytes=${CHUNK - 10}-${CHUNK + 9}` };
    const part = await worlds.call('readTakeSound', { takeId }, undefined, range).buffer(true);
    expect([part.status, part.headers['content-range'], part.headers['content-type']]).toEqual([
      206,
      `bytes ${CHUNK - 10}-${CHUNK + 9}/${sound.length}`,
      'audio/flac',
    ]);
    expect(Buffer.compare(part.body as Buffer, sound.subarray(CHUNK - 10, CHUNK + 10))).toBe(0);
  });

  it('that arrive damaged, of another length or too many are refused with one sentence, and nothing is lost', async () => {
    const { browser, studentId, programPartId } = worlds.world;
    const input = takeInput(programPartId);
    const takeId = String(input['id']);
    await expectStatus(201, worlds.call('createTake', { studentId }, input));
    const turned = Buffer.from(TAKE_SOUND);
    turned[60] = (turned[60] ?? 0) ^ 1;
    for (const bytes of [turned, TAKE_SOUND.subarray(1), Buffer.alloc(0)])
      expect(codeOf(await sendChunk(browser, { takeId, n: 0, bytes }))).toBe('take-refused');
    expect((await take(takeId)).arrived.sound).toEqual([]);
    await expectStatus(200, sendChunk(browser, { takeId, n: 0 }));
    const large = takeInput(programPartId, { sound: { bytes: 64 * 1024 * 1024, sha256: 'a'.repeat(64) } });
    const full = await worlds.call('createTake', { studentId }, large);
    expect([full.status, codeOf(full)]).toEqual([413, 'too-large']);
  });

  it('say what was heard; marks of two people are laid together and none is lost', async () => {
    const { takeId, studentId } = worlds.world;
    await expectStatus(204, worlds.call('keepTakeReading', { takeId }, { told: TOLD }));
    const list = (await expectStatus(200, worlds.call('listTakes', { studentId }))).body as TakesView;
    expect(list.takes[0]).toEqual(
      jasmine.objectContaining({
        number: 1,
        open: 1,
        opening: 96,
        decidingBpm: 90,
        workTitle: 'Ferry Lines',
      }),
    );
    const marks = { taps: [], fine: [0.3], downbeats: [], beats: 4 };
    await expectStatus(200, worlds.call('markTake', { takeId }, marks, { 'If-Match': '"1"' }));
    const stale = await worlds.world.desk.call('markDeskTake', { takeId }, marks, { 'If-Match': '"1"' });
    const { code, current } = stale.body as ProblemDetails & { current: TakeView };
    expect([code, current.marksVersion, current.open]).toEqual(['version-stale', 2, 0]);
    const wrong = { told: { ...TOLD, measures: [{ ...TOLD.measures[0], bpm: 'fast' }] } };
    await expectStatus(422, worlds.call('keepTakeReading', { takeId }, wrong));
  });

  it('become a run once, as heard where the instructor confirms it, and it can be taken back', async () => {
    const { takeId, passageId } = worlds.world;
    const reps = [
      { ...repInput({ context: 'run', at: '2027-03-10T11:30:00.000Z', isClean: false }), passageId },
    ];
    const logged = await expectStatus(201, worlds.call('logTakeRun', { takeId }, { reps }));
    await expectStatus(201, worlds.call('logTakeRun', { takeId }, { reps }));
    expect((logged.body as TakeView).runSlips).toBe(0);
    const page = await expectStatus(200, worlds.call('readPassage', { passageId }));
    const { reps: stored } = page.body as { reps: { id: string; witness: string; context: string }[] };
    expect(stored.filter(({ context }) => context === 'run').map(({ witness }) => witness)).toEqual(['take']);
    const back = await expectStatus(200, worlds.call('retractTakeRun', { takeId }));
    expect((back.body as TakeView).runSlips).toBeNull();
  });

  it('are dropped and taken back; a student drops only what the student recorded', async () => {
    const { takeId, desk, studentId, programPartId, browser } = worlds.world;
    await expectStatus(204, worlds.call('removeTake', { takeId }));
    await expectStatus(404, worlds.call('readTake', { takeId }));
    await expectStatus(200, worlds.call('restoreTake', { takeId }));
    const input = takeInput(programPartId);
    await expectStatus(201, worlds.call('createTake', { studentId }, input));
    await expectStatus(200, sendChunk(browser, { takeId: String(input['id']), n: 0 }));
    await expectStatus(404, desk.call('removeDeskTake', { takeId: String(input['id']) }));
    await expectStatus(204, desk.call('removeDeskTake', { takeId }));
    const { takes } = (await expectStatus(200, desk.call('listDeskTakes'))).body as TakesView;
    expect(takes.map(({ id }) => id)).toEqual([String(input['id'])]);
  });

  it('go with the record, sound and all, into another studio; erasing takes them', async () => {
    const { browser, studentId, takeId } = worlds.world;
    await expectStatus(204, worlds.call('keepTakeReading', { takeId }, { told: TOLD }));
    const { body } = await expectStatus(200, worlds.call('exportStudent', { studentId }));
    const record = body as StudentRecord;
    expect(Buffer.from(record.takes?.[0]?.sound ?? '', 'base64').equals(TAKE_SOUND)).toBeTrue();
    const without = await expectStatus(
      200,
      browser.raw('exportStudent', '', { ids: { studentId }, headers: {}, query: { sound: 'without' } }),
    );
    expect((without.body as StudentRecord).takes).toBeUndefined();
    const next = newId();
    await expectStatus(
      201,
      browser.raw('importRecord', JSON.stringify(record), {
        headers: { 'Content-Type': 'application/octet-stream' },
        query: { studentId: next },
      }),
    );
    const { takes } = (await expectStatus(200, worlds.call('listTakes', { studentId: next })))
      .body as TakesView;
    expect(takes.map((one) => [one.isWhole, one.opening])).toEqual([[true, 96]]);
    const copy = takes[0]?.id ?? '';
    const sound = await expectStatus(200, worlds.call('readTakeSound', { takeId: copy }).buffer(true));
    expect(TAKE_SOUND.equals(sound.body as Buffer)).toBeTrue();
    await expectStatus(204, worlds.call('eraseStudent', { studentId: next }));
    const rows: unknown[] = await worlds.server.db('take_chunks').where({ take_id: copy });
    expect(rows).toEqual([]);
  });

  it('stay until the season’s last date and the time that the studio sets', async () => {
    const { takeId } = worlds.world;
    // The sheet's only date is 10 April 2027; a studio that says nothing keeps takes for 60 days after it.
    expect((await take()).keptUntil).toBe('2027-06-09');
    const purge = (date: string): Promise<number> => {
      const nowMs = Date.parse(`${date}T12:00:00Z`);
      return purgeTakes(worlds.server.db, { before: new Date(nowMs - 30 * DAY_MS), nowMs, usualDays: 60 });
    };
    await purge('2027-06-09');
    expect((await take()).id).toBe(takeId);
    await purge('2027-06-10');
    await expectStatus(404, worlds.call('readTake', { takeId }));
  });
});
