import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { Subject } from 'rxjs';

/** A key that was pressed. Source: MIDI 1.0, channel voice messages: 9n kk vv, velocity 0 releases it */
const NOTE_ON = 0x90;

/** A played keyboard, where the browser offers one. */
@Injectable()
export class MidiKeys {
  private readonly inputs = new Set<MIDIInput>();
  private readonly pressed = new Subject<number>();

  /** Keys as they are pressed. Units: MIDI note numbers */
  readonly played = this.pressed.asObservable();
  /** Whether this browser can listen to keyboards at all. */
  readonly isOffered = 'requestMIDIAccess' in navigator;
  /** What is listened to, in a sentence; "" before it was asked for. */
  readonly state = signal('');

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      for (const one of this.inputs) one.onmidimessage = null;
    });
  }

  /** Asks the browser for keyboards and listens to all of them. */
  async listen(): Promise<void> {
    try {
      const access = await navigator.requestMIDIAccess();
      const hear = (): void => {
        for (const one of access.inputs.values()) {
          one.onmidimessage = ({ data }) => this.take(data);
          this.inputs.add(one);
        }
        const count = access.inputs.size;
        this.state.set(
          count === 0
            ? 'No keyboard is connected; it is heard as soon as it is.'
            : 'Listening to your keyboard.',
        );
      };
      access.onstatechange = hear;
      hear();
    } catch {
      this.state.set('This browser does not let keyboards be heard; allow MIDI for this page.');
    }
  }

  private take(data: Uint8Array | null): void {
    const [status = 0, key = 0, velocity = 0] = data ?? [];
    if ((status & 0xf0) === NOTE_ON && velocity > 0) this.pressed.next(key);
  }
}
