import { mkdirSync, writeFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { writeWav } from '@vivid-cue/core/takes';
import { microphoneOf } from '../scripts/recording.mjs';
import { CHROMIUM } from './chromium';
import { file } from './studio';

/** What Chromium's simulated microphone hands out. Units: samples a second */
export const MICROPHONE_RATE = 44_100;
/** So long the room is heard after the music: the simulated microphone would begin its file anew. Units: seconds */
const ROOM_SECONDS = 60;
/** No sample is nothing, so that a silence in a recording is one that was put in; and none is so loud that it is rounded. */
const FLOOR = 2;
const LOUDEST = 16_000;

/** What a microphone hears, as a file for Chromium and as its samples. Units: 16 bits */
export interface Heard {
  readonly path: string;
  readonly samples: Int16Array<ArrayBuffer>;
}

/** A sound of half the microphone's rate as what it hears, and the room after it. */
export function heardAs(
  name: string,
  sound: { readonly samples: Float32Array; readonly rate: number },
): Heard {
  const times = Math.round(MICROPHONE_RATE / sound.rate);
  const music = sound.samples.length * times;
  const samples = Int16Array.from({ length: music + ROOM_SECONDS * MICROPHONE_RATE }, (_none, n) => {
    const sample = sound.samples[Math.floor(n / times)] ?? 0;
    // The room after the music is no tone either.
    const room = FLOOR + (Math.imul(n, 2_654_435_761) >>> 30);
    return Math.round(sample * LOUDEST) + (sample < 0 || (sample === 0 && n % 2 === 0) ? -room : room);
  });
  const folder = file('.data/e2e-sounds');
  mkdirSync(folder, { recursive: true });
  const path = `${folder}/${name}.wav`;
  writeFileSync(
    path,
    writeWav({ samples: Float32Array.from(samples, (one) => one / 32_767), rate: MICROPHONE_RATE }),
  );
  return { path, samples };
}

/** Starts Chromium with a microphone that hears a file. */
export function hearing({ path }: Heard): typeof CHROMIUM {
  return { ...CHROMIUM, args: [...CHROMIUM.args, ...microphoneOf(path)] };
}

/** Runs in a worker: writes each piece of the sound when it is due, and what is overdue at once. */
const SOUND_CARD = `onmessage = async ({ data: { writable, samples, rate } }) => {
  const writer = writable.getWriter();
  let isOpen = true;
  const letGo = () => (isOpen = false);
  writer.closed.then(letGo, letGo);
  const frames = rate / 100;
  const begun = performance.now();
  for (let n = 0; isOpen && (n + 1) * frames <= samples.length; n += 1) {
    const early = n * 10 - (performance.now() - begun);
    if (early > 0) await new Promise((done) => setTimeout(done, early));
    const data = Float32Array.from(samples.subarray(n * frames, (n + 1) * frames), (one) => one / 32768);
    const facts = { format: 'f32-planar', numberOfChannels: 1, numberOfFrames: frames, sampleRate: rate };
    await writer.write(new AudioData({ ...facts, timestamp: n * 10_000, data })).catch(letGo);
  }
};`;

/**
 * Gives the page a microphone with a memory: where the machine is busy its sound comes late, and all of it comes.
 * Source: W3C, Media Capture and Streams; the generator of Chromium, the other end of what the page takes sound from
 */
export async function giveMicrophone(page: Page, { samples }: Heard): Promise<void> {
  await page.route('**/sound-card.js', (route) =>
    route.fulfill({ contentType: 'text/javascript', body: SOUND_CARD }),
  );
  await page.route('**/sound-card.raw', (route) => route.fulfill({ body: Buffer.from(samples.buffer) }));
  await page.addInitScript((rate) => {
    type Written = MediaStreamTrack & { readonly writable: WritableStream };
    type Generator = new (wish: { readonly kind: 'audio' }) => Written;
    navigator.mediaDevices.getUserMedia = async () => {
      const sound = await (await fetch('/sound-card.raw')).arrayBuffer();
      const { MediaStreamTrackGenerator } = window as unknown as { MediaStreamTrackGenerator: Generator };
      const track = new MediaStreamTrackGenerator({ kind: 'audio' });
      const { writable } = track;
      new Worker('/sound-card.js').postMessage({ writable, samples: new Int16Array(sound), rate }, [
        writable,
      ]);
      return new MediaStream([track]);
    };
  }, MICROPHONE_RATE);
}

/** The samples of what was recorded and is neither kept nor dropped. Units: 16 bits */
export async function recordedSamples(page: Page): Promise<Int16Array> {
  const address = await page.evaluate(async () => {
    const answer = <T>(request: IDBRequest<T>): Promise<T> =>
      new Promise((done, fail) => {
        request.onsuccess = () => done(request.result);
        request.onerror = () => fail(request.error ?? new Error('The device does not answer.'));
      });
    const database = await answer(indexedDB.open('vivid-cue-takes'));
    const store = database.transaction('pieces').objectStore('pieces');
    const pieces = (await answer(store.getAll())) as { n: number; samples: Int16Array<ArrayBuffer> }[];
    database.close();
    const reader = new FileReader();
    reader.readAsDataURL(new Blob(pieces.sort((a, b) => a.n - b.n).map(({ samples }) => samples)));
    await new Promise((done) => (reader.onload = done));
    return reader.result as string;
  });
  const bytes = Uint8Array.from(Buffer.from(address.slice(address.indexOf(',') + 1), 'base64'));
  return new Int16Array(bytes.buffer);
}
