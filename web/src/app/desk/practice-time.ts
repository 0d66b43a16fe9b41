import { Injectable, signal } from '@angular/core';
import { BREAKS } from '@vivid-cue/core/care';
import { readStored } from '../data/stored-json';

/** What was practised today on this device. Shape: `seconds` by the key of the item */
interface DayTime {
  readonly day: number;
  readonly seconds: Readonly<Record<string, number>>;
  readonly done: readonly string[];
  readonly sinceBreak: number;
}

/** A pause longer than this is no practice. Units: milliseconds (our own) */
const PAUSE_MS = 90_000;
/** So much is counted for what began after a pause. Units: seconds (our own) */
const FIRST_SECONDS = 15;
/** A break is due after so much practice. Units: seconds */
const BREAK_AFTER = BREAKS.after * 60;

/** How long was practised today, item by item: from one deed to the next, pauses left out. Kept on this device. */
@Injectable()
export class PracticeTime {
  private storageKey = '';
  private lastMs = 0;
  private readonly today = signal<DayTime>({ day: 0, seconds: {}, done: [], sinceBreak: 0 });
  readonly isBreakDue = signal(false);

  /** Opens a day of a student. */
  open(studentId: string, day: number): void {
    this.storageKey = `vivid-cue-desk-time:${studentId}`;
    const stored = readStored<DayTime>(this.storageKey);
    this.today.set(stored?.day === day ? stored : { day, seconds: {}, done: [], sinceBreak: 0 });
  }

  /** Something was played, or the click goes on. Units: milliseconds since 1970 */
  touch(key: string, nowMs: number): void {
    const gapMs = nowMs - this.lastMs;
    const seconds = gapMs >= 0 && gapMs <= PAUSE_MS ? gapMs / 1000 : FIRST_SECONDS;
    this.lastMs = nowMs;
    this.keep((before) => ({
      ...before,
      seconds: { ...before.seconds, [key]: (before.seconds[key] ?? 0) + seconds },
      sinceBreak: gapMs > 5 * 60_000 ? seconds : before.sinceBreak + seconds,
    }));
    if (this.today().sinceBreak >= BREAK_AFTER) this.isBreakDue.set(true);
  }

  /** A break was taken, or somebody goes on all the same. */
  hadBreak(): void {
    this.isBreakDue.set(false);
    this.keep((before) => ({ ...before, sinceBreak: 0 }));
  }

  tick(key: string, isDone: boolean): void {
    this.keep((before) => ({
      ...before,
      done: isDone ? [...new Set([...before.done, key])] : before.done.filter((one) => one !== key),
    }));
  }

  isTicked(key: string): boolean {
    return this.today().done.includes(key);
  }

  /** Minutes with one item. */
  minutes(key: string): number {
    return (this.today().seconds[key] ?? 0) / 60;
  }

  /** Minutes of today. */
  total(): number {
    return Object.values(this.today().seconds).reduce((sum, seconds) => sum + seconds, 0) / 60;
  }

  private keep(change: (before: DayTime) => DayTime): void {
    this.today.update(change);
    localStorage.setItem(this.storageKey, JSON.stringify(this.today()));
  }
}
