import {
  RECORD_BYTES,
  RECORD_TOO_LARGE,
  type RecordReadView,
  type ScoreRoomView,
  type StudentPageView,
  type StudentRecord,
} from '@vivid-cue/contract';
import { v7 as newId } from 'uuid';
import { Browser, expectStatus, FreshWorlds, NOON_MS, repInput } from './world.js';

describe('the record of a student', () => {
  const worlds = new FreshWorlds();
  beforeEach(async () => {
    const { browser, passageId } = worlds.world;
    // Two of one instant, one taken back, one late, and one in a run.
    for (const change of [
      { at: at(1), isClean: false },
      { at: at(1) },
      { at: at(3), context: 'run', bpm: 104.5 },
      { at: at(2), bpm: 70 },
    ])
      await expectStatus(201, browser.call('createRep', { passageId }, repInput(change)));
    worlds.server.clock.nowMs = NOON_MS + 3_600_000;
    await expectStatus(200, browser.call('retractRep', { repId: worlds.world.repId }));
  });

  function at(days: number): string {
    return new Date(NOON_MS - 86_400_000 * (5 - days)).toISOString();
  }

  async function written(): Promise<StudentRecord> {
    return (
      await expectStatus(
        200,
        worlds.world.browser.call('exportStudent', { studentId: worlds.world.studentId }),
      )
    ).body as StudentRecord;
  }

  function read(browser: Browser, record: object | string, studentId = newId()): ReturnType<Browser['call']> {
    const text = typeof record === 'string' ? record : JSON.stringify(record);
    return browser.raw('importRecord', text, {
      headers: { 'Content-Type': 'application/octet-stream' },
      query: { studentId },
    });
  }

  /** What a student's page and score say, without the identifiers. */
  async function numbers(browser: Browser, studentId: string): Promise<unknown> {
    const page = (await expectStatus(200, browser.call('readStudent', { studentId })))
      .body as StudentPageView;
    const programPartId = page.programs[0]?.parts[0]?.id ?? '';
    const room = (await expectStatus(200, browser.call('readScoreRoom', { programPartId })))
      .body as ScoreRoomView;
    const told = [
      page.programs.map((program) => ({
        ...program,
        sheetId: '',
        id: '',
        parts: program.parts.map((part) => ({ ...part, id: '' })),
      })),
      room.passages.map(({ id: _id, writes: _writes, ...passage }) => passage),
      room.cues.map(({ id: _id, ...cue }) => cue),
      room.part,
    ];
    return JSON.parse(JSON.stringify(told));
  }

  it('reads back into an empty studio to the same numbers', async () => {
    const record = await written();
    const other = await new Browser(worlds.server.app).openStudio();
    const studentId = newId();
    const { body } = await expectStatus(201, read(other, record, studentId));
    expect(body as RecordReadView).toEqual({ studentId, passages: 1, reps: 5, differing: [] });
    expect(await numbers(other, studentId)).toEqual(
      await numbers(worlds.world.browser, worlds.world.studentId),
    );
    const again = (await expectStatus(200, other.call('exportStudent', { studentId }))).body as StudentRecord;
    expect(
      { ...again, calendarLinks: [] }.reps.map(({ at: instant, isTakenBack }) => [instant, isTakenBack]),
    ).toEqual(record.reps.map(({ at: instant, isTakenBack }) => [instant, isTakenBack]));
    expect((await read(other, record, studentId)).status)
      .withContext('the same request twice')
      .toBe(409);
  });

  it('comes back after the student was erased, onto the sheet that is still there', async () => {
    const { browser, studentId } = worlds.world;
    const before = await numbers(browser, studentId);
    const record = await written();
    await expectStatus(204, browser.call('eraseStudent', { studentId }));
    await expectStatus(201, read(browser, record, studentId));
    expect(await numbers(browser, studentId)).toEqual(before);
    expect((await browser.call('listSheets')).body as unknown[]).toHaveSize(1);
  });

  it('says how a student with many takes is read in, where the record is larger than can be', async () => {
    const other = await new Browser(worlds.server.app).openStudio();
    const { status, body } = await other.raw('importRecord', Buffer.alloc(RECORD_BYTES + 1), {
      headers: { 'Content-Type': 'application/octet-stream' },
      query: { studentId: newId() },
    });
    expect([status, (body as { detail: string }).detail]).toEqual([413, RECORD_TOO_LARGE]);
  });

  it('is refused with a sentence where it is not whole, and nothing of it stays', async () => {
    const record = await written();
    const other = await new Browser(worlds.server.app).openStudio();
    const [passage] = record.passages;
    const bad: Readonly<Record<string, object | string>> = {
      'a file of another kind': 'not a record',
      'half of it': JSON.stringify(record).slice(0, 4000),
      'another form': { ...record, formatVersion: 2 },
      'a passage beyond its score': { ...record, passages: [{ ...passage, endIndex: 900 }] },
      'a rep of no passage': { ...record, reps: [{ ...record.reps[0], passageId: newId() }] },
      'one rep twice': { ...record, reps: [record.reps[0], record.reps[0]] },
      'a score that is none': {
        ...record,
        scores: record.scores.map((score) => ({ ...score, file: 'AAAA' })),
      },
      'a rep without its tempo': { ...record, reps: [{ ...record.reps[0], bpm: null }] },
    };
    for (const [what, sent] of Object.entries(bad)) {
      const { status, body } = await read(other, sent);
      expect(status).withContext(what).toBeGreaterThanOrEqual(400);
      expect(status).withContext(what).toBeLessThan(500);
      expect((body as { detail: string }).detail.length)
        .withContext(what)
        .toBeGreaterThan(20);
    }
    expect(((await other.call('readSeason')).body as { rows: unknown[] }).rows).toEqual([]);
  });
});
