import type { Request, Response } from 'express';
import type { DeskSessionView } from '@vivid-cue/contract';
import { addressOf } from '../http/address.js';
import { freshSession } from '../http/fresh-session.js';
import { type Deps, type Handlers, studioOf } from '../http/mount.js';
import { notFound } from '../http/problem.js';
import { csrfTokenOf, deskCallerOf } from '../http/session-guard.js';
import { bodyOf, idFrom, queryOf } from '../http/validate.js';
import { sendPicture } from '../pages/send-picture.js';
import { pagePicture } from '../pages/service.js';
import { scoreFile } from '../scores/service.js';
import { clearSurprise, seeNote } from '../students/from-student.js';
import { findStudent } from '../students/repository.js';
import { keepLessonHeld, lessonView } from './lesson.js';
import { keepStudentPlan, planView, tickOwnTask } from './plan.js';
import { addStudentLink, enterByLink, listStudentLinks, revokeStudentLink } from './links.js';
import { deskView } from './view.js';
import {
  flagSurprise,
  refuseForeignPage,
  refuseForeignScore,
  reportReps,
  sendNote,
  takeReportBack,
  type AtDesk,
} from './writes.js';

type LinkRoutes =
  | 'readPlan'
  | 'keepPlan'
  | 'tickTask'
  | 'readLesson'
  | 'keepLesson'
  | 'listStudentLinks'
  | 'createStudentLink'
  | 'revokeStudentLink'
  | 'clearSurprise'
  | 'seeNote';
type DeskRoutes =
  | 'readDeskSession'
  | 'enterDesk'
  | 'leaveDesk'
  | 'readDesk'
  | 'readDeskScore'
  | 'readDeskPage'
  | 'createDeskReps'
  | 'retractDeskRep'
  | 'createSurprise'
  | 'tickDeskTask'
  | 'createDeskNote';

/** Personal links, and what students sent, for the instructor. */
export const linkHandlers: Handlers<LinkRoutes> = {
  async listStudentLinks(deps, request, response) {
    const studentId = idFrom(request, 'studentId', 'student');
    response.json(await listStudentLinks(studioOf(deps, request), studentId, deps.now()));
  },
  async createStudentLink(deps, request, response) {
    const studentId = idFrom(request, 'studentId', 'student');
    response.status(201).json(
      await addStudentLink(studioOf(deps, request), studentId, {
        input: bodyOf(request, 'createStudentLink'),
        secret: deps.config.sessionSecret,
        nowMs: deps.now(),
      }),
    );
  },
  async revokeStudentLink(deps, request, response) {
    await revokeStudentLink(studioOf(deps, request), idFrom(request, 'studentLinkId', 'link'), deps.now());
    response.status(204).end();
  },
  async readLesson(deps, request, response) {
    const { minutes } = queryOf(request, 'readLesson');
    const studentId = idFrom(request, 'studentId', 'student');
    response.json(await lessonView(studioOf(deps, request), studentId, { minutes, nowMs: deps.now() }));
  },
  async keepLesson(deps, request, response) {
    const studentId = idFrom(request, 'studentId', 'student');
    const lesson = bodyOf(request, 'keepLesson');
    await keepLessonHeld(studioOf(deps, request), studentId, { lesson, nowMs: deps.now() });
    response.status(201).json(lesson);
  },
  async readPlan(deps, request, response) {
    const studentId = idFrom(request, 'studentId', 'student');
    response.json(await planView(studioOf(deps, request), studentId, deps.now()));
  },
  async keepPlan(deps, request, response) {
    const studentId = idFrom(request, 'studentId', 'student');
    const plan = bodyOf(request, 'keepPlan');
    response.json(await keepStudentPlan(studioOf(deps, request), studentId, { plan, nowMs: deps.now() }));
  },
  async tickTask(deps, request, response) {
    const studio = studioOf(deps, request);
    const studentId = idFrom(request, 'studentId', 'student');
    if (!(await findStudent(studio, studentId))) throw notFound('student');
    await tickOwnTask({ studio, studentId }, bodyOf(request, 'tickTask'));
    response.json({});
  },
  async clearSurprise(deps, request, response) {
    const id = idFrom(request, 'surpriseId', 'surprise');
    if (!(await clearSurprise(studioOf(deps, request), id, new Date(deps.now())))) throw notFound('surprise');
    response.status(204).end();
  },
  async seeNote(deps, request, response) {
    const id = idFrom(request, 'noteId', 'note');
    if (!(await seeNote(studioOf(deps, request), id, new Date(deps.now())))) throw notFound('note');
    response.status(204).end();
  },
};

