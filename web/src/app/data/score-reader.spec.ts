import { asQuarterBpm } from '@vivid-cue/core/music';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { firstValueFrom, lastValueFrom, toArray } from 'rxjs';
import { ScoreReaderClient, type ReadRequest } from './score-reader';

/** Scales up from C, four quarters a measure. */
const study = (count: number): string =>
  `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Flute</part-name></score-part></part-list><part id="P1">${Array.from(
    { length: count },
    (_, at) => at + 1,
  )
    .map(
      (n) =>
        `<measure number="${n}">${n === 1 ? '<attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>' : ''}${['C', 'D', 'E', 'F'].map((step) => `<note><pitch><step>${step}</step><octave>5</octave></pitch><duration>1</duration></note>`).join('')}</measure>`,
    )
    .join('')}</part></score-partwise>`;
const STUDY = study(4);

const request = (text: string): ReadRequest => ({
  kind: 'read',
  bytes: new TextEncoder().encode(text).buffer as ArrayBuffer,
  partId: 'P1',
  instrument: 'flute',
  quarterBpm: asQuarterBpm(96),
  unit: null,
  numbering: [],
  ornamentRules: [],
  runs: [],
});

describe('ScoreReaderClient', () => {
  let client: ScoreReaderClient;

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    client = TestBed.inject(ScoreReaderClient);
  });

  it('tells of each step in the worker, then gives the reading', async () => {
    const news = await lastValueFrom(client.read(request(STUDY)).pipe(toArray()));
    const steps = news.flatMap((one) => ('step' in one ? [one.step] : []));
    expect(steps).toEqual(['opening', 'counting', 'demands', 'repeats', 'traps', 'findings']);
    const last = news.at(-1);
    const result = last && 'result' in last ? last.result : null;
    // Four measures of one figure: the last three are the first again.
    expect(result?.reading.exactRepeats.length).toBeGreaterThan(0);
    expect(result?.facts.map(({ notes }) => notes)).toEqual([4, 4, 4, 4]);
    expect(result?.engraved.length).toBe(4);
  });

  it('puts a long reading together from its pieces, every measure in its place', async () => {
    const last = await lastValueFrom(client.read(request(study(250))));
    const result = 'result' in last ? last.result : null;
    expect(result?.facts.map(({ index }) => index)).toEqual(Array.from({ length: 250 }, (_, n) => n));
    expect([result?.prints.length, result?.engraved.length]).toEqual([250, 250]);
    expect(result?.reading.deciding).toBeDefined();
  });

  it('gives the reader’s sentence for a file that is none', async () => {
    const news = await lastValueFrom(client.read(request('no music')));
    expect('failure' in news && news.failure).toMatch(/MusicXML|file/iu);
  });

  it('ends its worker when nobody listens any more', async () => {
    const ended = spyOn(Worker.prototype, 'terminate').and.callThrough();
    const first = await firstValueFrom(client.read(request(STUDY)));
    expect('step' in first && first.step).toBe('opening');
    expect(ended).toHaveBeenCalledTimes(1);
  });
});
