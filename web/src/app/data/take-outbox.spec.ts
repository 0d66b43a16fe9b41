import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { TAKE_LIMITS } from '@vivid-cue/contract/take-limits';
import { NO_MARKS } from '@vivid-cue/contract/take-marks';
import { v7 as newId } from 'uuid';
import { TakeOutbox } from './take-outbox';

/** Waits until something is there. */
async function soon<Thing>(look: () => Thing | null | undefined | false): Promise<Thing> {
  for (let tries = 0; tries < 200; tries += 1) {
    const found = look();
    if (found) return found;
    await new Promise((done) => setTimeout(done, 10));
  }
  throw new Error('It did not come.');
}

describe('TakeOutbox', () => {
  let outbox: TakeOutbox;
  let http: HttpTestingController;

  beforeEach(async () => {
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), provideHttpClient(), provideHttpClientTesting()],
    });
    outbox = TestBed.inject(TakeOutbox);
    http = TestBed.inject(HttpTestingController);
    await outbox.database.waiting.clear();
  });

  function take(id: string, pieces: number): Parameters<TakeOutbox['add']>[0] {
    return {
      facts: {
        ...{ id, studentId: newId(), programPartId: newId(), workTitle: 'Ferry Lines', sittingId: null },
        ...{ atMs: Date.UTC(2027, 2, 10), withRepeats: true, asked: null },
      },
      ...{ seconds: 3, level: 'good', original: null, told: null },
      sound: new Blob([new Uint8Array(pieces * TAKE_LIMITS.chunkBytes - 7)]),
      marks: { ...NO_MARKS, taps: [{ index: 2, number: '3', seconds: 1 }] },
    };
  }

  it('announces a take, sends only the pieces that have not arrived, then what was marked, and lets it go', async () => {
    outbox.open({ door: 'desk', ownerId: newId() });
    const id = newId();
    await outbox.add(take(id, 3));
    const begun = await soon(() => http.match('/api/desk/takes')[0]);
    const { sound } = begun.request.body as { sound: { bytes: number; sha256: string } };
    // SHA-256 has 64 hexadecimal letters: FIPS 180-4.
    expect([sound.bytes, sound.sha256.length]).toEqual([3 * TAKE_LIMITS.chunkBytes - 7, 64]);
    begun.flush({ id, isWhole: false, arrived: { sound: [1], original: [] }, marksVersion: 1 });
    const sent: string[] = [];
    for (const size of [TAKE_LIMITS.chunkBytes, TAKE_LIMITS.chunkBytes - 7]) {
      const chunk = await soon(() => http.match((asked) => asked.url.endsWith('/chunks'))[0]);
      sent.push(chunk.request.params.get('n') ?? '');
      expect((chunk.request.body as Blob).size).toBe(size);
      chunk.flush({ isWhole: false });
    }
    expect(sent).toEqual(['0', '2']);
    const marked = await soon(() => http.match((asked) => asked.url.endsWith('/marks'))[0]);
    expect((marked.request.body as { taps: unknown[] }).taps.length).toBe(1);
    marked.flush({});
    await soon(() => outbox.waiting().length === 0);
    expect(await outbox.database.waiting.count()).toBe(0);
  });

  it('keeps a take that the studio has no room for, says why, and sends it again when asked', async () => {
    outbox.open({ door: 'studio', ownerId: newId() });
    const id = newId();
    await outbox.add(take(id, 1));
    const full = { status: 413, statusText: 'Too large' };
    const begun = await soon(() => http.match((asked) => asked.method === 'POST')[0]);
    begun.flush({ code: 'too-large', detail: 'The takes of this studio fill 64 MB.', status: 413 }, full);
    await soon(() => outbox.refused().length === 1);
    expect(outbox.refused()[0]?.refusal).toBe('The takes of this studio fill 64 MB.');
    await outbox.again(id);
    const again = await soon(() => http.match((asked) => asked.method === 'POST')[0]);
    again.flush({ id, isWhole: true, arrived: { sound: [], original: [] }, marksVersion: 2 });
    await soon(() => outbox.waiting().length + outbox.refused().length === 0);
    expect(await outbox.database.waiting.count()).toBe(0);
  });
});
