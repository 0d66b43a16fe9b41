import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { ConfirmationService, MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { of, Subject, take, throwError } from 'rxjs';
import { v7 as newId } from 'uuid';
import { blankPart, readSheet, type Correction } from '@vivid-cue/core/sheet';
import type { AskedQuestion, DraftView, SheetChange, SheetView } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { SheetReaderClient } from '../data/sheet-reader';
import { StudioApi } from '../data/studio-api';
import { SheetDrafts } from '../data/sheet-drafts';
import { SheetDesk } from './sheet-desk';

const id = (n: number): string => `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`;
const tempo = { beatUnit: 'quarter', bpmMin: 96, bpmMax: 96, bound: 'exact', words: null } as const;
const noTempo = { beatUnit: null, bpmMin: null, bpmMax: null, bound: 'none', words: null } as const;
const scope = (instrument: string) => ({ instruments: [instrument], divisions: [], options: [] });
const question: AskedQuestion = {
  partId: id(2),
  about: 'Etude 1/tempo',
  ask: 'What is the target tempo?',
  candidates: [],
  answer: null,
  reason: null,
} as unknown as AskedQuestion;

/** A sheet of two instruments, each with an Etude 1. */
const sheet = (change: Partial<SheetView> = {}): SheetView =>
  ({
    id: id(9),
    version: 3,
    title: 'Skerry Board 2027',
    body: 'Skerry Board',
    year: '2027',
    division: '',
    instrument: 'flute, clarinet',
    deadlines: [],
    parts: [
      { ...blankPart('Etude 1', 'etude', id(1)), scope: scope('flute'), tempo },
      { ...blankPart('Etude 1', 'etude', id(2)), scope: scope('clarinet'), tempo: noTempo },
    ],
    choices: [],
    notes: [],
    questions: [question],
    publishedText: null,
    ...change,
  }) as unknown as SheetView;

const stale = (current: SheetView): HttpErrorResponse =>
  new HttpErrorResponse({
    status: 409,
    error: {
      type: 'about:blank',
      title: 'Stale',
      status: 409,
      code: 'version-stale',
      detail: 'Somebody else changed this sheet.',
      current,
    },
  });

describe('SheetDesk', () => {
  let desk: ComponentFixture<SheetDesk>;
  let sent: { readonly version: number; readonly change: SheetChange }[];
  let answers: Subject<SheetView>;
  let fails: HttpErrorResponse | null;
  let players: string[];
  /** What the server keeps, for each test its own: a call of the one before that comes late touches nothing. */
  let kept: { draft: DraftView | null };
  let isAway: boolean;
  let refused: number;

  const page = (): HTMLElement => desk.nativeElement as HTMLElement;
  const field = (label: string): HTMLInputElement | HTMLTextAreaElement =>
    page().querySelector<HTMLInputElement | HTMLTextAreaElement>(label) ?? document.createElement('input');
  const type = async (label: string, text: string): Promise<void> => {
    field(label).value = text;
    field(label).dispatchEvent(new Event('input'));
    await desk.whenStable();
  };
  const press = async (label: string): Promise<void> => {
    const buttons = [...page().querySelectorAll('button')];
    buttons.find((button) => button.textContent?.trim() === label)?.click();
    await desk.whenStable();
  };

  const open = async (sheetId: string | null): Promise<void> => {
    desk = TestBed.createComponent(SheetDesk);
    if (sheetId !== null) desk.componentRef.setInput('sheetId', sheetId);
    await desk.whenStable();
  };

  const until = async (test: () => boolean): Promise<void> => {
    for (let tries = 0; tries < 100 && !test(); tries += 1) await new Promise((done) => setTimeout(done, 30));
  };

  /** Waits until the page says something: a file is read in its own time. */
  const shown = async (text: string): Promise<void> => {
    for (let tries = 0; tries < 100 && !page().textContent?.includes(text); tries += 1) {
      await new Promise((done) => setTimeout(done, 30));
      await desk.whenStable();
    }
    expect(page().textContent).toContain(text);
  };

  beforeEach(async () => {
    [sent, answers, fails, players] = [[], new Subject(), null, []];
    const server: { draft: DraftView | null } = { draft: null };
    [kept, isAway, refused] = [server, true, 0];
    const api = {
      sheet: () => of(sheet()),
      sheets: () => of([]),
      sheetDraft: () => of({ draft: server.draft }),
      keepSheetDraft: (sheetId: string, version: number, state: string) => {
        if (isAway) return throwError(() => new HttpErrorResponse({ status: 0 }));
        if (server.draft && server.draft.version !== version) {
          refused += 1;
          return throwError(() => stale(server.draft as never));
        }
        server.draft = { sheetId, version: server.draft === null ? 1 : version + 1, savedAt: 1, state };
        return of(server.draft);
      },
      dropSheetDraft: () => {
        server.draft = null;
        return of(undefined);
      },
      season: () =>
        of({
          rows: players.map((instrument, n) => ({
            student: { id: id(70 + n), name: `Pupil ${n}`, instrument, version: 1 },
          })),
        }),
      changeSheet: (_id: string, version: number, change: SheetChange) => {
        sent.push({ version, change });
        return fails ? throwError(() => fails) : answers.pipe(take(1));
      },
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([]),
        providePrimeNG({}),
        MessageService,
        ConfirmationService,
        { provide: StudioApi, useValue: api },
        {
          provide: SheetReaderClient,
          useValue: {
            warmUp: () => undefined,
            sheet: (text: string, corrections: readonly Correction[]) =>
              Promise.resolve(readSheet(text, newId, corrections)),
          },
        },
        {
          provide: SessionStore,
          // Each test has a studio of its own, and so drafts of its own.
          useValue: {
            zone: signal('UTC'),
            vocabulary: signal('us'),
            instructor: signal({ studioId: newId() }),
          },
        },
      ],
    });
    spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await open(id(9));
  });

  it('finds again what was entered, readable or not, on the version it was begun on, until it is saved', async () => {
    await type('#body', 'Skerry Board of Graded Music');
    await type('#measures-1', '12–1');
    desk.destroy();
    await open(id(9));
    await shown('Here is what you had entered until');
    expect([field('#body').value, field('#measures-1').value]).toEqual([
      'Skerry Board of Graded Music',
      '12–1',
    ]);
    await type('#measures-1', '1–12');
    await press('Save the sheet');
    expect(sent.map(({ version, change }) => [version, change.body, change.parts[1]?.measures])).toEqual([
      [3, 'Skerry Board of Graded Music', [{ from: 1, to: 12, anchorText: null }]],
    ]);
    answers.next(sheet({ version: 4 }));
    desk.destroy();
    await open(id(9));
    expect(await TestBed.inject(SheetDrafts).find(id(9))).toBeNull();
    expect(field('#body').value).toBe('Skerry Board');
  });

  it('is found on another device, and never writes over what was kept there meanwhile', async () => {
    isAway = false;
    await type('#body', 'From the first device');
    desk.destroy();
    await until(() => kept.draft !== null);
    expect(kept.draft?.version).toBe(1);
    // Another device: nothing is kept on it.
    await TestBed.inject(SheetDrafts).drop(id(9));
    await open(id(9));
    await shown('Here is what you had entered until');
    expect(field('#body').value).toBe('From the first device');
    // Meanwhile the first goes on.
    const first = kept.draft as unknown as DraftView;
    const state = first.state.replace('From the first device', 'The first again');
    kept.draft = { ...first, version: 2, state };
    await type('#body', 'From the second device');
    desk.destroy();
    await until(() => refused > 0);
    expect(kept.draft.state).toContain('The first again');
    await open(id(9));
    await shown('This desk was also worked at elsewhere');
    expect(field('#body').value).toBe('From the second device');
    await press('Take the other');
    expect(field('#body').value).toBe('The first again');
  }, 20_000);

  it('goes back to the saved sheet when what was kept is not wanted', async () => {
    await type('#division', 'Grade 5');
    desk.destroy();
    await open(id(9));
    await shown('Here is what you had entered until');
    await press('Go back to the saved sheet');
    for (let tries = 0; tries < 50 && field('#division').value !== ''; tries += 1)
      await new Promise((done) => setTimeout(done, 20));
    expect([field('#division').value, desk.componentInstance.hasEdits()]).toEqual(['', false]);
    expect(await TestBed.inject(SheetDrafts).find(id(9))).toBeNull();
  });

  it('keeps the text that was pasted into a new sheet, apart from other sheets', async () => {
    desk.destroy();
    await open(null);
    await type('#published', 'ETUDE 1: mm. 1–24');
    desk.destroy();
    await open(id(9));
    expect(page().textContent).not.toContain('Here is what you had entered');
    desk.destroy();
    await open(null);
    await shown('Here is what you had entered until');
    expect(field('#published').value).toBe('ETUDE 1: mm. 1–24');
  });

  it('knows what is not saved, until it is saved on the version that was read', async () => {
    expect(desk.componentInstance.hasEdits()).toBeFalse();
    await type('#body', 'Skerry Board of Graded Music');
    expect(desk.componentInstance.hasEdits()).toBeTrue();
    await press('Save the sheet');
    expect(sent.map(({ version, change }) => [version, change.body])).toEqual([
      [3, 'Skerry Board of Graded Music'],
    ]);
    // A second press while the first is on its way sends nothing.
    await press('Save the sheet');
    expect(sent).toHaveSize(1);
    answers.next(sheet({ version: 4 }));
    await desk.whenStable();
    expect(desk.componentInstance.hasEdits()).toBeFalse();
  });

  it('keeps what is typed beside a newer version, and saves over it only when that is wanted', async () => {
    await type('#division', 'Grade 5');
    fails = stale(sheet({ version: 7, division: 'Grade 6' }));
    await press('Save the sheet');
    expect(page().querySelector('.clash')?.textContent).toContain('number 7');
    expect(field('#division').value).toBe('Grade 5');
    fails = null;
    await press('Save mine over it');
    expect(sent.map(({ version, change }) => [version, change.division])).toEqual([
      [3, 'Grade 5'],
      [7, 'Grade 5'],
    ]);
  });

  it('takes the other version when that is wanted', async () => {
    await type('#division', 'Grade 5');
    fails = stale(sheet({ version: 7, division: 'Grade 6' }));
    await press('Save the sheet');
    await press('Take the other');
    expect(field('#division').value).toBe('Grade 6');
    expect(desk.componentInstance.hasEdits()).toBeFalse();
  });

  it('gives the answer of a question to the part it is about, though another has the same name', async () => {
    const list = page().querySelector('vc-question-list');
    expect(list?.textContent).toContain('Etude 1 (clarinet)');
    const box = list?.querySelector('input');
    if (!box) throw new Error('There is no field for an answer.');
    box.value = 'quarter = 72';
    box.dispatchEvent(new Event('input'));
    await desk.whenStable();
    await press('Answer');
    await press('Save the sheet');
    const { parts, questions } = sent[0]?.change ?? {};
    expect(parts?.map((part) => [part.id, part.tempo.bpmMin])).toEqual([
      [id(1), 96],
      [id(2), 72],
    ]);
    expect(questions?.map(({ partId, answer }) => [partId, answer])).toEqual([[id(2), 'quarter = 72']]);
  });

  const TEXT = `Skerrin Winds 2027
FLUTE
Item\tNo.\tPage
Lyrical\t4\t9
OBOE
Item\tNo.\tPage
Lyrical\t7\t12
BASSOON
Item\tNo.\tPage
Lyrical\t8\t15
Woodwinds, east door
`;
  const readText = async (own: string[]): Promise<void> => {
    desk.destroy();
    players = own;
    await open(null);
    await type('#published', TEXT);
    await press('Read it');
    await shown('Published text');
  };
  const choose = async (label: string): Promise<void> => {
    await desk.whenStable();
    const items = [...document.querySelectorAll<HTMLElement>('.role-menu [role=menuitem]')];
    items
      .find((item) => item.textContent?.trim() === label)
      ?.querySelector('a')
      ?.click();
  };
  const partLines = (): string[] =>
    [...page().querySelectorAll('button.line')].map(
      (line) => line.textContent?.replace(/\s+/gu, ' ').trim() ?? '',
    );

  it('shows the parts of the students’ instruments first, folds the rest away and opens it when asked', async () => {
    await readText(['Oboe']);
    expect(partLines()).toEqual(['Lyrical no. 7, p. 12']);
    expect(page().querySelector('vc-desk-counts')?.textContent).toContain('1 part');
    await press('Flute, 1 part');
    expect(partLines()).toEqual(['Lyrical no. 4, p. 9', 'Lyrical no. 7, p. 12']);
    await press('Oboe · Pupil 0');
    expect(partLines()).toEqual(['Lyrical no. 4, p. 9']);
  });

  it('saves folded parts too, with what was said of the text', async () => {
    await readText(['Oboe']);
    const margin = [...page().querySelectorAll<HTMLElement>('.margin .role')];
    margin.at(-1)?.click();
    await choose('Nothing of use');
    await shown('every phrase read');
    const added: { parts: readonly unknown[]; told?: unknown }[] = [];
    (TestBed.inject(StudioApi) as unknown as { addSheet: unknown }).addSheet = (change: never) => {
      added.push(change);
      return of(sheet());
    };
    await press('Save the sheet');
    expect(added[0]?.parts.length).toBe(3);
    expect(added[0]?.told).toEqual(
      jasmine.objectContaining({
        corrections: [{ kind: 'line', at: { line: 'Woodwinds, east door', nth: 0 }, role: 'nothing' }],
      }),
    );
  });

  it('keeps what was typed while the text is read again', async () => {
    await readText(['Oboe', 'Flute', 'Bassoon']);
    await type('#work-0', 'Ebb and Flow');
    const [head] = page().querySelectorAll<HTMLElement>('th .role:nth-child(1)');
    head?.click();
    await choose('More words');
    await shown('more words');
    expect(partLines()[0]).toContain('Ebb and Flow');
  });

  it('counts what is left and leads to the next open question', async () => {
    expect(page().querySelector('vc-desk-counts')?.textContent).toMatch(/2 parts\s+1 question\s*$/u);
    await press('1 question');
    expect(document.activeElement?.getAttribute('aria-label')).toContain('What is the target tempo?');
  });

  it('says each part in one line that opens and closes; one that is wrong stays open', async () => {
    const lines = (): HTMLElement[] => [...page().querySelectorAll<HTMLElement>('button.line')];
    const opened = (): (string | null)[] => lines().map((line) => line.getAttribute('aria-expanded'));
    expect(lines()[0]?.textContent?.replace(/\s+/gu, ' ')).toContain('Etude 1 ♩=96');
    await type('#measures-1', '12–1');
    for (const line of lines()) line.click();
    await desk.whenStable();
    expect([opened(), page().querySelector('#measures-1')]).toEqual([['false', 'false'], null]);
    await press('Save the sheet');
    expect(opened()).toEqual(['false', 'true']);
    expect(field('#measures-1').value).toBe('12–1');
  });

  it('refuses a span that runs backwards before anything is sent, beside its field', async () => {
    await type('#measures-1', '12–1');
    await press('Save the sheet');
    expect(sent).toHaveSize(0);
    const wrong = [...page().querySelectorAll('.wrong')].map((note) => note.textContent?.trim() ?? '');
    expect(wrong.filter((text) => text !== '').join(' ')).toContain('runs backwards');
    expect(field('#measures-1').value).toBe('12–1');
  });

  it('adds the good rows of a file to what is entered, with identifiers of their own', async () => {
    await type('#body', 'Kept');
    const upload = page().querySelector<HTMLInputElement>('input[type=file]');
    if (!upload) throw new Error('There is no field for a file.');
    const files = new DataTransfer();
    files.items.add(new File(['label,kind\nEtude 1,etude\n,scale\n'], 'parts.csv', { type: 'text/csv' }));
    upload.files = files.files;
    upload.dispatchEvent(new Event('change'));
    await shown('Row 3: The label is missing.');
    await press('Save the sheet');
    const { body, parts } = sent[0]?.change ?? {};
    expect(body).toBe('Kept');
    expect(parts?.map(({ label }) => label)).toEqual(['Etude 1', 'Etude 1', 'Etude 1']);
    expect(new Set(parts?.map((part) => part.id)).size).toBe(3);
  });
});
