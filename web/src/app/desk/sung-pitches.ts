import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { framePitch } from '@vivid-cue/core/takes';
import type { SungPitch } from '@vivid-cue/core/mock';
import { AS_IT_SOUNDS } from '../data/microphone';
import { soundClick } from '../ui/click-sound';

const FRAME_MS = 50;
const COUNT = 4;
/** The first click comes so long after the press. Units: seconds */
const LEAD_SECONDS = 0.3;
/** A pitch that is less sure is breath or noise. */
const SURE = 0.4;

/** Hears what is sung, after a count of four. */
@Injectable()
export class SungPitches {
  private context: AudioContext | null = null;
  private stream: MediaStream | null = null;
  private timer: ReturnType<typeof setInterval> | null = null;

  readonly isOn = signal(false);
  readonly word = signal('');
  readonly trouble = signal<string | null>(null);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  /** Counts in, hears as long as the melody lasts. Shape: null without a microphone. Units: quarters, quarters a minute */
  async hear({
    quarters,
    quarterBpm,
  }: {
    readonly quarters: number;
    readonly quarterBpm: number;
  }): Promise<SungPitch[] | null> {
    this.stop();
    this.trouble.set(null);
    try {
      this.stream = await navigator.mediaDevices.getUserMedia({
        audio: AS_IT_SOUNDS,
      });
    } catch {
      this.trouble.set('This page may not use the microphone. Allow it for this address, and sing again.');
      return null;
    }
    const context = new AudioContext();
    this.context = context;
    await context.resume();
    const analyser = context.createAnalyser();
    analyser.fftSize = 4096;
    context.createMediaStreamSource(this.stream).connect(analyser);
    const perBeat = 60 / quarterBpm;
    const from = context.currentTime + LEAD_SECONDS;
    for (let n = 0; n < COUNT; n += 1) soundClick(context, { level: n === 0 ? 2 : 1 }, from + n * perBeat);
    const begin = from + COUNT * perBeat;
    this.isOn.set(true);
    return this.follow(analyser, { begin, end: begin + quarters * perBeat, perBeat });
  }

  /** Hears from the end of the count on. Units: seconds of the sound card's clock */
  private follow(
    analyser: AnalyserNode,
    { begin, end, perBeat }: { readonly begin: number; readonly end: number; readonly perBeat: number },
  ): Promise<SungPitch[]> {
    const { context } = analyser;
    const buffer = new Float32Array(analyser.fftSize);
    const sung: SungPitch[] = [];
    return new Promise((done) => {
      this.timer = setInterval(() => {
        const now = context.currentTime;
        this.word.set(now < begin ? `${Math.max(1, Math.ceil((begin - now) / perBeat))} …` : 'sing');
        if (now >= begin) {
          analyser.getFloatTimeDomainData(buffer);
          const pitch = framePitch(buffer, context.sampleRate);
          // The buffer ends now: its middle was sung a little before.
          const seconds = now - begin - buffer.length / context.sampleRate / 2;
          if (pitch && pitch.chance >= SURE && seconds >= 0) sung.push({ seconds, midi: pitch.midi });
        }
        if (now < end) return;
        this.stop();
        done(sung);
      }, FRAME_MS);
    });
  }

  stop(): void {
    if (this.timer !== null) clearInterval(this.timer);
    this.timer = null;
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    this.stream = null;
    void this.context?.close();
    this.context = null;
    this.isOn.set(false);
  }
}
