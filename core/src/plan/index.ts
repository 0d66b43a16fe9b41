export { against, againstText, keptDays, type Against, type KeptDay, type PlayedDay } from './against.js';
export { allot, type Claim } from './allot.js';
export { lessonOf, type LessonItem, type LessonWish, type PartToHear, type PassageToHear } from './lesson.js';
export { plannedReps } from './course.js';
export { breaksOf, makePlan } from './make-plan.js';
export { PLAN } from './plan.data.js';
export type {
  BlockReason,
  PartToPlan,
  PassageCourse,
  PassageToPlan,
  Plan,
  PlanInput,
  PlannedBlock,
  PlannedDay,
  PlannedRun,
} from './plan.js';
export { planSentence, wayOutText, type DayText } from './sentences.js';
export { tasksOf, type TaskKind, type TasksFor } from './tasks.js';
export { waysOut, type WayOut, type WaysOutOptions } from './ways-out.js';
export {
  dateOfDay,
  dayOfDate,
  moved,
  NO_WISHES,
  withWishes,
  type CalendarDay,
  type OnDay,
  type PlanWishes,
} from './wishes.js';
