import type { TypedPassage } from '@vivid-cue/core/paper';
import type { CueKind } from '@vivid-cue/core/cue-kinds';
import type { Bpm } from '@vivid-cue/core/music';
import type { RepContext } from '@vivid-cue/core/readiness';

/** The demo's way in; shown on the sign-in page in demo mode only. */
export const DEMO_LOGIN = { email: 'odalys@tern-island.example', password: 'ferry at half past nine' };

/** The invented studio and its instructor. */
export const DEMO_STUDIO = {
  name: 'Odalys Brandvold',
  studioName: 'Tern Island Studio',
  zone: 'Atlantic/Reykjavik',
};

/** How one passage was practised. Units: days before today; logits; reps a practice day. */
export interface PassageStory {
  readonly name: string;
  readonly from: string;
  readonly to: string;
  /** First practice day, counted back from today, or null for a passage that was only cut. */
  readonly daysAgo: number | null;
  readonly lastDaysAgo: number;
  readonly repsADay: number;
  readonly startTheta: number;
  readonly gainPerRep: number;
  readonly context: RepContext;
}

/** What a student plays for one part of the sheet. */
export interface AnswerStory {
  readonly part: string;
  /** A study of the demo, or a scale that is written out, or music that was told from paper. */
  readonly study: string | null;
  readonly told: string | null;
  /** A page in `demo/pages`, whose measures are told in `told`. */
  readonly page: string | null;
  readonly typed: readonly TypedPassage[];
  readonly scale: { readonly key: string; readonly octaves: number } | null;
  /** A target of the instructor's own, where the sheet gives no number. Units: quarter notes a minute. */
  readonly ownBpm: Bpm | null;
  readonly passages: readonly PassageStory[];
  readonly cues: readonly CueStory[];
}

/** A cue that the instructor wrote in. */
export interface CueStory {
  readonly at: string;
  readonly kind: CueKind;
  readonly text: string;
  /** The note that it stands at, and what is drawn there. */
  readonly note?: number;
  readonly sign?: string;
}

/** A take as somebody played it. Units: days before today; beats of the score a minute */
export interface TakeStory {
  readonly part: string;
  readonly daysAgo: number;
  readonly timbre: 'clarinet' | 'flute';
  readonly seed: number;
  readonly byStudent: boolean;
  /** The tempo at measures by their printed number, gliding from one to the next. */
  readonly tempos: readonly (readonly [measure: number, bpm: number])[];
  /** How far single notes stand from their time. Units: seconds */
  readonly unsteady: number;
  /** After which of the played measures, counted from 0, the player stops, and for how long. Units: seconds */
  readonly pauses?: readonly (readonly [pass: number, seconds: number])[];
  /** Notes that are played a step beside their place, and notes that are left out, by their order. */
  readonly wrong?: readonly number[];
  readonly missing?: readonly number[];
  /** Pitches that stray, in cents, by their sounding MIDI number. */
  readonly bent?: readonly (readonly [midi: number, cents: number])[];
  /** Of printed contrasts so much is played: 1 all of them. */
  readonly shape: number;
}

/** One student with the sheet and what of it is prepared. */
export interface StudentStory {
  readonly name: string;
  readonly instrument: string;
  readonly sheet: string;
  readonly answers: readonly AnswerStory[];
  /** Parts that are not played: the other side of a choice. */
  readonly leftOut: readonly string[];
  /** Where the days are shorter than the studio's. Units: minutes; weekdays without practice, counted from today's */
  readonly days?: { readonly minutes: number; readonly cap: number; readonly restIn: readonly number[] };
  /** Whether the program stands on the revision that came yesterday. */
  readonly isMoved?: boolean;
  /** Whether forms and fee are in. */
  readonly areFormsIn?: boolean;
  /** Takes that are rendered from the score, oldest first. */
  readonly takes?: readonly TakeStory[];
  /** A measure of a passage that surprised the student, yesterday. */
  readonly surprise?: { readonly passage: string; readonly at: number; readonly text: string };
  /** A line that the student wrote. */
  readonly note?: string;
  /** The lesson of a week ago. */
  readonly lesson?: { readonly notes: string; readonly ask: string; readonly passage: string };
  /** How long long tones last. Units: seconds */
  readonly air?: { readonly soft: number; readonly loud: number };
  /** Whether a plan was made a week ago. */
  readonly isPlanned?: boolean;
}

