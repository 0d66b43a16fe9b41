import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { clickSeconds, clickTimes, type ClickSettings } from '@vivid-cue/core/climb';
import { soundClick } from './click-sound';
import { asQuarterBpm, hertzOf, type QuarterBpm } from '@vivid-cue/core/music';

/** A note to sound. Units: MIDI number of the sounding pitch, null for a stroke; quarters from the beginning */
export interface NoteToSound {
  readonly midi: number | null;
  readonly start: number;
  readonly length: number;
  /** How loud beside the others, 0 to 1. */
  readonly gain?: number;
}

const LEAD_SECONDS = 0.15;
const ATTACK_SECONDS = 0.012;
/** Of a note's length so much sounds, so that repeated notes are heard apart. */
const SOUNDING_SHARE = 0.92;
const SOFT = 0.22;
/** A stroke without pitch. Units: hertz, seconds */
const STROKE = { hertz: 300, seconds: 0.05 };

/** What is clicked before the first note. Units: seconds */
function secondsBefore(click: ClickSettings): number {
  const played = click.measures.reduce((sum, { quarters }) => sum + quarters, 0);
  return clickSeconds(click) - (played * 60) / click.quarterBpm;
}

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

  /** Sounds notes; with a click, its count-in goes before them. */
  play(notes: readonly NoteToSound[], tempo: QuarterBpm, click: ClickSettings | null = null): void {
    this.stop();
    this.context ??= new AudioContext();
    const context = this.context;
    void context.resume();
    const perQuarter = 60 / tempo;
    const begin = context.currentTime + LEAD_SECONDS;
    const from = begin + (click ? secondsBefore(click) : 0);
    for (const one of click ? clickTimes(click).filter(({ isSilent }) => !isSilent) : [])
      this.voices.push(soundClick(context, one, begin + one.at));
    for (const note of notes) this.voice(context, note, { from, perQuarter });
    const last = Math.max(0, ...notes.map(({ start, length }) => start + length));
    this.isOn.set(true);
    this.end = setTimeout(
      () => this.isOn.set(false),
      (last * perQuarter + from - context.currentTime) * 1000,
    );
  }

  /** Sounds the notes of an ear test, accents louder. Shape: how long it lasts. Units: quarters a minute; seconds */
  sound(
    notes: readonly { midi: number | null; start: number; length: number; accent: number }[],
    quarterBpm: number,
  ): number {
    const tempo = asQuarterBpm(quarterBpm);
    this.play(
      notes.map(({ accent, ...note }) => ({ ...note, gain: accent })),
      tempo,
    );
    const last = Math.max(0, ...notes.map(({ start, length }) => start + length));
    return (last * 60) / quarterBpm;
  }

  stop(): void {
    for (const voice of this.voices) voice.stop();
    this.voices = [];
    if (this.end !== null) clearTimeout(this.end);
    this.isOn.set(false);
  }

  private voice(
    context: AudioContext,
    { midi, start, length, gain: share = 1 }: NoteToSound,
    { from, perQuarter }: { readonly from: number; readonly perQuarter: number },
  ): void {
    const at = from + start * perQuarter;
    const seconds = midi === null ? STROKE.seconds : Math.max(0.04, length * perQuarter * SOUNDING_SHARE);
    const tone = context.createOscillator();
    const gain = context.createGain();
    tone.type = 'triangle';
    tone.frequency.value = midi === null ? STROKE.hertz : hertzOf(midi);
    gain.gain.setValueAtTime(0, at);
    gain.gain.linearRampToValueAtTime(SOFT * share, at + ATTACK_SECONDS);
    gain.gain.setValueAtTime(SOFT * share, at + Math.max(ATTACK_SECONDS, seconds - ATTACK_SECONDS));
    gain.gain.linearRampToValueAtTime(0, at + seconds);
    tone.connect(gain).connect(context.destination);
    tone.start(at);
    tone.stop(at + seconds + 0.01);
    this.voices.push(tone);
  }
}
