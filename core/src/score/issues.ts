import type { Issue } from '../base/index.js';

/** Every reason for which a score file is refused. */
export type ScoreCode =
  | 'score-empty'
  | 'score-too-large'
  | 'score-encoding'
  | 'score-not-xml'
  | 'score-broken-xml'
  | 'score-hostile'
  | 'score-not-music'
  | 'score-archive'
  | 'score-no-parts'
  | 'score-no-notes'
  | 'score-no-part'
  | 'score-timing';

/** What was odd in a file that could be read all the same. */
export type ScoreWarningCode =
  | 'number-repeated'
  | 'number-missing'
  | 'tempo-conflict'
  | 'tempo-borrowed'
  | 'tempo-from-sound'
  | 'tempo-unknown'
  | 'jump-target-missing'
  | 'repeat-endless'
  | 'meter-missing'
  | 'measure-length';

/** A warning with the measure it belongs to. */
export type ScoreWarning = Issue<ScoreWarningCode>;

/**
 * Ends a reading early inside this folder; `readScore` turns it into a failed Result.
 * Errors: is one; never leaves the folder
 */
export class ScoreStop extends Error {
  override readonly name = 'ScoreStop';
  constructor(
    readonly code: ScoreCode,
    readonly where: string,
    message: string,
  ) {
    super(message);
  }
}