/** Sheets in `demo/sheets`, with the notice that amends one of them. */
export const SHEETS: readonly { readonly file: string; readonly erratum: string | null }[] = [
  { file: 'archipelago-winds', erratum: 'archipelago-winds-erratum' },
  { file: 'archipelago-percussion', erratum: null },
  { file: 'northwater', erratum: null },
  { file: 'skerry', erratum: null },
  { file: 'saint-oriel', erratum: null },
  // Came today: nobody has it yet.
  { file: 'orrin-woodwinds', erratum: null },
];

const passage = (
  name: string,
  span: string,
  [daysAgo, lastDaysAgo, repsADay]: readonly [number | null, number, number],
  [startTheta, gainPerRep]: readonly [number, number],
  context: RepContext = 'alone',
): PassageStory => {
  const [from = '', to = ''] = span.split('–');
  return { name, from, to, daysAgo, lastDaysAgo, repsADay, startTheta, gainPerRep, context };
};

const played = (
  part: string,
  study: string,
  {
    passages,
    ownBpm = null,
    cues = [],
  }: {
    readonly passages: readonly PassageStory[];
    readonly ownBpm?: Bpm | null;
    readonly cues?: readonly CueStory[];
  },
): AnswerStory => ({
  part,
  study,
  told: null,
  page: null,
  typed: [],
  scale: null,
  ownBpm,
  passages,
  cues,
});
const scale = (
  part: string,
  key: string,
  { octaves, passages = [] }: { readonly octaves: number; readonly passages?: readonly PassageStory[] },
): AnswerStory => ({
  part,
  study: null,
  told: null,
  page: null,
  typed: [],
  scale: { key, octaves },
  ownBpm: null,
  passages,
  cues: [],
});

/** Music that exists only in a printed book: its measures were told. */
const told = (part: string, line: string, more: Pick<AnswerStory, 'passages' | 'ownBpm'>): AnswerStory => ({
  part,
  study: null,
  told: line,
  page: null,
  typed: [],
  scale: null,
  cues: [],
  ...more,
});

/** Music that exists only in a printed book: its page was scanned, and what the page cannot tell was told. */
const paged = (
  part: string,
  page: string,
  {
    line,
    passages,
    typed,
  }: {
    readonly line: string;
    readonly passages: readonly PassageStory[];
    readonly typed: readonly TypedPassage[];
  },
): AnswerStory => ({ ...told(part, line, { passages, ownBpm: null }), page, typed });

