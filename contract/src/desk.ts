import { object, string, type InferType } from 'yup';
import type { ClimbSchool } from '@vivid-cue/core/climb';
import type { KindLook } from '@vivid-cue/core/cue-kinds';
import type { Vocabulary } from '@vivid-cue/core/music';
import type { KeptDay, PlanWishes } from '@vivid-cue/core/plan';
import type { ScoreDigest, Span } from '@vivid-cue/core/score';
import { idField } from './fields.js';
import type { SurpriseView } from './from-student.js';
import type { PassageView } from './programs.js';
import type { ProgramDate } from './playing-dates.js';
import type { TaskView } from './plans.js';
import type { CueView } from './score-marks.js';
import type { NextDate } from './students.js';

/** A personal link to make. */
export const studentLinkSchema = object({ id: idField.required() }).exact();

/** What opens a desk: the link, and its code as somebody may have typed it. */
export const deskEntrySchema = object({
  linkId: idField.required(),
  code: string()
    .trim()
    .max(40)
    .required('The code is missing; it stands beside the picture your teacher gave you.'),
}).exact();

/** A link to make, as a type. */
export type StudentLinkInput = InferType<typeof studentLinkSchema>;
/** What opens a desk, as a type. */
export type DeskEntry = InferType<typeof deskEntrySchema>;
/** A personal link; its code is shown once, when it is made. */
export interface StudentLinkView {
  readonly id: string;
  readonly createdAt: string;
  readonly expiresAt: string;
  readonly lastUsedAt: string | null;
  readonly code: string | null;
  /** The address without the code; with it the code follows a "#", which browsers send nowhere. */
  readonly path: string;
}

/** A part as the desk shows it. Units: see ScoreRoomView */
export interface DeskPart {
  readonly id: string;
  readonly programId: string;
  readonly label: string;
  readonly workTitle: string;
  readonly sourceText: string;
  readonly askedText: string;
  readonly sheetTitle: string;
  readonly tempoText: string;
  readonly scoreId: string | null;
  readonly runs: readonly Span[];
  /** Points of the part on the sheet's rubric over all its points, where the sheet tells them. */
  readonly weight: number;
  readonly nextDate: NextDate | null;
  readonly chance: number | null;
}

/** A score as the desk shows it, with what is cued in it. */
export interface DeskScore {
  readonly id: string;
  readonly digest: ScoreDigest;
  readonly fileName: string;
  readonly cues: readonly CueView[];
}

/** A passage as the desk takes it: with its score, and the school that holds for it. */
export interface DeskPassage extends PassageView {
  readonly scoreId: string;
  readonly climbSchool: ClimbSchool;
}

/** All that a student's desk needs, with and without a connection. */
export interface DeskView {
  readonly student: { readonly id: string; readonly name: string; readonly instrument: string };
  readonly studio: {
    readonly name: string;
    readonly zone: string;
    readonly vocabulary: Vocabulary;
    /** How its cues are drawn. */
    readonly looks: readonly KindLook[];
  };
  /** When the server wrote it. */
  readonly at: string;
  readonly day: {
    readonly minutes: number;
    readonly cap: number;
    readonly restDays: readonly number[];
  };
  readonly parts: readonly DeskPart[];
  readonly scores: readonly DeskScore[];
  readonly passages: readonly DeskPassage[];
  readonly surprises: readonly SurpriseView[];
  /** What was asked in the last lesson. */
  readonly asks: readonly DeskAsk[];
  /** How many days ago the season began for this student. */
  readonly begunDaysAgo: number;
  readonly plan: DeskPlan;
}

/** What the desk is told of the plan. Shape: `days` from today on, none where the plan is older than a week */
export interface DeskPlan {
  /** When the plan was kept; null where none was. */
  readonly madeAt: string | null;
  readonly wishes: PlanWishes;
  readonly days: readonly KeptDay[];
  readonly tasks: readonly TaskView[];
  /** Days from today on which a mock is set. */
  readonly mocks: readonly string[];
  /** Every date of the student's programs, soonest first. */
  readonly dates: readonly ProgramDate[];
}

/** Something that was asked for until the next lesson. */
export interface DeskAsk {
  readonly id: string;
  readonly passageId: string | null;
  readonly text: string;
}

/** Who is at the desk, and the token that changing requests carry. */
export interface DeskSessionView {
  readonly csrfToken: string;
  readonly student: { readonly id: string; readonly name: string } | null;
}
