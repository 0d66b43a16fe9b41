import { of } from 'rxjs';
import type { ScoreRoomView } from '@vivid-cue/contract';
import type { PaperMusic } from '@vivid-cue/core/paper';
import { ScoreApi } from '../../data/score-api';
import { show, type Shown } from '../../testing/shown';
import { ToldForm } from './told-form';

const ROOM = {
  programPartId: '0190a000-0000-7000-8000-000000000001',
  workTitle: 'Slack Water',
  asked: [{ from: 9, to: 40 }],
  target: { bpm: 96, beatUnit: 'quarter' },
} as unknown as ScoreRoomView;

describe('ToldForm', () => {
  const sent: PaperMusic[] = [];
  const api = {
    keepPaper: (_part: string, _id: string, paper: PaperMusic) => {
      sent.push(paper);
      return of({ programPartId: 'kept' } as ScoreRoomView);
    },
  };
  const open = (inputs: object = {}): Promise<Shown<ToldForm>> =>
    show(ToldForm, { room: ROOM, ...inputs }, [{ provide: ScoreApi, useValue: api }]);
  const field = (name: string): string =>
    name === 'line' ? 'input[name=line]' : `input[data-field=${name}]`;
  const value = (page: Shown<ToldForm>, name: string): string =>
    page.find<HTMLInputElement>(field(name)).value;

  it('begins with the sheet’s last measure and tempo, and needs no more than the meter', async () => {
    const page = await open();
    expect(['first', 'last', 'tempos'].map((name) => value(page, name))).toEqual(['1', '40', '♩=96']);
    expect(page.text).not.toContain('not understood');
    await page.type(field('meter'), '4/4');
    expect(page.text).toContain('40 measures, 1:40.');
    await page.press('These are the measures');
    expect(sent.splice(0)).toEqual([{ title: 'Slack Water', line: '1–40 4/4; ♩=96', typed: [], pages: [] }]);
  });

  it('says the same in fields and in one line, whichever is typed', async () => {
    const page = await open();
    await page.type(field('line'), '1–16 3/4; 17-32 6/8; pickup 1/4; A9; |: 1–8 :| 1. 7 2. 8; ♩=60');
    expect(
      ['last', 'meter', 'changes', 'pickup', 'letters', 'repeats'].map((name) => value(page, name)),
    ).toEqual(['32', '3/4', '6/8 from 17', 'pickup 1/4', 'A9', '|: 1–8 :| 1. 7 2. 8']);
    await page.type(field('letters'), 'A9 B17');
    expect(value(page, 'line')).toContain('A9 B17');
    // 16 × 3 + 16 × 3 + 1 quarters at 60, and the repeat of 1 to 6.
    expect(page.text).toContain('33 measures, 1:37, with repeats 1:55.');
  });

  it('says what is not understood and keeps it in sight, until it is', async () => {
    const page = await open();
    await page.type(field('line'), '1–16 4/4; some jolly bars; B99');
    expect(page.text).toContain('"some jolly bars" is not understood.');
    expect(page.text).toContain('Letter B stands at 99, outside of the measures 1–16.');
    expect(page.named('These are the measures').hasAttribute('disabled')).toBeTrue();
    await page.type(field('last'), '120');
    expect(value(page, 'line')).toContain('some jolly bars');
    await page.type(field('line'), '1–120 4/4; B99');
    expect(page.named('These are the measures').hasAttribute('disabled')).toBeFalse();
  });
});
