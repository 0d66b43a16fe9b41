import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { of } from 'rxjs';
import { ScoreApi } from '../data/score-api';
import { SessionStore } from '../data/session-store';
import { RoomStore } from './room/room-store';
import { TargetForm } from './target-form';

/** Measures as a digest tells them: a pickup at no tempo, 6/8 at ♩.=66, then common time at ♩=120. */
const MEASURES = [
  { implicit: true, time: '6/8', quarterBpm: null },
  { implicit: false, time: '6/8', quarterBpm: 99 },
  { implicit: false, time: '4/4', quarterBpm: 120 },
];

describe('TargetForm', () => {
  const room = signal<object | null>(null);
  const sent: unknown[] = [];

  async function opened(
    measures: readonly object[],
    runs: readonly object[] = [],
  ): Promise<ComponentFixture<TargetForm>> {
    room.set({ programPartId: 'p', runs, score: { digest: { measures } } });
    const fixture = TestBed.createComponent(TargetForm);
    await fixture.whenStable();
    return fixture;
  }
  const textOf = ({ nativeElement }: ComponentFixture<TargetForm>): string =>
    (nativeElement as HTMLElement).textContent;
  const bpmOf = ({ nativeElement }: ComponentFixture<TargetForm>): string | undefined =>
    (nativeElement as HTMLElement).querySelector('input')?.value;

  beforeEach(() => {
    sent.length = 0;
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: SessionStore, useValue: { vocabulary: signal('us') } },
        { provide: RoomStore, useValue: { room, run: () => undefined } },
        { provide: ScoreApi, useValue: { setTarget: (_: string, target: object) => of(sent.push(target)) } },
      ],
    });
  });

  it('offers what the score says, in the beat of its meter', async () => {
    const fixture = await opened(MEASURES);
    expect(textOf(fixture)).toContain('the score has ♩.=66');
    expect(bpmOf(fixture)).toBe('66');
    (fixture.nativeElement as HTMLElement).querySelector<HTMLButtonElement>('button[type=submit]')?.click();
    await fixture.whenStable();
    expect(sent).toEqual([{ bpm: 66, beatUnit: 'dotted-quarter' }]);
  });

  it('takes the tempo of the asked measures, and asks where the score has none', async () => {
    expect(textOf(await opened(MEASURES, [{ fromIndex: 2, endIndex: 3 }]))).toContain('the score has ♩=120');
    const blank = await opened(MEASURES.slice(0, 1));
    expect(textOf(blank)).not.toContain('the score has');
    expect(bpmOf(blank)).toBe('');
  });
});
