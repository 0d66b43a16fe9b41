import type { Test } from 'supertest';
import { v7 as newId } from 'uuid';
import type { RouteName, SheetInput } from '@vivid-cue/contract';
import {
  accountInput,
  cueInput,
  FINDING_KEY,
  pagePicture,
  repInput,
  sheetInput,
  study,
  type Browser,
  type World,
  noteInput,
  surpriseInput,
  lessonInput,
  planInput,
  sendChunk,
  takeInput,
} from './world.js';

const CHOICE = {
  isTaken: true,
  workTitle: '',
  edition: '',
  page: '',
  repeats: null,
  policy: 'keep',
  pickupCounts: false,
  scoreId: null,
};
/** The record of a student who was only just added. */
const EMPTY_RECORD = {
  format: 'vivid-cue-record',
  formatVersion: 1,
  student: { id: newId(), name: 'Mara Thistledown', instrument: 'flute' },
  sheets: [],
  programs: [],
  scores: [],
  passages: [],
  reps: [],
  cues: [],
  findingMarks: [],
  calendarLinks: [],
};
const PICTURE = await pagePicture();
const SETTINGS = {
  studioName: 'A studio',
  zone: 'Atlantic/Reykjavik',
  vocabulary: 'uk',
  rungRule: 'three-in-a-row',
  tempoPolicy: 'keep',
  climbSchool: 'steady',
  slipRule: 'two-down',
  dayMinutes: 40,
  dayCap: 60,
  restDays: [0],
  takeDays: 30,
};

const BOOK = {
  looks: [{ kind: 'breath', ink: 'plum', shape: 'ring' }],
  rules: [
    {
      ...{ id: newId(), instrument: 'clarinet', kind: 'fingering', advice: 'Keep the right hand down.' },
      pattern: { pairs: ['A4 B4'], isQuick: true },
    },
  ],
  silenced: ['sax-break'],
};

/** What a take of two measures said. */
export const TOLD = {
  ...{ seconds: 1, beatQuarters: 1, sure: 0.9, opening: 96, deciding: { number: '9', bpm: 90 }, drift: -2 },
  measures: [{ index: 8, number: '9', start: 0, end: 0.5, bpm: 96, confidence: 0.9, lu: -1 }],
  evenness: [{ from: '9', to: '10', percent: 6, notes: 8 }],
  hairpins: [{ printed: 'crescendo', from: '9', to: '10', changeLu: 0.4 }],
  contrasts: [{ from: '9', to: '10', fromLevel: 'p', toLevel: 'f', changeLu: 2 }],
  loudest: { heard: '9', printed: '10', level: 'f', isAsPrinted: false },
  pauses: [{ seconds: 0.4, length: 1.2, number: '9' }],
  restarts: [{ seconds: 0.5, from: '9', to: '10' }],
  slips: [{ index: 8, number: '9', note: 2, kind: 'missing', seconds: 0.3, confidence: 0.6 }],
  pitches: [{ midi: 69, cents: 4, notes: 3 }],
  tuning: 3,
  notices: [{ kind: 'unsure', share: 0.6 }],
  sentences: [{ text: 'Opens at 96, measure 9 at 90: start at 90.', confidence: 0.8, measures: ['9'] }],
};
const MARKS = { taps: [{ index: 8, number: '9', seconds: 0.3 }], fine: [0.7], downbeats: [0, 0.5], beats: 4 };

/** What is called up of the world's player. */
function mockItem({ itemId, programPartId }: World): object {
  return {
    ...{ id: itemId, call: 'as-asked', partIds: [programPartId], title: 'Ferry Lines', words: 'Please.' },
    ...{ level: 3, studySeconds: 0, pauseSeconds: 10 },
    criteria: ['Tone', 'Notes', 'Rhythm', 'Music'].map((name) => ({ name, points: 5 })),
  };
}

/** What a listener gives. */
export function scoreInput({ playerId, itemId }: World, change: object = {}): object {
  return { id: newId(), playerId, itemId, points: [4, 3.5, 5, null], taps: [9], remark: 'Sings.', ...change };
}

/** The sheet with a question that its first part leaves open. */
function asking(sheet: SheetInput): SheetInput {
  const question = {
    about: 'Etude/edition',
    ask: 'Which edition?',
    candidates: [],
    answer: null,
    reason: null,
  };
  const first = sheet.parts[0]?.id;
  const told = {
    corrections: [{ kind: 'line', at: { line: 'Stand at the east door', nth: 0 }, role: 'nothing' } as const],
    parts: first === undefined ? [] : [{ id: first, at: null, name: 'etude' }],
  };
  return { ...sheet, questions: [{ partId: first ?? null, ...question }], told };
}

