import { Injectable, signal, computed, inject, DestroyRef } from '@angular/core';
import { decibels, levelWord, LONGEST_TAKE_MINUTES, type LevelWord } from '@vivid-cue/core/takes';
import type { KeptRecording } from './take-database';
import { takeStoreWorker } from './take-workers';
import type { EndedRecording, StoreNews, StoreOrder } from './take-store';

/** The level is judged by the loudest of so many blocks: about three seconds. */
const JUDGED_BLOCKS = 32;
/** The meter holds the loudest of so many blocks: about half a second. */
const HELD_BLOCKS = 6;
/** What the meter shows at its left end. Units: dB of full scale */
const FLOOR_DB = -60;

/** So many pieces of a track, some seconds, wait for a worker that is kept waiting itself. */
const WAITING_PIECES = 300;

/** The first sound comes within so long. Units: milliseconds */
const FIRST_MS = 10_000;

/** Without any of what browsers do to voices. Source: W3C, Media Capture and Streams */
export const AS_IT_SOUNDS = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };

/** The sentence for why there is no microphone. Source: W3C, Media Capture and Streams, getUserMedia */
function troubleText(error: unknown): string {
  const { name } = error as { readonly name?: string };
  if (name === 'NotAllowedError' || name === 'SecurityError')
    return 'This page may not use the microphone. Allow it in the browser’s bar for this address and try again, or bring a file.';
  if (name === 'NotFoundError' || name === 'OverconstrainedError')
    return 'There is no microphone. Plug one in and try again, or bring a file.';
  if (name === 'NotReadableError')
    return 'Another program holds the microphone. Close it there and try again.';
  return 'The microphone does not open. Try again, or bring a file.';
}

/**
 * Hands out what a track brings.
 * Source: W3C, MediaStreamTrack Insertable Media Processing using Streams; of the browsers for sound in Chromium
 */
declare class MediaStreamTrackProcessor {
  constructor(wish: { readonly track: MediaStreamTrack; readonly maxBufferSize: number });
  readonly readable: ReadableStream<AudioData>;
}

/** The microphone of this device: its level, and what it records, kept on the device while it is recorded. */
@Injectable()
export class Microphone {
  private context: AudioContext | null = null;
  private stream: MediaStream | null = null;
  private node: AudioWorkletNode | null = null;
  private worker: Worker | null = null;
  private readonly peaks = signal<readonly number[]>([]);
  private ended: ((recording: EndedRecording) => void) | null = null;
  private clock: ReturnType<typeof setInterval> | null = null;

