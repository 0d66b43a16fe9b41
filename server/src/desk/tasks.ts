import { groupBy } from '@vivid-cue/core/base';
import { dateOfDay, dayOfDate, tasksOf, type TasksFor } from '@vivid-cue/core/plan';
import { instrumentProfile, type Family } from '@vivid-cue/core/reading';
import { dayNumber, type OwnTask, type ProgramView, type TaskTick, type TaskView } from '@vivid-cue/contract';
import { playingDays, type ProgramDate } from '@vivid-cue/contract/playing-dates';
import type { ProgramPartRow } from '../practice/part-row.js';
import { partView } from '../published/sheet-part.js';

const FAMILIES: Readonly<Record<Exclude<Family, 'woodwind' | 'strings'>, TasksFor['family']>> = {
  brass: 'brass',
  mallets: 'percussion',
  drums: 'percussion',
  keys: 'keys',
  voice: 'voice',
};
/** Of the woodwinds those that have reeds, and those that have none; strings without a bow: names of their profiles. */
const REEDS = new Set(['oboe', 'english horn', 'clarinet', 'bassoon', 'saxophone']);
const FLUTES = new Set(['piccolo', 'flute', 'recorder']);
const PLUCKED = new Set(['guitar', 'ukulele', 'harp']);

/** What has to be looked to on an instrument. */
function familyOf(instrument: string): TasksFor['family'] {
  const { name, family } = instrumentProfile(instrument);
  if (family === 'strings') return PLUCKED.has(name) ? 'plucked' : 'bowed';
  if (family !== 'woodwind') return FAMILIES[family];
  if (REEDS.has(name)) return 'reeds';
  return FLUTES.has(name) ? 'flutes' : 'other';
}

/** What a student's tasks are made from. Units: milliseconds since 1970 */
export interface TaskFacts {
  readonly instrument: string;
  readonly zone: string;
  readonly nowMs: number;
  readonly programs: readonly ProgramView[];
  readonly parts: readonly ProgramPartRow[];
  readonly dates: readonly ProgramDate[];
  readonly ownTasks: readonly OwnTask[];
  readonly ticks: readonly TaskTick[];
}

/**
 * What is to be done beside practising, with its day: what belongs to each program, and what the instructor added.
 * Shape:  soonest first; what is not done and was due is due today
 */
export function tasksOfStudent(facts: TaskFacts): TaskView[] {
  const today = dayNumber(facts.nowMs, facts.zone);
  const done = new Map(facts.ticks.map(({ subjectId, kind, doneOn }) => [`${subjectId} ${kind}`, doneOn]));
  const parts = groupBy(facts.parts, ({ program_id: id }) => id);
  const family = familyOf(facts.instrument);
  const ofPrograms = facts.programs.flatMap(({ id, sheetTitle, nextDate }): TaskView[] => {
    const [deadline = nextDate?.daysLeft] = playingDays(facts.dates, id, today);
    if (deadline === undefined) return [];
    const asked = (parts.get(id) ?? []).map(partView);
    const tasks = tasksOf({
      family,
      isRecorded: facts.dates.some(({ programId, what }) => programId === id && what === 'recording'),
      hasAccompaniment: asked.some(({ accompaniment }) => accompaniment === 'required'),
      deadline,
    });
    return tasks.map(({ kind, text, day }) => ({
      ...{ subjectId: id, kind, text, sheetTitle, date: dateOfDay(today + day) },
      doneOn: done.get(`${id} ${kind}`) ?? null,
    }));
  });
  const own = facts.ownTasks.map(({ id, text, date }): TaskView => ({
    ...{ subjectId: id, kind: 'own', text, sheetTitle: '' },
    date: dateOfDay(Math.max(today, dayOfDate(date))),
    doneOn: done.get(`${id} own`) ?? null,
  }));
  return [...ofPrograms, ...own].sort((a, b) => a.date.localeCompare(b.date));
}
