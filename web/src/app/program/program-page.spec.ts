import { signal } from '@angular/core';
import { of, Subject, take, throwError, type Observable } from 'rxjs';
import type { Verdict } from '@vivid-cue/core/program';
import { blankPart, NO_SOURCE } from '@vivid-cue/core/sheet';
import type {
  PartChoice,
  ProgramPageView,
  ProgramPartDetail,
  ScaleChoice,
  Target,
} from '@vivid-cue/contract';
import { ScoreAhead } from '../data/score-ahead';
import { SessionStore } from '../data/session-store';
import { StudioApi } from '../data/studio-api';
import { refusal, show, type Shown } from '../testing/shown';
import { ProgramPage } from './program-page';

const id = (n: number): string => `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`;
const choice: Omit<PartChoice, 'scoreId'> = {
  isTaken: true,
  workTitle: '',
  edition: '',
  page: '',
  repeats: null,
  policy: 'keep',
  pickupCounts: false,
};
const verdict = (status: Verdict['status'], ...reasons: string[]): Verdict => ({ status, reasons, open: [] });

function part(n: number, change: Partial<ProgramPartDetail> = {}): ProgramPartDetail {
  return {
    id: id(n),
    part: blankPart(`Etude ${n}`, 'etude', id(100 + n)),
    name: `Etude ${n}`,
    askedText: 'measures 1–32',
    resolvedText: null,
    hasPickup: false,
    choice,
    target: { bpm: 96, beatUnit: 'quarter' },
    score: null,
    verdict: verdict('satisfied'),
    alsoIn: [],
    ...change,
  };
}

const view = (change: Partial<ProgramPageView> = {}): ProgramPageView => ({
  id: id(9),
  student: {
    id: id(8),
    name: 'Ilse Vantongeren',
    instrument: 'clarinet',
    version: 1,
  } as ProgramPageView['student'],
  sheetId: id(7),
  sheetTitle: 'Skerry Board 2027',
  revisionNumber: 1,
  currentRevision: 1,
  division: null,
  divisions: [],
  notes: [],
  openQuestions: [],
  parts: [part(1), part(2)],
  choices: [],
  verdict: verdict('satisfied'),
  instrumentKnown: true,
  scores: [],
  ...change,
});

