/// <reference lib="webworker" />
import { peakOf } from '@vivid-cue/core/takes';
import { TakeDatabase, type KeptRecording } from '../data/take-database';
import type { StoreNews, StoreOrder } from '../data/take-store';
import { TrackBlocks, type Block } from '../data/track-blocks';

/** So many blocks are written together. */
const BLOCKS_A_PIECE = 8;

const database = new TakeDatabase();
let recording: KeptRecording | null = null;
let blocks: Float32Array[] = [];
let next = 0;
let frames = 0;
let loudest = 0;
let lost = 0;
/** Writes follow each other, so that the last one is the last. */
let writing: Promise<void> = Promise.resolve();
/** Pieces that the device had no room for: they live as long as the page. */
let unwritten: Int16Array<ArrayBuffer>[] = [];

function tell(news: StoreNews): void {
  postMessage(news);
}

function sixteenBits(parts: readonly Float32Array[]): Int16Array<ArrayBuffer> {
  const samples = new Int16Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts)
    for (const one of part) {
      samples[at] = Math.max(-32_768, Math.min(32_767, Math.round(one * 32_767)));
      at += 1;
    }
  return samples;
}

function write(): void {
  if (!recording || blocks.length === 0) return;
  const [{ id }, samples, n] = [recording, sixteenBits(blocks), next];
  blocks = [];
  next += 1;
  frames += samples.length;
  const facts = { frames, peak: loudest };
  writing = writing.then(async () => {
    try {
      if (unwritten.length > 0) throw new Error('full');
      await database.transaction('rw', database.recordings, database.pieces, async () => {
        await database.pieces.put({ takeId: id, n, samples });
        await database.recordings.update(id, facts);
      });
    } catch {
      unwritten.push(samples);
      tell({ kind: 'full' });
    }
  });
}

function take({ samples, skipped, rate, isLast }: Block): void {
  const peak = peakOf(samples);
  tell({ kind: 'level', peak, rate });
  if (!recording) return;
  loudest = Math.max(loudest, peak);
  lost += skipped;
  blocks.push(samples);
  if (blocks.length >= BLOCKS_A_PIECE || isLast) write();
  if (!isLast) return;
  const { id } = recording;
  const done = { kind: 'done', id, frames, peak: loudest, lost } as const;
  recording = null;
  writing = writing.then(async () => {
    await database.recordings.update(id, { isRunning: false, lost: done.lost }).catch(() => undefined);
    tell({ ...done, unwritten });
    unwritten = [];
  });
}

function begin(facts: KeptRecording): void {
  recording = facts;
  track.begin();
  [blocks, next, frames, loudest, lost, unwritten] = [[], 0, 0, 0, 0, []];
  writing = database.recordings.put(facts).then(
    () => undefined,
    () => tell({ kind: 'full' }),
  );
}

/** A piece that had to be waited for so long was the newest there was. Units: milliseconds */
const WAITED_MS = 4;
/** A track that hands out nothing any more is not waited for longer. Units: milliseconds */
const PATIENCE_MS = 300;

const track = new TrackBlocks(take);
let isFlowing = false;
let isEnding = false;

function end(): void {
  if (!isEnding) return;
  isEnding = false;
  track.end();
}

/** What was heard before somebody stopped may still be on its way: it belongs to the take. */
function endSoon(): void {
  isEnding = true;
  if (!isFlowing) end();
  else setTimeout(end, PATIENCE_MS);
}

async function listen(pieces: ReadableStream<AudioData>): Promise<void> {
  const reader = pieces.getReader();
  isFlowing = true;
  for (;;) {
    const askedMs = performance.now();
    const { value, done } = await reader.read();
    if (done) break;
    track.add(value);
    value.close();
    if (performance.now() - askedMs > WAITED_MS) end();
  }
  isFlowing = false;
  end();
}

addEventListener('message', ({ data }: MessageEvent<StoreOrder>) => {
  if ('port' in data) data.port.onmessage = ({ data: block }: MessageEvent<Block>) => take(block);
  else if ('track' in data) void listen(data.track);
  else if ('isOver' in data) endSoon();
  else begin(data.recording);
});
