/** What is no passage and must be done all the same. */
export type TaskKind =
  'listen' | 'sing-and-clap' | 'forms' | 'equipment' | 'page-order' | 'accompanist' | 'upload' | 'own';

/** One of them. Shape: `before` days before the day, or `after` days after the beginning; the other is null */
export interface TaskFacts {
  readonly kind: TaskKind;
  readonly text: string;
  readonly after: number | null;
  readonly before: number | null;
}

/** What a program needs beside its passages. */
export interface TasksFor {
  readonly family:
    'reeds' | 'flutes' | 'brass' | 'bowed' | 'plucked' | 'percussion' | 'keys' | 'voice' | 'other';
  readonly isRecorded: boolean;
  readonly hasAccompaniment: boolean;
  /** Days from today. */
  readonly deadline: number;
}

const EQUIPMENT: Readonly<Record<TasksFor['family'], string>> = {
  reeds: 'Choose the reeds for the day and keep two in reserve',
  flutes: 'Look over pads, springs and joints, and have what leaks mended now',
  brass: 'Choose mouthpiece and mute, and try the mute in the room you play in',
  bowed: 'Look at strings and bow hair; change strings now or not before the day',
  plucked: 'Look at the strings and how they hold their pitch; change them now or not before the day',
  percussion: 'Choose mallets and sticks, and what the body provides',
  keys: 'Ask which instrument is there, and try one like it with its bench and pedals',
  voice: 'Settle the keys you sing in, with copies for the accompanist',
  other: 'Look over the instrument and what it needs for the day',
};

/**
 * What is to be done beside practising, with its day.
 * Shape:  `day` from today, never before it and never after the deadline; in time order
 * Units:  days from today
 * Source: common practice, no source
 */
export function tasksOf(program: TasksFor): readonly {
  readonly kind: TaskKind;
  readonly text: string;
  readonly day: number;
}[] {
  const { deadline } = program;
  return factsOf(program)
    .map(({ kind, text, after, before }) => ({
      kind,
      text,
      day: Math.max(0, Math.min(deadline, after ?? deadline - (before ?? 0))),
    }))
    .sort((a, b) => a.day - b.day);
}

function factsOf({ family, isRecorded, hasAccompaniment }: TasksFor): TaskFacts[] {
  const later = (kind: TaskKind, text: string, before: number): TaskFacts => ({
    kind,
    text,
    after: null,
    before,
  });
  const first = (kind: TaskKind, text: string, after: number): TaskFacts => ({
    kind,
    text,
    after,
    before: null,
  });
  return [
    first('listen', 'Listen to the whole work with the score, twice', 0),
    first('sing-and-clap', 'Sing the pitches and clap the rhythms before the instrument', 1),
    later('forms', 'Forms and fee: check that both are in', 28),
    later('equipment', EQUIPMENT[family], 21),
    later('page-order', 'Pages in the order of the audition, taped, no turn in a run', 10),
    ...(hasAccompaniment
      ? [later('accompanist', 'Rehearse with the accompanist, and hand over the tempos', 14)]
      : []),
    ...(isRecorded ? [later('upload', 'Upload a trial file, and look whether it plays', 3)] : []),
  ];
}
