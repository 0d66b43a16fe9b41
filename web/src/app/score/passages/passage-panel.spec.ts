import { asQuarterBpm } from '@vivid-cue/core/music';
import { provideHttpClient } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { LADDER_START, passageLadder, placeOf } from '@vivid-cue/core/climb';
import { addRep, passageSentence, readinessAt, UNOPENED_RECORD } from '@vivid-cue/core/readiness';
import type { PassageView, RepInput } from '@vivid-cue/contract';
import { withWaitingReps } from '../../data/waiting-passage';
import { PassagePanel } from './passage-panel';
import type { RepWish } from '../room/rep';

const NOW_MS = Date.UTC(2027, 2, 10, 12);

/** A passage of 4 measures at ♩=116 that nobody has played. */
function unplayed(): PassageView {
  const ladder = passageLadder(116, 'quarter');
  const rungs = ladder.ok ? ladder.value : [];
  const place = placeOf(LADDER_START, 'three-in-a-row');
  const readiness = readinessAt(UNOPENED_RECORD, NOW_MS);
  const tempos = { playedCleanBpm: null, reliableBpm: null, isAsked: true };
  return {
    id: 'a',
    name: 'mm. 9–12',
    from: '9',
    to: '12',
    fromIndex: 8,
    endIndex: 12,
    target: { bpm: 116, beatUnit: 'quarter' },
    hasOwnTarget: false,
    isSeam: false,
    step: { kind: 'usual' },
    rule: 'three-in-a-row',
    slipRule: 'two-down',
    school: null,
    rungs,
    ladder: LADDER_START,
    place,
    record: UNOPENED_RECORD,
    readiness,
    interval: null,
    ...tempos,
    version: 1,
    writes: 1,
    sentence: passageSentence({
      ...tempos,
      rule: 'three-in-a-row',
      readiness,
      place,
      rungBpms: rungs.map(({ bpm }) => bpm),
      targetBpm: 116,
      unit: 'quarter',
    }),
  };
}

const rep = (n: number, wish: RepWish): RepInput => ({
  id: `r${n}`,
  at: new Date(NOW_MS + n * 1000).toISOString(),
  beatUnit: 'quarter',
  ...wish,
});

describe('PassagePanel', () => {
  let fixture: ComponentFixture<PassagePanel>;
  let host: HTMLElement;
  let logged: RepWish[];
  let takenBack: number;

  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), provideHttpClient()] });
    fixture = TestBed.createComponent(PassagePanel);
    host = fixture.nativeElement as HTMLElement;
    document.body.append(host);
    logged = [];
    takenBack = 0;
    let view = unplayed();
    fixture.componentRef.setInput('passage', view);
    fixture.componentRef.setInput('seconds', 8.3);
    fixture.componentInstance.log.subscribe((wish) => {
      logged.push(wish);
      view = withWaitingReps(view, [rep(logged.length, wish)], { zone: 'UTC', nowMs: NOW_MS });
      fixture.componentRef.setInput('passage', view);
    });
    fixture.componentInstance.takeBack.subscribe(() => (takenBack += 1));
    await fixture.whenStable();
  });
  afterEach(() => host.remove());

  const text = (selector: string): string =>
    host.querySelector(selector)?.textContent?.replace(/\s+/gu, ' ').trim() ?? '';
  const click = async (selector: string): Promise<void> => {
    host.querySelector<HTMLElement>(selector)?.click();
    await fixture.whenStable();
  };
  const press = async (
    key: string,
    init: KeyboardEventInit = {},
    target: EventTarget = document.body,
  ): Promise<void> => {
    target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...init }));
    await fixture.whenStable();
  };

  it('starts at half tempo without a number and says what to do', () => {
    expect(text('.tempo')).toContain('58');
    expect(text('.now')).toContain('click ♪ = 116');
    expect(text('.chance')).toBe('–');
    expect(text('.sentence')).toContain('Nobody has played it yet');
    expect(text('vc-rung-glyph')).toBe('Mapped');
  });

  it('moves up after three clean reps by button and key, and changes number, state and sentence at once', async () => {
    await click('.clean');
    await press('c');
    expect(text('.streak')).toContain('2 of 3');
    await press('C');
    expect(logged.map(({ bpm, isClean }) => [bpm, isClean])).toEqual([
      [58, true],
      [58, true],
      [58, true],
    ]);
    // Three in a row at first sight: two rungs up, to 66 percent of 116.
    expect(text('.tempo')).toContain('77');
    expect(text('.streak')).toContain('0 of 3');
    expect(text('vc-rung-glyph')).toBe('Grounded');
    expect(text('.chance')).toMatch(/^<?\d+%$/u);
    expect(text('.sentence')).toContain('the sheet asks ♩=116');
  });

  it('counts anew after a slip', async () => {
    await press('c');
    await press('c');
    await click('.slip');
    expect(logged.at(-1)).toEqual({ bpm: 58, context: 'alone', isClean: false });
    expect(text('.streak')).toContain('0 of 3');
  });

  it('plays a chosen rung next and logs there', async () => {
    await click('vc-ladder-view li:first-child button');
    expect(text('.tempo')).toContain('116');
    await press('x');
    expect(logged).toEqual([{ bpm: 116, context: 'alone', isClean: false }]);
  });

  it('leaves keys alone while somebody types, holds a key or uses a command key', async () => {
    const field = document.createElement('input');
    document.body.append(field);
    await press('c', {}, field);
    await press('c', { repeat: true });
    await press('c', { ctrlKey: true });
    field.remove();
    expect(logged).toEqual([]);
  });

  it('asks for the last rep to be taken back with U', async () => {
    await press('u');
    expect(takenBack).toBe(1);
  });
});

describe('withWaitingReps', () => {
  it('counts on the page what the record of the same facts counts', () => {
    const reps = [true, true, false, true, true, true].map((isClean, n) =>
      rep(n, { bpm: 58, context: 'alone', isClean }),
    );
    const view = withWaitingReps(unplayed(), reps, { zone: 'UTC', nowMs: NOW_MS });
    const day = Math.floor(NOW_MS / 86_400_000);
    const facts = reps.map(({ at, bpm, context, isClean }) => ({
      atMs: Date.parse(at),
      day,
      quarterBpm: asQuarterBpm(bpm),
      context,
      isClean,
    }));
    const counted = facts.reduce((record, one) => addRep(record, one, asQuarterBpm(116)), UNOPENED_RECORD);
    expect(view.record).toEqual(counted);
    expect(view.place.rungIndex).toBe(1);
  });
});
