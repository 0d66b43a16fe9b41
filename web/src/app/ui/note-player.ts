import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { hertzOf, type QuarterBpm } from '@vivid-cue/core/music';

/** A note to sound. Units: MIDI number of the sounding pitch, null for a stroke; quarters from the beginning */
export interface NoteToSound {
  readonly midi: number | null;
  readonly start: number;
  readonly length: number;
}

const LEAD_SECONDS = 0.15;
const ATTACK_SECONDS = 0.012;
/** Of a note's length so much sounds, so that repeated notes are heard apart. */
const SOUNDING_SHARE = 0.92;
const SOFT = 0.22;
/** A stroke without pitch. Units: hertz, seconds */
const STROKE = { hertz: 300, seconds: 0.05 };

/** Sounds a row of notes at any tempo. */
@Injectable({ providedIn: 'root' })
export class NotePlayer {
  private context: AudioContext | null = null;
  private voices: OscillatorNode[] = [];
  private end: ReturnType<typeof setTimeout> | null = null;

  readonly isOn = signal(false);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.stop();
      void this.context?.close();
    });
  }

  play(notes: readonly NoteToSound[], tempo: QuarterBpm): void {
    this.stop();
    this.context ??= new AudioContext();
    const context = this.context;
    void context.resume();
    const perQuarter = 60 / tempo;
    const from = context.currentTime + LEAD_SECONDS;
    for (const note of notes) this.sound(context, note, { from, perQuarter });
    const last = Math.max(0, ...notes.map(({ start, length }) => start + length));
    this.isOn.set(true);
    this.end = setTimeout(() => this.isOn.set(false), (last * perQuarter + LEAD_SECONDS) * 1000);
  }

  stop(): void {
    for (const voice of this.voices) voice.stop();
    this.voices = [];
    if (this.end !== null) clearTimeout(this.end);
    this.isOn.set(false);
  }

  private sound(
    context: AudioContext,
    { midi, start, length }: NoteToSound,
    { from, perQuarter }: { readonly from: number; readonly perQuarter: number },
  ): void {
    const at = from + start * perQuarter;
    const seconds = midi === null ? STROKE.seconds : Math.max(0.04, length * perQuarter * SOUNDING_SHARE);
    const tone = context.createOscillator();
    const gain = context.createGain();
    tone.type = 'triangle';
    tone.frequency.value = midi === null ? STROKE.hertz : hertzOf(midi);
    gain.gain.setValueAtTime(0, at);
    gain.gain.linearRampToValueAtTime(SOFT, at + ATTACK_SECONDS);
    gain.gain.setValueAtTime(SOFT, at + Math.max(ATTACK_SECONDS, seconds - ATTACK_SECONDS));
    gain.gain.linearRampToValueAtTime(0, at + seconds);
    tone.connect(gain).connect(context.destination);
    tone.start(at);
    tone.stop(at + seconds + 0.01);
    this.voices.push(tone);
  }
}
