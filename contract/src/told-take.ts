import { array, boolean, mixed, number, object, string, type Schema } from 'yup';
import type { ToldTake } from '@vivid-cue/core/takes';

/** A take has so many of anything at most (our own). */
const MOST = 4000;

const printedNumber = string().max(8).defined();
const seconds = number().min(0).max(4000).required();
const share = number().min(0).max(1).required();
const decibels = number().min(-200).max(200).required();
const tempo = number().min(0).max(100_000).required();
const index = number().integer().min(0).max(20_000).required();
const count = number().integer().min(0).max(100_000).required();
const cents = number().min(-2400).max(2400).required();
const level = string().max(4).required();
const list = (row: Schema): Schema => array(row.required()).max(MOST).required();

const measure = object({
  index,
  number: printedNumber,
  start: seconds,
  end: seconds,
  bpm: tempo.nullable().defined(),
  confidence: share,
  lu: decibels.nullable().defined(),
}).exact();

const slip = object({
  index,
  number: printedNumber,
  note: count,
  kind: string().oneOf(['wrong', 'missing', 'added']).required(),
  seconds,
  confidence: share,
}).exact();

const sentence = object({
  text: string().max(400).required(),
  confidence: share,
  measures: array(printedNumber).max(40).required(),
}).exact();

const notice = mixed()
  .test('notice', 'A notice says that a take is cut off, in another octave or unsure.', (value) => {
    const { kind, ...rest } = (value ?? {}) as { kind?: unknown };
    const numbers = Object.values(rest);
    return (
      ['clipped', 'shifted', 'unsure'].includes(String(kind)) &&
      numbers.length === 1 &&
      typeof numbers[0] === 'number'
    );
  })
  .required();

const dynamics = {
  hairpins: list(
    object({
      printed: string().oneOf(['crescendo', 'diminuendo']).required(),
      from: printedNumber,
      to: printedNumber,
      changeLu: decibels,
    }).exact(),
  ),
  contrasts: list(
    object({
      from: printedNumber,
      to: printedNumber,
      fromLevel: level,
      toLevel: level,
      changeLu: decibels,
    }).exact(),
  ),
  loudest: object({
    heard: printedNumber,
    printed: printedNumber,
    level,
    isAsPrinted: boolean().strict().required(),
  })
    .exact()
    .nullable()
    .defined(),
};

const stops = {
  pauses: list(object({ seconds, length: seconds, number: printedNumber }).exact()),
  restarts: list(object({ seconds, from: printedNumber, to: printedNumber }).exact()),
};

/** What a take says, as it is kept. Shape: as ToldTake of core/takes */
export const toldTakeSchema = object({
  seconds,
  beatQuarters: number().min(0.01).max(16).required(),
  sure: share,
  measures: list(measure),
  opening: tempo.nullable().defined(),
  deciding: object({ number: printedNumber, bpm: tempo }).exact().nullable().defined(),
  drift: number().min(-10_000).max(10_000).nullable().defined(),
  evenness: list(
    object({
      from: printedNumber,
      to: printedNumber,
      percent: number().min(0).max(10_000).required(),
      notes: count,
    }).exact(),
  ),
  ...dynamics,
  ...stops,
  slips: list(slip),
  pitches: list(object({ midi: number().min(0).max(140).required(), cents, notes: count }).exact()),
  tuning: cents,
  notices: list(notice),
  sentences: list(sentence),
}).exact() as unknown as Schema<ToldTake>;
