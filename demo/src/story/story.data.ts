import type { RepContext } from '@vivid-cue/core/readiness';
import type { DeadlineInput, SheetPartInput } from '@vivid-cue/contract';

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

/** One student with the sheet, the study and the passages. Units: days from today. */
export interface StudentStory {
  readonly name: string;
  readonly instrument: string;
  readonly study: string;
  readonly sheet: {
    readonly body: string;
    readonly division: string;
    readonly instrument: string;
    readonly dates: readonly {
      readonly kind: DeadlineInput['kind'];
      readonly inDays: number;
      readonly time: string | null;
    }[];
    readonly part: Omit<SheetPartInput, 'id'>;
  };
  readonly passages: readonly PassageStory[];
}

const BODY = 'Archipelago All-Region Winds and Percussion';

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

/** The Tern Island story, begun: three students, one body, every state of readiness. */
export const STORY: readonly StudentStory[] = [
  {
    name: 'Ilse Vantongeren',
    instrument: 'clarinet',
    study: 'ferry-lines',
    sheet: {
      body: BODY,
      division: 'Senior Winds',
      instrument: 'clarinet',
      dates: [
        { kind: 'recording', inDays: 13, time: '17:00' },
        { kind: 'audition', inDays: 27, time: '09:30' },
      ],
      part: {
        kind: 'etude',
        label: 'Etude',
        workTitle: 'Ferry Lines',
        from: '1',
        to: '28',
        tempo: { beatUnit: 'quarter', bpmMin: 116, bpmMax: 116, bound: 'exact', words: null },
      },
    },
    passages: [
      passage('the tune', '1–8', [28, 1, 12], [1, 0.06], 'run'),
      passage('the tune again', '9–16', [6, 1, 14], [2.4, 0.05]),
      passage('sixteenths, low', '17–20', [14, 1, 11], [-5, 0.04]),
      passage('sixteenths, high', '21–24', [6, 2, 9], [-6.5, 0.02]),
      passage('return', '25–28', [null, 0, 0], [-4, 0.04]),
    ],
  },
  {
    name: 'Piet Okonjo-Lund',
    instrument: 'trombone',
    study: 'slack-water',
    sheet: {
      body: BODY,
      division: 'Senior Winds',
      instrument: 'trombone',
      dates: [
        { kind: 'recording', inDays: 13, time: '17:00' },
        { kind: 'audition', inDays: 27, time: '10:15' },
      ],
      part: {
        kind: 'etude',
        label: 'Etude',
        workTitle: 'Slack Water',
        from: '1',
        to: '28',
        tempo: { beatUnit: 'dotted-quarter', bpmMin: 60, bpmMax: 66, bound: 'range', words: null },
      },
    },
    passages: [
      passage('the rocking tune', '1–9', [17, 1, 9], [-4, 0.04]),
      passage('in two or in three', '13–16', [9, 3, 8], [-5.5, 0.03]),
      passage('minor', '18–21', [4, 2, 7], [-6, 0.02]),
    ],
  },
  {
    name: 'Caspian Roe',
    instrument: 'horn',
    study: 'harbor-bell',
    sheet: {
      body: BODY,
      division: 'Junior Winds',
      instrument: 'horn',
      dates: [
        { kind: 'audition', inDays: 34, time: '14:00' },
        { kind: 'results', inDays: 41, time: null },
      ],
      part: {
        kind: 'etude',
        label: 'Etude',
        workTitle: 'Harbor Bell',
        from: '1',
        to: '24',
        tempo: { beatUnit: 'quarter', bpmMin: 92, bpmMax: 92, bound: 'exact', words: null },
      },
    },
    passages: [
      passage('bell', '1–8', [28, 1, 12], [-1, 0.055], 'run'),
      passage('calls', '9–16', [28, 1, 12], [-1.5, 0.055], 'run'),
      passage('bell in minor', '17–24', [27, 1, 12], [-1, 0.055], 'run'),
    ],
  },
];