/** The body of a call that is right in every way: identifiers are those of `world`. */
export function rightBody(name: RouteName, world: World): object | undefined {
  const bodies: Partial<Record<RouteName, object>> = {
    createAccount: accountInput(),
    changePassword: { current: accountInput().password, next: 'three wet herons waiting' },
    removeStudio: { password: accountInput().password },
    createStudent: { id: newId(), name: 'Mara Thistledown', instrument: 'flute' },
    changeStudent: { name: 'Ilse V.', instrument: 'clarinet' },
    createSheet: asking(sheetInput()),
    changeSheet: (({ id: _id, ...change }) => change)(asking(world.sheet)),
    createRevision: {
      ...asking(sheetInput()),
      id: undefined,
      revisionId: newId(),
      issuedOn: '2027-03-01',
      note: 'Erratum 1',
    },
    movePrograms: { programIds: null },
    keepSheetDraft: { state: '{"pasted":"Etude 1"}' },
    changeSettings: SETTINGS,
    changeBook: BOOK,
    createCalendarLink: { id: newId(), studentId: world.studentId },
    changePartChoice: CHOICE,
    writeScale: {
      scoreId: newId(),
      key: 'C major',
      isArpeggio: false,
      octaves: 2,
      noteValue: 'eighth',
      articulation: '',
    },
    createProgram: { id: newId(), studentId: world.studentId, sheetId: world.sheet.id },
    changeTarget: { bpm: 108, beatUnit: 'quarter' },
    chooseScorePart: { partId: 'P1' },
    createPassage: { id: newId(), name: 'opening', from: '1', to: '4', target: null },
    changePassage: {
      name: 'middle',
      from: '9',
      to: '11',
      target: null,
      step: { kind: 'percent', size: 4 },
      rule: 'three-in-a-row',
    },
    createPassages: { passages: [{ id: newId(), name: '', from: '1', to: '4', target: null }] },
    changeNumbering: { restarts: [{ index: 0, number: 5 }] },
    markFinding: { id: newId(), key: FINDING_KEY, measure: '9', mark: 'confirmed' },
    createCue: cueInput(),
    createCues: { cues: [cueInput(), cueInput()] },
    changeAir: { soft: 22, loud: 14.5, on: '2027-03-10' },
    changeProgram: { division: null },
    createStudents: { students: [{ id: newId(), name: 'Piet Okonjo-Lund', instrument: 'trombone' }] },
    createPrograms: { programs: [{ id: newId(), studentId: world.studentId }] },
    changeCue: (({ id: _id, findingKey: _key, ...change }) => change)(cueInput()),
    createRep: repInput(),
    createReps: { reps: [repInput()] },
    createStudentLink: { id: newId() },
    keepLesson: lessonInput(world.passageId),
    keepPlan: planInput(world.passageId),
    tickTask: { subjectId: world.programId, kind: 'listen', doneOn: '2027-03-10' },
    tickDeskTask: { subjectId: world.programId, kind: 'listen', doneOn: '2027-03-10' },
    enterDesk: { linkId: world.studentLinkId, code: world.code },
    createDeskReps: { reps: [repInput()] },
    createSurprise: surpriseInput(),
    createDeskNote: noteInput(),
    createMock: {
      ...{ id: newId(), date: '2027-04-02', isBlind: true, isRecorded: true },
      players: [{ id: newId(), programId: world.programId }],
    },
    changeMock: {
      ...{ date: '2027-04-03', isBlind: false, isRecorded: false },
      players: [{ id: world.playerId, items: [mockItem(world)] }],
    },
    placeMock: { now: { playerId: world.playerId, itemId: world.itemId, phase: 'playing' } },
    attachMockTake: { playerId: world.playerId, itemId: world.itemId, takeId: world.takeId },
    createListener: { id: newId(), name: 'Listener 2' },
    enterListening: { listenerId: world.listenerId, code: world.listenerCode },
    keepListenerScore: scoreInput(world),
    createDeskUnit: {
      ...{
        id: newId(),
        kind: 'interval',
        level: 2,
        seed: 7,
        at: '2027-03-10T10:00:00.000Z',
        right: 4,
        of: 5,
      },
    },
    createTake: takeInput(world.programPartId),
    createDeskTake: takeInput(world.programPartId),
    keepTakeReading: { told: TOLD },
    keepDeskTakeReading: { told: TOLD },
    markTake: MARKS,
    markDeskTake: MARKS,
    logTakeRun: { reps: [{ ...repInput({ context: 'run' }), passageId: world.passageId }] },
    logDeskTakeRun: { reps: [{ ...repInput({ context: 'run' }), passageId: world.passageId }] },
  };
  return bodies[name];
}

/** A call that is right in every way but perhaps for who makes it. */
export function rightCall(
  name: RouteName,
  browser: Browser,
  world: World,
  sent: object | undefined = rightBody(name, world),
): Test {
  if (name === 'uploadScore') return browser.upload(world.programPartId, study('ferry-lines'));
  if (name === 'keepPage') return browser.keepPage(world.programPartId, PICTURE);
  if (name === 'retractDeskRep') return browser.call(name, { repId: world.reportId });
  if (name === 'keepTakeChunk' || name === 'keepDeskTakeChunk')
    return sendChunk(browser, { takeId: world.takeId, n: 0 }, name);
  if (name === 'closeMock')
    // Nobody ends a day that nobody scored.
    return world.listener
      .call('keepListenerScore', {}, scoreInput(world))
      .then(() => browser.call(name, { mockId: world.mockId })) as unknown as Test;
  if (name === 'readPagePicture')
    return browser.raw(name, '', { ids: { pageId: world.pageId }, headers: {}, query: { size: 'view' } });
  if (name === 'readLesson')
    return browser.raw(name, '', {
      ids: { studentId: world.studentId },
      headers: {},
      query: { minutes: '30' },
    });
  if (name === 'readDeskPage')
    return browser.raw(name, '', { ids: { pageId: world.pageId }, headers: {}, query: { size: 'view' } });
  if (name === 'importRecord')
    return browser.raw(name, JSON.stringify(EMPTY_RECORD), {
      headers: { 'Content-Type': 'application/octet-stream' },
      query: { studentId: newId() },
    });
  const ids = { ...world, sheetId: world.sheet.id } as unknown as Readonly<Record<string, string>>;
  return browser.call(name, ids, sent, { 'If-Match': '"1"' });
}
