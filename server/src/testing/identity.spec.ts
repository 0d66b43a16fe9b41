import { v7 as newId } from 'uuid';
import { blankPart, type SheetPart } from '@vivid-cue/core/sheet';
import type {
  ProblemDetails,
  ProgramPageView,
  RevisionsView,
  SheetInput,
  SheetView,
} from '@vivid-cue/contract';
import { Browser, expectStatus, run, sheetInput, startServer, study, type TestServer } from './world.js';

describe('a part is known by its identifier', () => {
  let server: TestServer;
  let browser: Browser;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(async () => {
    browser = await new Browser(server.app).openStudio();
  });
  afterAll(() => server.db.destroy());

  const tempo = { beatUnit: 'quarter', bpmMin: 96, bpmMax: 96, bound: 'exact', words: null } as const;
  const etude = (label: string, change: Partial<SheetPart> = {}): SheetPart => ({
    ...blankPart(label, 'etude', newId()),
    tempo,
    ...change,
  });
  const holding = (instrument: string, divisions: readonly string[] = []): Partial<SheetPart> => ({
    scope: { instruments: [instrument], divisions, options: [] },
  });

  async function student(instrument: string): Promise<string> {
    const id = newId();
    await expectStatus(201, browser.call('createStudent', {}, { id, name: `A ${instrument}`, instrument }));
    return id;
  }

  async function programOf(
    sheet: SheetInput,
    studentId: string,
    division: string | null = null,
  ): Promise<ProgramPageView> {
    const id = newId();
    await expectStatus(
      201,
      browser.call('createProgram', {}, { id, studentId, sheetId: sheet.id, division }),
    );
    return (await expectStatus(200, browser.call('readProgram', { programId: id }))).body as ProgramPageView;
  }

  async function sheetOf(parts: SheetPart[], change: Partial<SheetInput> = {}): Promise<SheetInput> {
    const sheet = sheetInput({ parts, instrument: 'flute, clarinet', ...change });
    await expectStatus(201, browser.call('createSheet', {}, sheet));
    return sheet;
  }

  it('gives a student only what holds for the instrument, and chooses among that', async () => {
    const [flute1, flute2] = [etude('Etude 1', holding('Flute')), etude('Etude 2', holding('Flute'))];
    const [reed1, reed2] = [
      etude('Etude 1', holding('Clarinet in B♭')),
      etude('Etude 2', holding('Clarinet in B♭')),
    ];
    const sheet = await sheetOf([flute1, flute2, reed1, reed2, etude('Sight-reading')], {
      choices: [
        { rule: 'oneOf', n: 1, of: [flute1.id, flute2.id] },
        { rule: 'oneOf', n: 1, of: [reed1.id, reed2.id] },
      ],
    });
    const page = await programOf(sheet, await student('clarinet'));
    expect(page.parts.map(({ part, name }) => [part.id, name])).toEqual([
      [reed1.id, 'Etude 1 (Clarinet in B♭)'],
      [reed2.id, 'Etude 2 (Clarinet in B♭)'],
      [sheet.parts[4]?.id ?? '', 'Sight-reading'],
    ]);
    expect(page.choices.length).toBe(1);
    const first = page.parts[0];
    const choice = { ...first?.choice, isTaken: true, scoreId: null };
    const chosen = (
      await expectStatus(200, browser.call('changePartChoice', { programPartId: first?.id ?? '' }, choice))
    ).body as ProgramPageView;
    expect(chosen.choices[0]?.verdict.status).toBe('satisfied');
    // The flute's parts of the same names are another student's matter.
    const flute = await programOf(sheet, await student('flute'));
    expect(flute.choices[0]?.verdict.status).toBe('undecided');
    expect(flute.parts.map(({ choice: { isTaken } }) => isTaken)).toEqual([false, false, true]);
  });

  it('follows the student to another division, and back', async () => {
    const [junior, senior] = [
      etude('Etude', holding('flute', ['Junior'])),
      etude('Etude', holding('flute', ['Senior'])),
    ];
    const sheet = await sheetOf([junior, senior]);
    const page = await programOf(sheet, await student('flute'), 'Junior');
    expect([page.division, page.divisions]).toEqual(['Junior', ['Junior', 'Senior']]);
    expect(page.parts.map(({ part }) => part.id)).toEqual([junior.id]);
    const moved = (
      await expectStatus(200, browser.call('changeProgram', { programId: page.id }, { division: 'Senior' }))
    ).body as ProgramPageView;
    expect(moved.parts.map(({ part }) => part.id)).toEqual([senior.id]);
  });

  it('carries parts over a revision by identifier, whatever happens to their places and names', async () => {
    const [one, two, three] = [etude('Etude 1'), etude('Etude 2'), etude('Etude 3')];
    const sheet = await sheetOf([one, two]);
    const page = await programOf(sheet, await student('flute'));
    const second = page.parts.find(({ part }) => part.id === two.id);
    await expectStatus(200, browser.upload(second?.id ?? '', study('ferry-lines')));
    const { id, ...change } = sheet;
    // [1, 2] becomes [2, 3]: the first is no longer asked, the second keeps its score, the third is new.
    const revision = {
      ...change,
      revisionId: newId(),
      issuedOn: null,
      note: '',
      deadlines: [],
      parts: [{ ...two, label: 'Etude 1' }, three],
    };
    await expectStatus(201, browser.call('createRevision', { sheetId: id }, revision, { 'If-Match': '"1"' }));
    const view = (await browser.call('listRevisions', { sheetId: id })).body as RevisionsView;
    expect(view.difference?.changes.map(({ partId, field }) => [partId, field])).toEqual([[two.id, 'label']]);
    expect([view.difference?.added, view.difference?.removed]).toEqual([['Etude 3'], ['Etude 1']]);
    await expectStatus(200, browser.call('movePrograms', { sheetId: id }, { programIds: null }));
    const moved = (await browser.call('readProgram', { programId: page.id })).body as ProgramPageView;
    expect(moved.parts.map(({ part, score }) => [part.id, score !== null])).toEqual([
      [two.id, true],
      [three.id, false],
    ]);
  });

  it('leaves the sheet whole when a revision is refused: a used identifier, an older version', async () => {
    const sheet = await sheetOf([etude('Etude 1')]);
    const other = await sheetOf([etude('Etude 1')], { body: 'Skerry Board' });
    const { id, ...change } = sheet;
    const revision = { ...change, revisionId: newId(), issuedOn: null, note: '', deadlines: [] };
    const made = await expectStatus(
      201,
      browser.call('createRevision', { sheetId: id }, revision, { 'If-Match': '"1"' }),
    );
    expect((made.body as SheetView).revision.number).toBe(2);
    const used = await browser.call('createRevision', { sheetId: other.id }, revision, { 'If-Match': '"1"' });
    expect([used.status, (used.body as ProblemDetails).code]).toEqual([409, 'id-taken']);
    const late = await browser.call(
      'createRevision',
      { sheetId: id },
      { ...revision, revisionId: newId() },
      { 'If-Match': '"1"' },
    );
    expect([late.status, (late.body as ProblemDetails).code]).toEqual([409, 'version-stale']);
    const left = (await expectStatus(200, browser.call('readSheet', { sheetId: other.id })))
      .body as SheetView;
    expect([left.version, left.revision.number, left.parts.length]).toEqual([1, 1, 1]);
  });

  it('keeps a scale that was written out to the student’s own program', async () => {
    const scale = { ...blankPart('Scale', 'scale', newId()), tempo };
    const sheet = await sheetOf([scale]);
    const [mine, other] = [
      await programOf(sheet, await student('clarinet')),
      await programOf(sheet, await student('flute')),
    ];
    const wish = {
      scoreId: newId(),
      key: 'F major',
      isArpeggio: false,
      octaves: 2,
      noteValue: 'eighth',
      articulation: '',
    };
    await expectStatus(200, browser.call('writeScale', { programPartId: mine.parts[0]?.id ?? '' }, wish));
    const theirs = (await browser.call('readProgram', { programId: other.id })).body as ProgramPageView;
    expect(theirs.parts[0]?.score).toBeNull();
  });

  it('keeps the runs of a part apart: what lies between them is not asked', async () => {
    const part = etude('Etude', { measures: [run(21, 'end'), run(1, 4)] });
    const sheet = await sheetOf([part]);
    const page = await programOf(sheet, await student('clarinet'));
    const programPartId = page.parts[0]?.id ?? '';
    const room = (await expectStatus(200, browser.upload(programPartId, study('ferry-lines')))).body as {
      askedText: string;
      runs: unknown;
    };
    expect(room.askedText).toBe('21 to end, then mm. 1–4');
    expect(room.runs).toEqual([
      { fromIndex: 20, endIndex: 32 },
      { fromIndex: 0, endIndex: 4 },
    ]);
    const stored = (await browser.call('readSheet', { sheetId: sheet.id })).body as SheetView;
    expect(stored.parts[0]?.measures).toEqual(part.measures);
  });
});
