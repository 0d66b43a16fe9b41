import { v7 as newId } from 'uuid';
import type { MockView } from '@vivid-cue/contract';
import {
  addListener,
  attachTake,
  keepGiven,
  listenersOf,
  makeMock,
  studentTakes,
  type Studio,
} from '@vivid-cue/server';

const DAY_MS = 86_400_000;
const ALL = 1_000_000_000_000;

/** What one listener gave one player: shares of the points of each part and criterion, and measures that slipped. */
interface GivenStory {
  readonly shares: readonly (readonly number[])[];
  readonly taps: readonly string[];
  readonly remark: string;
}

/** Three who listened. Shape: for each player in turn */
const LISTENERS: readonly { readonly name: string; readonly given: readonly GivenStory[] }[] = [
  {
    name: 'Sunniva',
    given: [
      {
        shares: [
          [0.9, 0.8, 0.6, 0.8],
          [0.9, 0.9, 0.9, 0.8],
          [0.8, 0.7, 0.7, 0.7],
        ],
        taps: ['18', '22'],
        remark: 'A line that carries. The sixteenths drag behind it.',
      },
      {
        shares: [
          [0.6, 0.6, 0.5, 0.5],
          [0.7, 0.8, 0.7, 0.6],
          [0.6, 0.5, 0.6, 0.5],
        ],
        taps: ['17', '20', '21'],
        remark: 'Breathe before 17, and it will hold.',
      },
    ],
  },
  {
    name: 'Marek',
    given: [
      {
        shares: [
          [0.9, 0.9, 0.7, 0.9],
          [0.8, 0.9, 0.9, 0.8],
          [0.8, 0.8, 0.7, 0.8],
        ],
        taps: ['22'],
        remark: '',
      },
      {
        shares: [
          [0.7, 0.6, 0.4, 0.6],
          [0.7, 0.7, 0.7, 0.7],
          [0.5, 0.5, 0.6, 0.5],
        ],
        taps: ['20', '21', '23'],
        remark: 'The tempo was too fast from the first measure.',
      },
    ],
  },
  {
    name: 'Ama',
    given: [
      {
        shares: [
          [0.8, 0.8, 0.7, 0.8],
          [0.9, 0.8, 0.8, 0.8],
          [0.7, 0.7, 0.8, 0.7],
        ],
        taps: ['18', '20', '22'],
        remark: 'p at 22 is an f from the back of the room.',
      },
      {
        shares: [
          [0.6, 0.5, 0.5, 0.5],
          [0.8, 0.7, 0.6, 0.7],
          [0.6, 0.6, 0.5, 0.5],
        ],
        taps: ['21'],
        remark: '',
      },
    ],
  },
];

/**
 * A mock day of yesterday that three listened to and nobody has ended yet.
 * Units:  milliseconds since 1970
 */
export async function seedMock(
  studio: Studio,
  {
    players,
    nowMs,
  }: {
    readonly players: readonly { readonly programId: string; readonly studentId: string }[];
    readonly nowMs: number;
  },
): Promise<void> {
  const atMs = nowMs - DAY_MS;
  const id = newId();
  const day = await makeMock(
    studio,
    {
      ...{ id, date: new Date(atMs).toISOString().slice(0, 10), isBlind: false, isRecorded: false },
      players: players.map(({ programId }) => ({ id: newId(), programId })),
    },
    atMs,
  );
  await attachNewest(studio, day, players[0]?.studentId ?? '');
  for (const { name, given } of LISTENERS) {
    const listenerId = newId();
    const input = { id: listenerId, name };
    await addListener(studio, id, { input, secret: 'of the story: these links open nothing', nowMs: atMs });
    const row = (await listenersOf(studio, [id])).find((one) => one.id === listenerId);
    if (!row) continue;
    for (const [n, story] of given.entries()) await give(studio, { day, n, story, row, nowMs: atMs });
  }
}

/** The newest take of the first player is what listeners heard of the first part. */
async function attachNewest(studio: Studio, { id, players }: MockView, studentId: string): Promise<void> {
  const [player] = players;
  const item = player?.items[0];
  const { takes } = await studentTakes(studio, studentId, ALL);
  const take = takes.find(({ programPartId }) => item?.partIds.includes(programPartId));
  if (player && item && take)
    await attachTake(studio, id, { playerId: player.id, itemId: item.id, takeId: take.id });
}

async function give(
  studio: Studio,
  {
    day,
    n,
    story,
    row,
    nowMs,
  }: {
    readonly day: MockView;
    readonly n: number;
    readonly story: GivenStory;
    readonly row: Parameters<typeof keepGiven>[1];
    readonly nowMs: number;
  },
): Promise<void> {
  const player = day.players[n];
  for (const [at, item] of (player?.items ?? []).entries()) {
    const points = item.criteria.map(
      ({ points: most }, k) => Math.round(2 * most * (story.shares[at]?.[k] ?? 0.7)) / 2,
    );
    const taps = at === 0 ? item.measures.filter(({ number }) => story.taps.includes(number)) : [];
    const score = {
      ...{ id: newId(), playerId: player?.id ?? '', itemId: item.id, points },
      ...{ taps: taps.map(({ index }) => index), remark: at === 0 ? story.remark : '' },
    };
    await keepGiven(studio, row, { score, nowMs });
  }
}