describe('ProgramPage', () => {
  let page: Shown<ProgramPage>;
  let calls: (readonly [name: string, id: string, wish: unknown])[];
  let answers: Subject<ProgramPageView>[];
  let fails: unknown;

  const open = async (first: ProgramPageView): Promise<void> => {
    [calls, answers, fails] = [[], [], null];
    const call = (name: string, of: string, wish: unknown): Observable<ProgramPageView> => {
      calls.push([name, of, wish]);
      if (fails) return throwError(() => fails);
      const answer = new Subject<ProgramPageView>();
      answers.push(answer);
      return answer.pipe(take(1));
    };
    const api = {
      program: (programId: string) => {
        if (calls.length > 0) return call('program', programId, null);
        return of(first);
      },
      choosePart: (partId: string, wish: PartChoice) => call('choose', partId, wish),
      setTarget: (partId: string, wish: Target) => call('target', partId, wish),
      writeScale: (partId: string, wish: ScaleChoice) => call('scale', partId, wish),
      changeProgram: (programId: string, wish: unknown) => call('change', programId, wish),
    };
    page = await show(ProgramPage, { programId: id(9) }, [
      { provide: StudioApi, useValue: api },
      { provide: SessionStore, useValue: { vocabulary: signal('us'), zone: signal('UTC') } },
      { provide: ScoreAhead, useValue: { soon: () => undefined } },
    ]);
  };
  const answer = async (n: number, given: ProgramPageView): Promise<void> => {
    answers[n]?.next(given);
    await page.settled();
  };
  const openForm = (n: number): Promise<void> => {
    page.host.querySelectorAll<HTMLElement>('button.toggle')[n]?.click();
    return page.settled();
  };

  it('says of the whole and of each part how it stands to the sheet, with every reason', async () => {
    const source = { ...NO_SOURCE, number: '17', page: '26', book: 'Shoreline Pieces' };
    const fromBook = part(2, { part: { ...blankPart('Etude 2', 'etude', id(102)), source } });
    await open(
      view({
        verdict: verdict('undecided', 'Etude 1 has no score.', 'Choose two of three scales.'),
        parts: [
          part(1, { verdict: verdict('short', '♩ = 88 is slower than the sheet’s ♩ = 96.') }),
          fromBook,
        ],
        choices: [{ text: 'two of B♭, F, C', verdict: verdict('over', 'Three are taken.') }],
      }),
    );
    expect(page.text).toContain('2 things are still open.');
    expect(page.text).toContain('Choose two of three scales.');
    expect([...page.host.querySelectorAll('.source')].map((line) => line.textContent)).toEqual([
      'no. 17, p. 26, Shoreline Pieces',
    ]);
    expect(page.text).toContain('♩ = 88 is slower than the sheet’s ♩ = 96.');
    const marks = [...page.host.querySelectorAll('vc-verdict-mark')].map((mark) => mark.textContent?.trim());
    expect(marks).toEqual(['undecided', 'over', 'short', 'satisfied']);
  });

  it('leads on: to a newer revision, to what is open, to the score or to where one is added', async () => {
    const score = { id: id(50), title: 'Study', fileName: 'study.musicxml', from: '1', to: '32' };
    await open(
      view({
        revisionNumber: 1,
        currentRevision: 2,
        openQuestions: ['Which edition?'],
        parts: [
          part(1, { score }),
          part(2),
          part(3, { name: 'Sight-reading', part: blankPart('Sight-reading', 'sight-reading', id(103)) }),
        ],
      }),
    );
    const links = [...page.host.querySelectorAll('a')].map((link) => [
      link.textContent?.trim(),
      link.getAttribute('href'),
    ]);
    expect(links).toContain(['See what it changes and move over', `/sheets/${id(7)}/revisions`]);
    expect(links).toContain(['Answer on the sheet', `/sheets/${id(7)}`]);
    expect(links).toContain(['Open the score', `/score/${id(1)}`]);
    expect(links).toContain(['Bring the music', `/score/${id(2)}`]);
    // Sight-reading has no music to prepare.
    expect(links.map(([, href]) => href)).not.toContain(`/score/${id(3)}`);
  });

  it('keeps a choice: what was typed is sent, and the page stands as the answer leaves it', async () => {
    await open(view());
    await openForm(0);
    expect(page.fixture.componentInstance.hasEdits()).toBeFalse();
    await page.type('#answer-work', '  Harbour Study ');
    await page.type('#answer-page', '26');
    expect(page.fixture.componentInstance.hasEdits()).toBeTrue();
    await page.press('Keep this choice');
    expect(calls).toEqual([
      ['choose', id(1), { ...choice, workTitle: 'Harbour Study', page: '26', scoreId: null }],
    ]);
    expect(page.fixture.componentInstance.hasEdits()).toBeTrue();
    await answer(
      0,
      view({ parts: [part(1, { choice: { ...choice, workTitle: 'Harbour Study' } }), part(2)] }),
    );
    expect(page.fixture.componentInstance.hasEdits()).toBeFalse();
    expect(page.find('article h3').textContent).toContain('Harbour Study');
  });

  it('takes or leaves a part with one tick; nothing else of its choice moves', async () => {
    await open(view({ parts: [part(1), part(2, { choice: { ...choice, isTaken: false, page: '12' } })] }));
    const ticks = [...page.host.querySelectorAll<HTMLInputElement>('.tick')];
    expect(ticks.map(({ checked }) => checked)).toEqual([true, false]);
    ticks[1]?.click();
    await page.settled();
    expect(calls).toEqual([['choose', id(2), { ...choice, isTaken: true, page: '12', scoreId: null }]]);
  });

  it('tells a refusal where it happened and keeps what was typed', async () => {
    await open(view());
    await openForm(1);
    await page.type('#answer-edition', 'second');
    fails = refusal(409, 'The sheet was removed meanwhile.');
    await page.press('Keep this choice');
    const [first, second] = page.host.querySelectorAll('article');
    expect(first?.textContent).not.toContain('removed meanwhile');
    expect(second?.textContent).toContain('The sheet was removed meanwhile.');
    expect(page.find<HTMLInputElement>('#answer-edition').value).toBe('second');
    expect(page.fixture.componentInstance.hasEdits()).toBeTrue();
  });

  it('takes an own tempo as choice and target, one after the other, and asks how the program stands then', async () => {
    await open(view({ parts: [part(1, { choice: { ...choice, policy: 'own' } })] }));
    await openForm(0);
    const bpm = page.find<HTMLInputElement>('#answer-bpm');
    bpm.focus();
    bpm.value = '88';
    bpm.dispatchEvent(new Event('input', { bubbles: true }));
    bpm.dispatchEvent(new Event('blur'));
    await page.settled();
    await page.press('Keep this choice');
    await answer(0, view());
    await answer(1, view());
    expect(calls.map(([name]) => name)).toEqual(['choose', 'target', 'program']);
    expect(calls[1]?.[2]).toEqual({ bpm: 88, beatUnit: 'quarter' });
    await answer(2, view({ verdict: verdict('short', 'Slower than asked.') }));
    expect(page.text).toContain('This program falls short of the sheet.');
  });

  it('writes a scale out from its key, and says where the instrument has no range', async () => {
    const scale = part(1, {
      name: 'Scale',
      part: { ...blankPart('Scale', 'scale', id(101)), key: 'Bb major', octaves: 2 },
    });
    await open(view({ parts: [scale] }));
    await openForm(0);
    await page.type('#scale-articulation', 'slur two, tongue two');
    await page.press('Write it out');
    const [name, of, wish] = calls[0] ?? [];
    expect([name, of]).toEqual(['scale', id(1)]);
    expect(wish).toEqual(
      jasmine.objectContaining({
        key: 'Bb major',
        octaves: 2,
        articulation: 'slur two, tongue two',
        isArpeggio: false,
      }),
    );
  });

  it('offers no writing out where nobody knows the range', async () => {
    const scale = part(1, { part: { ...blankPart('Scale', 'scale', id(101)), key: 'C major' } });
    await open(view({ parts: [scale], instrumentKnown: false }));
    await openForm(0);
    expect(page.text).toContain('The range of this instrument is not known here');
    expect(() => page.named('Write it out')).toThrowError();
  });

  it('stands as the last wish leaves it, in whatever order the answers come', async () => {
    await open(view({ divisions: ['Junior', 'Senior'] }));
    const division = page.find<HTMLSelectElement>('#division');
    const choose = async (value: string): Promise<void> => {
      division.value = value;
      division.dispatchEvent(new Event('change'));
      await page.settled();
    };
    await choose('Junior');
    await choose('Senior');
    expect(calls[0]?.[2]).toEqual({ division: 'Junior' });
    // The first answer is late; in whatever way the calls are put in order, the second wish is what stands.
    for (const [n, name] of [
      [1, 'Senior'],
      [0, 'Junior'],
      [1, 'Senior'],
    ] as const)
      await answer(
        n,
        view({ divisions: ['Junior', 'Senior'], division: name, sheetTitle: `of the ${name}` }),
      );
    expect(page.text).toContain('of the Senior');
  });
});
