import { v7 as newId } from 'uuid';
import { withCues, type FileCue } from '@vivid-cue/core/cues';
import type {
  CueView,
  StudentPageView,
  FindingMarkView,
  PassageView,
  ProblemDetails,
  ScoreRoomView,
} from '@vivid-cue/contract';
import {
  cueInput,
  expectStatus,
  FINDING_KEY,
  startServer,
  study,
  walkPath,
  type TestServer,
  type World,
} from './world.js';

/** A measure that a first file lacked: a whole note. */
const MISSING =
  '<measure number="4A"><note><pitch><step>G</step><octave>4</octave></pitch><duration>48</duration><voice>1</voice><type>whole</type></note></measure>';

/** A measure that was missing, after 4: all that follows is counted one more. */
function withMissingMeasure(xml: string): string {
  let n = 0;
  return xml
    .replace(/<measure number="4"[\s\S]*?<\/measure>/u, (four) => `${four}${MISSING}`)
    .replace(/(<measure\b[^>]*?number=)"[^"]*"/gu, (_, start: string) => `${start}"${(n += 1)}"`);
}

const OTHER_KEY = 'deciding:00000000deadbeef';

describe('findings, cues and passages of a score room', () => {
  let server: TestServer;
  let world: World;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(async () => {
    world = await walkPath(server);
  });
  afterAll(() => server.db.destroy());

  const room = async (): Promise<ScoreRoomView> =>
    (await expectStatus(200, world.browser.call('readScoreRoom', { programPartId: world.programPartId })))
      .body as ScoreRoomView;

  const mark = async (key: string, measure: string, wish: FindingMarkView['mark'] | null) =>
    (
      await expectStatus(
        200,
        world.browser.call(
          'markFinding',
          { programPartId: world.programPartId },
          { id: newId(), key, measure, mark: wish },
        ),
      )
    ).body as FindingMarkView[];

  /** The study with a text put in the place of another, as a corrected file. */
  const corrected = (change: (xml: string) => string): Buffer =>
    Buffer.from(change(Buffer.from(study('ferry-lines')).toString('utf8')));

  it('keeps what was decided about a finding, lets it be turned and taken back', async () => {
    await mark(FINDING_KEY, '9', 'confirmed');
    expect(await mark(FINDING_KEY, '9', 'dismissed')).toEqual([
      { key: FINDING_KEY, measure: '9', mark: 'dismissed' },
    ]);
    await mark(FINDING_KEY, '17', 'confirmed');
    expect((await room()).findingMarks.map(({ measure }) => measure)).toEqual(['9', '17']);
    expect(await mark(FINDING_KEY, '9', null)).toEqual([
      { key: FINDING_KEY, measure: '17', mark: 'confirmed' },
    ]);
  });

  it('gives along what the sheet says about ornaments, and nothing else of its notes', async () => {
    expect((await room()).ornamentRules).toEqual([]);
    const { id: sheetId, ...sheet } = world.sheet;
    const notes = [
      { kind: 'edition', text: 'Any edition.' },
      { kind: 'ornament', text: 'Trill on B: C natural.' },
    ];
    await expectStatus(
      200,
      world.browser.call('changeSheet', { sheetId }, { ...sheet, notes }, { 'If-Match': '"1"' }),
    );
    expect((await room()).ornamentRules).toEqual(['Trill on B: C natural.']);
  });

  it('pins one measure at a time as the one that decides', async () => {
    await mark(OTHER_KEY, '4', 'pinned');
    expect(await mark(OTHER_KEY, '12', 'pinned')).toEqual([
      { key: OTHER_KEY, measure: '12', mark: 'pinned' },
    ]);
  });

  it('refuses a key that no reading makes, naming the field', async () => {
    const answer = await world.browser.call(
      'markFinding',
      { programPartId: world.programPartId },
      { id: newId(), key: '<b>', measure: '9', mark: 'confirmed' },
    );
    expect([answer.status, (answer.body as ProblemDetails).issues?.[0]?.where]).toEqual([422, 'key']);
  });

  it('writes a cue once, changes it on its version and brings a removed one back', async () => {
    const { browser, programPartId } = world;
    const cue = cueInput({ from: '3', to: '3', text: 'lift before the G' });
    for (const _ of [1, 2]) await expectStatus(201, browser.call('createCue', { programPartId }, cue));
    const [first] = (await room()).cues;
    expect([first?.text, first?.fromIndex, first?.endIndex]).toEqual(['lift before the G', 2, 3]);
    const change = { kind: 'breath', from: '3', to: '4', text: 'breathe here' };
    const changed = await expectStatus(
      200,
      browser.call('changeCue', { cueId: cue.id }, change, { 'If-Match': '"1"' }),
    );
    expect((changed.body as CueView).endIndex).toBe(4);
    const stale = await browser.call('changeCue', { cueId: cue.id }, change, { 'If-Match': '"1"' });
    expect([stale.status, (stale.body as { current: CueView }).current.text]).toEqual([409, 'breathe here']);
    await expectStatus(204, browser.call('removeCue', { cueId: cue.id }));
    expect((await room()).cues).toHaveSize(1);
    await expectStatus(204, browser.call('restoreCue', { cueId: cue.id }));
    expect((await room()).cues).toHaveSize(2);
  });

  it('writes several cues at once with their signs, reasons and other ways, all of them or none', async () => {
    const { browser, programPartId } = world;
    const sign = { ...cueInput({ kind: 'fingering', from: '3', to: '3', text: 'Right', findingKey: null }) };
    const full = {
      ...sign,
      ...{ note: 2, sign: 'R', status: 'discuss', reason: 'the left one is taken', author: 'solver' },
      alternatives: [{ text: 'slide', reason: 'smears', isSafe: false }],
    };
    const plain = { ...cueInput({ from: '4', to: '4', findingKey: null }), beat: 2.5 };
    for (const _ of [1, 2])
      await expectStatus(201, browser.call('createCues', { programPartId }, { cues: [full, plain] }));
    const { cues } = await room();
    const { note, status, reason, author, alternatives } = full;
    expect(cues.find(({ id }) => id === full.id)).toEqual(
      jasmine.objectContaining({ sign: 'R', note, status, reason, author, alternatives } as never),
    );
    expect(cues.find(({ id }) => id === plain.id)).toEqual(
      jasmine.objectContaining({ note: null, beat: 2.5, sign: '', status: 'settled', author: 'instructor' }),
    );
    const beyond = [cueInput({ from: '3', to: '3' }), cueInput({ from: '90', to: '90' })];
    expect((await browser.call('createCues', { programPartId }, { cues: beyond })).status).toBe(422);
    expect((await room()).cues.map(({ id }) => id)).not.toContain(beyond[0]?.id ?? '');
    // Changed, it keeps who wrote it.
    const change = { kind: 'fingering', from: '3', to: '3', text: 'Right', sign: 'R', note: 2 };
    const changed = await browser.call('changeCue', { cueId: full.id }, change, { 'If-Match': '"1"' });
    expect(changed.body).toEqual(
      jasmine.objectContaining({ author: 'solver', reason: '', status: 'settled' }),
    );
  });

  it('keeps how long long tones last, and refuses none that nobody could hold', async () => {
    const { browser, studentId } = world;
    const air = { soft: 22, loud: 14.5, on: '2027-03-10' };
    await expectStatus(204, browser.call('changeAir', { studentId }, air));
    expect((await room()).air).toEqual(air);
    const page = (await browser.call('readStudent', { studentId })).body as StudentPageView;
    expect([page.schools.air, page.schools.dayCap]).toEqual([air, null]);
    const wrong = await browser.call('changeAir', { studentId }, { ...air, loud: 400 });
    expect([wrong.status, (wrong.body as ProblemDetails).issues?.[0]?.where]).toEqual([422, 'loud']);
  });

  it('refuses a cue at measures that the score does not hold', async () => {
    const answer = await world.browser.call(
      'createCue',
      { programPartId: world.programPartId },
      cueInput({ from: '90', to: '91' }),
    );
    expect([answer.status, (answer.body as ProblemDetails).code]).toEqual([422, 'span-refused']);
  });

  it('carries decisions, cues and passages over into a corrected file, where their music stands there', async () => {
    const { browser, programPartId } = world;
    await mark(FINDING_KEY, '9', 'dismissed');
    const before = await room();
    await expectStatus(200, browser.upload(programPartId, corrected(withMissingMeasure)));
    const after = await room();
    expect(after.findingMarks).toEqual([{ key: FINDING_KEY, measure: '9', mark: 'dismissed' }]);
    const places = ({ cues, passages }: ScoreRoomView): unknown[] => [
      cues.map(({ from, to, fromIndex, endIndex }) => [from, to, fromIndex, endIndex]),
      passages.map(({ name, from, to, fromIndex }) => [name, from, to, fromIndex]),
    ];
    expect(places(before)).toEqual([[['9', '10', 8, 10]], [['mm. 9–12', '9', '12', 8]]]);
    expect(places(after)).toEqual([[['10', '11', 9, 11]], [['mm. 10–13', '10', '13', 9]]]);
    // Counted otherwise, the music stays what it is.
    const recounted = corrected((xml) =>
      xml.replace(/number="(\d+)"/gu, (_, n: string) => `number="${Number(n) + 40}"`),
    );
    await expectStatus(200, browser.upload(programPartId, recounted));
    expect(places(await room())).toEqual([[['49', '50', 8, 10]], [['mm. 49–52', '49', '52', 8]]]);
  });

  it('follows printed numbers into another piece, and refuses one that lacks a cue’s measure', async () => {
    const { browser, programPartId } = world;
    await expectStatus(200, browser.upload(programPartId, study('harbor-bell')));
    expect((await room()).cues.map(({ from, fromIndex }) => [from, fromIndex])).toEqual([['9', 8]]);
    const short = Buffer.from('X:1\nT:Quay Song\nM:2/4\nL:1/8\nK:G\nGABc | d2 B2 |]\n');
    const refused = await browser.upload(programPartId, short);
    expect(refused.status).toBe(422);
    expect((refused.body as ProblemDetails).detail).toContain('the cue “C natural here” (9–10)');
    expect((await room()).cues).toHaveSize(1);
  });

  it('brings cues along that a file of ours carries, each once, and nothing that no cue could be', async () => {
    const { browser, programPartId } = world;
    const own: FileCue = {
      ...{ kind: 'fingering', fromIndex: 2, endIndex: 3, note: 2, beat: null, sign: 'R', text: 'Right' },
      ...{ status: 'discuss', reason: 'the left one is taken', author: 'solver' },
      alternatives: [{ text: 'slide', reason: 'smears', isSafe: true }],
    };
    const lost = { ...own, fromIndex: 200, endIndex: 201 };
    const endless: FileCue = { ...own, kind: 'ear', text: 'x'.repeat(161) };
    const written = withCues(study('ferry-lines'), { partId: null, cues: [own, lost, endless] });
    if (!written.ok) throw new Error(written.issues[0]?.message);
    for (const _ of [1, 2])
      await expectStatus(200, browser.upload(programPartId, Buffer.from(written.value)));
    const { cues } = await room();
    const { fromIndex, endIndex, ...rest } = own;
    expect(cues.filter(({ text }) => text === 'Right')).toEqual([
      jasmine.objectContaining({ ...rest, fromIndex, endIndex, from: '3', to: '3' } as never),
    ]);
    // The one that stood there before, and the one that came.
    expect(cues).toHaveSize(2);
    // What was removed meanwhile comes again.
    for (const { id } of cues) await expectStatus(204, browser.call('removeCue', { cueId: id }));
    await expectStatus(200, browser.upload(programPartId, Buffer.from(written.value)));
    expect((await room()).cues.map(({ text }) => text)).toEqual(['Right']);
  });

  it('takes ABC notation and keeps it as MusicXML', async () => {
    const { browser, programPartId } = world;
    await expectStatus(204, browser.call('removePassage', { passageId: world.passageId }));
    await expectStatus(204, browser.call('removeCue', { cueId: world.cueId }));
    const abc = Buffer.from('X:1\nT:Quay Song\nM:2/4\nL:1/8\nK:G\nGABc | d2 B2 |]\n');
    const answer = await expectStatus(200, browser.upload(programPartId, abc, newId(), 'quay-song.abc'));
    const { score } = answer.body as ScoreRoomView;
    expect(score?.digest.notes.written).toEqual(['G4', 'A4', 'B4', 'C5', 'D5', 'B4']);
    const file = await expectStatus(200, browser.call('readScoreFile', { scoreId: score?.id ?? '' }));
    expect(Buffer.from(file.body as Buffer).toString()).toContain('<score-partwise');
    const empty = await browser.upload(programPartId, Buffer.from('X:1\nK:G\n'));
    expect([empty.status, (empty.body as ProblemDetails).detail]).toEqual([
      422,
      'This ABC text holds no notes.',
    ]);
  });

  it('counts measures as the instructor says; passages and cues keep their music and take the new numbers', async () => {
    const { browser, programPartId } = world;
    const answer = await expectStatus(
      200,
      browser.call('changeNumbering', { programPartId }, { restarts: [{ index: 0, number: 101 }] }),
    );
    const counted = answer.body as ScoreRoomView;
    expect(counted.score?.digest.measures.slice(0, 3).map(({ number }) => number)).toEqual([
      '101',
      '102',
      '103',
    ]);
    expect(counted.passages.map(({ name, from, fromIndex }) => [name, from, fromIndex])).toEqual([
      ['mm. 109–112', '109', 8],
    ]);
    expect(counted.cues.map(({ from, to, fromIndex }) => [from, to, fromIndex])).toEqual([['109', '110', 8]]);
    expect(counted.numbering).toEqual([{ index: 0, number: 101 }]);
    // So they are in a corrected file, from the same music on.
    const answered = await expectStatus(200, browser.upload(programPartId, corrected(withMissingMeasure)));
    const longer = answered.body as ScoreRoomView;
    expect(longer.numbering).toEqual([{ index: 0, number: 101 }]);
    expect(longer.passages.map(({ name, fromIndex }) => [name, fromIndex])).toEqual([['mm. 110–113', 9]]);
    expect(longer.cues.map(({ from, fromIndex }) => [from, fromIndex])).toEqual([['110', 9]]);
    const back = await expectStatus(
      200,
      browser.call('changeNumbering', { programPartId }, { restarts: [] }),
    );
    expect((back.body as ScoreRoomView).passages[0]?.from).toBe('10');
  });

  it('makes all suggested passages and seams together, or none of them', async () => {
    const { browser, programPartId } = world;
    const wish = (from: string, to: string, isSeam = false) => ({
      id: newId(),
      name: '',
      from,
      to,
      target: null,
      isSeam,
    });
    const list = [wish('1', '4'), wish('5', '8'), wish('4', '5', true)];
    for (const _ of [1, 2]) {
      const made = await expectStatus(
        201,
        browser.call('createPassages', { programPartId }, { passages: list }),
      );
      expect((made.body as PassageView[]).map(({ isSeam }) => isSeam)).toEqual([false, false, true]);
    }
    expect((await room()).passages).toHaveSize(4);
    const broken = await browser.call(
      'createPassages',
      { programPartId },
      { passages: [wish('13', '16'), wish('200', '204')] },
    );
    expect(broken.status).toBe(422);
    expect((await room()).passages).toHaveSize(4);
  });

  it('names every part of the program that can be started anywhere', async () => {
    expect((await room()).program.parts).toEqual([
      { id: world.programPartId, label: 'Etude', runs: [{ fromIndex: 0, endIndex: 28 }] },
    ]);
  });

  it('exports cues and decisions with the student and erases them with the rest', async () => {
    await mark(FINDING_KEY, '9', 'confirmed');
    const file = await expectStatus(200, world.browser.call('exportStudent', { studentId: world.studentId }));
    expect(JSON.stringify(file.body)).toContain('C natural here');
    expect(JSON.stringify(file.body)).toContain(FINDING_KEY);
    await expectStatus(204, world.browser.call('eraseStudent', { studentId: world.studentId }));
    const left = await server.db('cues').where({ student_id: world.studentId }).count({ n: '*' });
    const marks = await server.db('finding_marks').where({ student_id: world.studentId }).count({ n: '*' });
    expect([Number(left[0]?.['n']), Number(marks[0]?.['n'])]).toEqual([0, 0]);
  });
});