/** The student's desk. */
export const deskHandlers: Handlers<DeskRoutes> = {
  async readDeskSession(deps, request, response) {
    response.json(await sessionView(deps, request, response));
  },
  async enterDesk(deps, request, response) {
    const caller = await enterByLink(deps.db, bodyOf(request, 'enterDesk'), {
      secret: deps.config.sessionSecret,
      address: addressOf(request),
      nowMs: deps.now(),
    });
    await freshSession(request, deps.now());
    request.session.desk = caller;
    response.json(await sessionView(deps, request, response));
  },
  leaveDesk(_deps, request, response) {
    delete request.session.desk;
    response.status(204).end();
  },
  async readDesk(deps, request, response) {
    const { studio, studentId, nowMs } = atDesk(deps, request);
    response.json(await deskView(studio, studentId, nowMs));
  },
  async readDeskScore(deps, request, response) {
    const desk = atDesk(deps, request);
    const scoreId = idFrom(request, 'scoreId', 'score');
    await refuseForeignScore(desk, scoreId);
    const { file, file_name: name } = await scoreFile(desk.studio, scoreId);
    response.attachment(name).type('application/octet-stream').send(file);
  },
  async readDeskPage(deps, request, response) {
    const desk = atDesk(deps, request);
    const pageId = idFrom(request, 'pageId', 'page');
    await refuseForeignPage(desk, pageId);
    const picture = await pagePicture(desk.studio, pageId, queryOf(request, 'readDeskPage').size);
    sendPicture(response, picture);
  },
  async createDeskReps(deps, request, response) {
    const { reps } = bodyOf(request, 'createDeskReps');
    response
      .status(201)
      .json(await reportReps(atDesk(deps, request), idFrom(request, 'passageId', 'passage'), reps));
  },
  async retractDeskRep(deps, request, response) {
    response.json(await takeReportBack(atDesk(deps, request), idFrom(request, 'repId', 'rep')));
  },
  async createSurprise(deps, request, response) {
    const passageId = idFrom(request, 'passageId', 'passage');
    await flagSurprise(atDesk(deps, request), passageId, bodyOf(request, 'createSurprise'));
    response.status(201).json({});
  },
  async tickDeskTask(deps, request, response) {
    await tickOwnTask(atDesk(deps, request), bodyOf(request, 'tickDeskTask'));
    response.json({});
  },
  async createDeskNote(deps, request, response) {
    await sendNote(atDesk(deps, request), bodyOf(request, 'createDeskNote'));
    response.status(201).json({});
  },
};

function atDesk(deps: Deps, request: Request): AtDesk {
  const { studioId, studentId } = deskCallerOf(request);
  return { studio: { db: deps.db, id: studioId }, studentId, nowMs: deps.now() };
}

async function sessionView(deps: Deps, request: Request, response: Response): Promise<DeskSessionView> {
  const { desk } = request.session;
  const student = desk ? await findStudent({ db: deps.db, id: desk.studioId }, desk.studentId) : null;
  const csrfToken = csrfTokenOf(request, response, {
    secret: deps.config.sessionSecret,
    isSecure: deps.config.isBehindTls,
  });
  return { csrfToken, student: student && { id: student.id, name: student.name } };
}
