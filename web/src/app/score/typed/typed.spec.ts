import { of } from 'rxjs';
import { typedWork, type PaperMusic } from '@vivid-cue/core/paper';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { Engraver } from '../../data/engraver';
import { ScoreApi } from '../../data/score-api';
import { TypedReaderClient } from '../../data/typed-reader';
import { show, type Shown } from '../../testing/shown';
import { TypedEditor } from './typed-editor';

const PAPER: PaperMusic = { title: null, line: '1–8 4/4; 2 flats', typed: [], pages: [] };

describe('TypedEditor', () => {
  const kept: PaperMusic[] = [];
  const open = (): Promise<Shown<TypedEditor>> =>
    show(
      TypedEditor,
      {
        room: { programPartId: 'part' } as ScoreRoomView,
        paper: PAPER,
        passage: { from: '3', abc: '', clef: 'bass' },
      },
      [
        {
          provide: TypedReaderClient,
          useValue: { read: (...wish: Parameters<typeof typedWork>) => Promise.resolve(typedWork(...wish)) },
        },
        { provide: Engraver, useValue: { excerpt: () => Promise.resolve('<svg viewBox="0 0 9 9"></svg>') } },
        {
          provide: ScoreApi,
          useValue: {
            keepPaper: (_part: string, _id: string, paper: PaperMusic) => {
              kept.push(paper);
              return of({} as ScoreRoomView);
            },
          },
        },
      ],
    );

  it('marks what is wrong at its letter, and keeps nothing until it is right', async () => {
    const page = await open();
    await page.type('textarea', 'B2 d2 f2 q | b8');
    expect(page.find('mark').textContent).toBe('q');
    expect(page.named('Keep these notes').hasAttribute('disabled')).toBeTrue();
    await page.type('textarea', 'B2 d2 f2 | b8');
    expect(page.text).toContain('Measure 3 has 3 quarter notes as typed');
    expect(page.find('mark').textContent).toBe('B2 d2 f2');
    await page.type('textarea', 'B2 d2 f4 | b8');
    expect(page.text).toContain('2 measures typed: 3–4.');
    await page.press('Keep these notes');
    expect(kept.splice(0)).toEqual([
      { ...PAPER, typed: [{ from: '3', abc: 'B2 d2 f4 | b8', clef: 'bass' }] },
    ]);
  });

  // MIDI 1.0: 90 is a key pressed on the first channel, 70 its B flat, which two flats write as B.
  it('takes notes from a played keyboard, spelled by the key', async () => {
    const keyboard: { onmidimessage: ((event: { data: Uint8Array }) => void) | null } = {
      onmidimessage: null,
    };
    spyOn(navigator, 'requestMIDIAccess').and.resolveTo({
      inputs: new Map([['a', keyboard]]),
      onstatechange: null,
    } as unknown as MIDIAccess);
    const page = await open();
    await page.press('Keyboard');
    for (const key of [70, 71, 72]) {
      keyboard.onmidimessage?.({ data: new Uint8Array([0x90, key, 64]) });
      keyboard.onmidimessage?.({ data: new Uint8Array([0x80, key, 0]) });
      await page.settled();
    }
    expect(page.find<HTMLTextAreaElement>('textarea').value.replace(/\s/gu, '')).toBe('B=Bc');
    expect(page.text).toContain('Listening to your keyboard.');
  });
});
