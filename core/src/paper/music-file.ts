import type { Result } from '../base/index.js';
import { readScore, type ReadScoreOptions, type Score, type ScoreCode } from '../score/index.js';
import { isPaper, readPaper } from './paper-file.js';
import { scoreOfPaper } from './paper-score.js';
import type { PaperCode } from './paper.js';

/**
 * Reads a file of either kind: a digital score, or music on paper.
 * Shape:  a Score
 * Errors: as readScore, readPaper and scoreOfPaper
 */
export function readMusicFile(
  bytes: Uint8Array,
  options: ReadScoreOptions = {},
): Result<Score, ScoreCode | PaperCode> {
  if (!isPaper(bytes)) return readScore(bytes, options);
  const paper = readPaper(bytes);
  return paper.ok ? scoreOfPaper(paper.value) : paper;
}