  readonly isOpen = signal(false);
  readonly trouble = signal<string | null>(null);
  /** Whether the device has no room: what is recorded lives as long as the page. */
  readonly isFull = signal(false);
  readonly isRecording = signal(false);
  /** How long it has recorded. Units: seconds */
  readonly seconds = signal(0);
  /** Where the level stands between silence and full scale. Shape: 0 to 1 */
  readonly level = computed(() => {
    const lately = Math.max(0, ...this.peaks().slice(-HELD_BLOCKS));
    return 1 + Math.max(FLOOR_DB, decibels(lately)) / -FLOOR_DB;
  });
  readonly word = computed((): LevelWord => levelWord(Math.max(0, ...this.peaks())));
  /** Units: samples a second */
  readonly rate = signal(0);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.close());
  }

  /** Opens the microphone; false with the trouble told. */
  async open(): Promise<boolean> {
    if (this.isOpen()) return true;
    this.trouble.set(null);
    if (!isSecureContext) {
      this.trouble.set(
        'Browsers give a page the microphone only over TLS or on this machine. Ask whoever runs the server, or bring a file.',
      );
      return false;
    }
    try {
      this.stream = await navigator.mediaDevices.getUserMedia({
        audio: { ...AS_IT_SOUNDS, channelCount: 1 },
      });
      await this.listen(this.stream);
      this.isOpen.set(true);
      return true;
    } catch (error) {
      this.close();
      this.trouble.set(troubleText(error));
      return false;
    }
  }

  /** Where a browser hands out the track itself a worker takes it, and no sound card's clock stands between; else a worklet. */
  private async listen(stream: MediaStream): Promise<void> {
    this.worker = takeStoreWorker();
    const first = new Promise<void>((done, fail) => {
      this.worker?.addEventListener('message', ({ data }: MessageEvent<StoreNews>) => {
        this.hear(data);
        if (data.kind === 'level') done();
      });
      setTimeout(fail, FIRST_MS, new Error('Nothing came from the microphone.'));
    });
    for (const track of stream.getTracks()) track.addEventListener('ended', () => this.pulledOut());
    const [track] = stream.getAudioTracks();
    const begun =
      track && typeof MediaStreamTrackProcessor !== 'undefined'
        ? this.throughTrack(track)
        : this.throughWorklet(stream);
    // With the first sound its rate is known.
    await Promise.all([begun, first]);
  }

  private throughTrack(track: MediaStreamTrack): void {
    const { readable } = new MediaStreamTrackProcessor({ track, maxBufferSize: WAITING_PIECES });
    this.tell({ track: readable }, [readable]);
  }

  private async throughWorklet(stream: MediaStream): Promise<void> {
    // The usual, short buffers: with long ones what comes from the microphone overflows before it is taken.
    const context = new AudioContext();
    this.context = context;
    await context.audioWorklet.addModule('/take-worklet.js');
    await context.resume();
    this.node = new AudioWorkletNode(context, 'take-worklet', {
      numberOfOutputs: 0,
      channelCount: 1,
      channelCountMode: 'explicit',
    });
    context.createMediaStreamSource(stream).connect(this.node);
    const { port1, port2 } = new MessageChannel();
    this.tell({ port: port1 }, [port1]);
    this.node.port.postMessage({ out: port2 }, [port2]);
  }

  private tell(order: StoreOrder, handedOver: Transferable[] = []): void {
    this.worker?.postMessage(order, handedOver);
  }

  private hear(news: StoreNews): void {
    if (news.kind === 'level') {
      this.rate.set(news.rate);
      this.peaks.update((list) => [...list.slice(1 - JUDGED_BLOCKS), news.peak]);
    } else if (news.kind === 'full') this.isFull.set(true);
    else {
      this.ended?.(news);
      this.ended = null;
    }
  }

  /** Begins a recording; `ended` hears of it when it stops, whatever made it stop. */
  record(recording: KeptRecording, ended: (recording: EndedRecording) => void): void {
    this.ended = ended;
    this.peaks.set([]);
    this.isFull.set(false);
    this.node?.port.postMessage({ command: 'record' });
    this.tell({ recording: { ...recording, rate: this.rate() } });
    this.isRecording.set(true);
    this.seconds.set(0);
    const begun = performance.now();
    this.clock = setInterval(() => {
      this.seconds.set((performance.now() - begun) / 1000);
      if (this.seconds() < LONGEST_TAKE_MINUTES * 60) return;
      this.trouble.set(`A take lasts at most ${LONGEST_TAKE_MINUTES} minutes; it stopped there and is kept.`);
      this.stop();
    }, 100);
  }

  /** Ends the recording. */
  stop(): void {
    if (this.clock !== null) clearInterval(this.clock);
    this.clock = null;
    if (!this.isRecording()) return;
    this.isRecording.set(false);
    if (this.node) this.node.port.postMessage({ command: 'stop' });
    else this.tell({ isOver: true });
  }

  private pulledOut(): void {
    const wasRecording = this.isRecording();
    this.stop();
    this.trouble.set(
      wasRecording
        ? 'The microphone was pulled out. What was recorded until then is here.'
        : 'The microphone was pulled out. Plug it in and open it again.',
    );
    // The last block is still on its way.
    setTimeout(() => this.close(), 500);
  }

  /** Lets go of the microphone. */
  close(): void {
    this.stop();
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    this.node?.port.postMessage({ command: 'close' });
    const [context, worker] = [this.context, this.worker];
    // What was recorded last is written before the worker goes.
    if (context || worker)
      setTimeout(() => {
        void context?.close();
        worker?.terminate();
      }, 1000);
    [this.stream, this.node, this.context, this.worker] = [null, null, null, null];
    this.isOpen.set(false);
  }
}