/** The Tern Island story: eight students, four bodies, every state from just started to ready. */
export const STORY: readonly StudentStory[] = [
  {
    name: 'Ilse Vantongeren',
    instrument: 'clarinet',
    sheet: 'archipelago-winds',
    answers: [
      played('Etude 1', 'ferry-lines', {
        passages: [
          passage('the tune', '1–8', [28, 1, 12], [1, 0.06], 'run'),
          passage('the tune again', '9–16', [6, 1, 14], [2.4, 0.05]),
          passage('sixteenths, low', '17–20', [14, 1, 11], [-5, 0.04]),
          passage('sixteenths, high', '21–24', [6, 2, 9], [-6.5, 0.02]),
          passage('return', '25–28', [null, 0, 0], [-4, 0.04]),
        ],
        ownBpm: null,
        cues: [
          { at: '8', kind: 'breath', text: 'Breathe on the rest, low and quiet' },
          { at: '12', kind: 'trap', text: 'The only F natural: hear the minor' },
          { at: '20', kind: 'fingering', text: 'Right E flat, left is taken', note: 3, sign: 'R' },
          { at: '22', kind: 'dynamic', text: 'From nothing: p until beat 3' },
        ],
      }),
      scale('Major scale', 'Eb major', {
        octaves: 2,
        passages: [passage('', '1–4', [20, 2, 8], [-1, 0.05])],
      }),
      scale('Chromatic scale', 'Bb chromatic', {
        octaves: 2,
        passages: [passage('', '1–4', [9, 2, 7], [-4, 0.04]), passage('', '5–7', [9, 3, 6], [-4, 0.04])],
      }),
    ],
    leftOut: [],
    air: { soft: 21, loud: 13.5 },
    takes: [
      {
        ...{ part: 'Etude 1', daysAgo: 12, timbre: 'clarinet', seed: 41, byStudent: false, shape: 0.15 },
        tempos: [
          [1, 104],
          [8, 102],
          [16, 100],
          [17, 88],
          [22, 84],
          [24, 86],
          [25, 96],
          [28, 98],
        ],
        unsteady: 0.016,
        pauses: [[20, 1.9]],
        wrong: [96],
        missing: [120, 141],
        bent: [[76, 14]],
      },
      {
        ...{ part: 'Etude 1', daysAgo: 5, timbre: 'clarinet', seed: 42, byStudent: true, shape: 0.3 },
        tempos: [
          [1, 118],
          [10, 115],
          [16, 113],
          [17, 101],
          [23, 97],
          [25, 108],
          [28, 112],
        ],
        unsteady: 0.012,
        missing: [128],
        bent: [[76, 12]],
      },
      {
        ...{ part: 'Etude 1', daysAgo: 1, timbre: 'clarinet', seed: 43, byStudent: true, shape: 0.5 },
        tempos: [
          [1, 117],
          [9, 116],
          [16, 115],
          [17, 108],
          [21, 104],
          [24, 107],
          [25, 112],
          [28, 114],
        ],
        unsteady: 0.008,
        wrong: [134],
        bent: [[76, 15]],
      },
    ],
    isPlanned: true,
    areFormsIn: true,
    lesson: {
      notes: 'Sound first, then speed. The high sixteenths are in the air, not in the fingers.',
      ask: 'three clean at the rung, on two days',
      passage: 'sixteenths, low',
    },
  },
  {
    name: 'Bram Oyelaran',
    instrument: 'alto saxophone',
    sheet: 'archipelago-winds',
    answers: [
      played('Etude 1', 'ferry-lines', {
        passages: [
          passage('the tune', '1–8', [21, 2, 9], [-1, 0.05]),
          passage('the tune again', '9–16', [12, 2, 8], [-2, 0.04]),
          passage('sixteenths', '17–24', [8, 3, 8], [-6, 0.03]),
        ],
      }),
      scale('Major scale', 'Eb major', { octaves: 2, passages: [passage('', '1–4', [9, 2, 6], [-2, 0.05])] }),
      scale('Chromatic scale', 'Bb chromatic', {
        octaves: 2,
        passages: [passage('', '1–7', [6, 2, 6], [-4, 0.04])],
      }),
    ],
    leftOut: [],
    isMoved: true,
    // In trouble, with a way out: more minutes a day, which there are, would do.
    days: { minutes: 10, cap: 40, restIn: [] },
  },
  {
    name: 'Piet Okonjo-Lund',
    instrument: 'trombone',
    sheet: 'northwater',
    answers: [
      played('Excerpt A', 'slack-water', {
        passages: [
          passage('the rocking tune', '1–9', [17, 1, 9], [-4, 0.04]),
          passage('in two or in three', '13–16', [9, 3, 8], [-5.5, 0.03]),
          passage('minor', '18–21', [4, 2, 7], [-6, 0.02]),
        ],
      }),
      scale('Scale', 'Bb major', { octaves: 2, passages: [passage('', '1–4', [6, 2, 6], [-2, 0.05])] }),
      told('Excerpt B', '1–96 2/2; K41 L57 M73; 3 flats; 49–56 triplets; 61–64 sixteenths', {
        ownBpm: 144,
        passages: [
          passage('into K', '35–40', [null, 0, 0], [-4, 0.03]),
          passage('the steps', '41–48', [null, 0, 0], [-4, 0.03]),
          passage('triplets', '49–56', [null, 0, 0], [-5, 0.03]),
        ],
      }),
    ],
    leftOut: [],
    // Two days a week off the ferry: this cannot hold.
    days: { minutes: 10, cap: 10, restIn: [1, 2, 3, 5, 6] },
  },
  {
    name: 'Freya Lindquist-Amara',
    instrument: 'bassoon',
    sheet: 'northwater',
    answers: [
      played('Excerpt A', 'slack-water', { passages: [passage('opening', '1–4', [null, 0, 0], [-5, 0.03])] }),
    ],
    leftOut: [],
  },
  {
    name: 'Caspian Roe',
    instrument: 'horn',
    sheet: 'saint-oriel',
    answers: [
      paged('Study', 'harbor-bell', {
        line: '1–24 3/4; A1 B9 C17; ♩=92',
        typed: [{ from: '21', abc: '(3(cde) (3(fed) (3(efg) | !accent!(a2 g2 f2)', clef: 'treble' }],
        passages: [
          passage('bell', '1–8', [28, 1, 12], [-1, 0.055], 'run'),
          passage('calls', '9–16', [28, 1, 12], [-1.5, 0.055], 'run'),
          passage('bell in minor', '17–24', [27, 1, 12], [-1, 0.055], 'run'),
        ],
      }),
      scale('Scale', 'Eb major', {
        octaves: 2,
        passages: [passage('', '1–4', [26, 1, 10], [0, 0.055], 'run')],
      }),
    ],
    leftOut: ['Item 2'],
    isPlanned: true,
    areFormsIn: true,
  },
  {
    name: 'Noor Haldane',
    instrument: 'violin',
    sheet: 'saint-oriel',
    answers: [
      played('Item 2', 'lee-shore', {
        passages: [
          passage('the tune', '1–4', [15, 1, 10], [-2, 0.05]),
          passage('string crossings', '5–8', [10, 1, 9], [-5, 0.035]),
          passage('minor', '9–12', [5, 2, 6], [-5, 0.03]),
          passage('crossings back', '13–16', [4, 2, 6], [-5, 0.03]),
        ],
      }),
      scale('Scale', 'Eb major', { octaves: 2, passages: [passage('', '1–4', [12, 2, 8], [-2, 0.05])] }),
    ],
    leftOut: ['Study'],
    areFormsIn: true,
    surprise: { passage: 'string crossings', at: 6, text: 'the A string answers late' },
    note: 'My A string is old. Shall I change it before the audition?',
  },
  {
    name: 'Mirela Stavanger',
    instrument: 'flute',
    sheet: 'skerry',
    answers: [
      played('P1', 'petrel-song', {
        passages: [
          passage('long lines', '1–8', [24, 1, 8], [0, 0.05], 'run'),
          passage('the climb', '9–16', [16, 1, 8], [-2.5, 0.05]),
          passage('return', '17–24', [12, 2, 7], [-1.5, 0.05]),
        ],
        ownBpm: 84,
      }),
      scale('Scale', 'Eb major', { octaves: 2, passages: [passage('', '1–4', [10, 2, 6], [-2, 0.05])] }),
    ],
    leftOut: ['P2'],
    takes: [
      {
        ...{ part: 'P1', daysAgo: 8, timbre: 'flute', seed: 51, byStudent: true, shape: 0.2 },
        tempos: [
          [1, 80],
          [8, 74],
          [16, 86],
          [24, 70],
        ],
        unsteady: 0.02,
        pauses: [[8, 1.4]],
      },
      {
        ...{ part: 'P1', daysAgo: 2, timbre: 'flute', seed: 52, byStudent: false, shape: 0.7 },
        tempos: [
          [1, 82],
          [12, 84],
          [20, 83],
          [24, 78],
        ],
        unsteady: 0.01,
      },
    ],
  },
  {
    name: 'Tobias Vane',
    instrument: 'percussion',
    sheet: 'archipelago-percussion',
    answers: [
      played('Etude A', 'glass-harbour', {
        passages: [
          passage('broken chords', '1–4', [14, 2, 9], [-3, 0.045]),
          passage('runs', '5–8', [7, 2, 8], [-5, 0.03]),
          passage('return', '9–12', [5, 2, 6], [-4, 0.03]),
        ],
      }),
    ],
    leftOut: ['Etude B'],
    areFormsIn: true,
  },
];

/** Who played in the mock day of yesterday. */
export const MOCK_PLAYERS: readonly string[] = ['Ilse Vantongeren', 'Bram Oyelaran'];
