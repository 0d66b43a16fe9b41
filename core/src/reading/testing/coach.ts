import { abcToMusicXml } from '../../abc/index.js';
import { readScore, type Score, type Span } from '../../score/index.js';
import { bytesOf } from '../../score/testing/music-xml.js';
import { findingsOf, readMusic, soloLine, type Finding } from '../index.js';
import { COACH_STUDIES, type CoachStudy } from './coach-studies.data.js';

/** What of a reading a coach keeps, and what the coach misses in it. */
export interface Judged {
  readonly name: string;
  readonly score: Score;
  readonly findings: readonly Finding[];
  readonly kept: readonly Finding[];
  readonly noise: readonly Finding[];
  readonly missed: readonly string[];
}

/**
 * A study by hand as a score.
 * Errors: throws where a reader refuses it
 * Source: the ABC notation standard 2.1
 */
export function scoreOfStudy({ name, instrument, head, music }: Omit<CoachStudy, 'keeps'>): Score {
  const [fields, key] = [head.slice(0, head.lastIndexOf('K:')), head.slice(head.lastIndexOf('K:'))];
  const xml = abcToMusicXml(`X:1\nT:${name}\n${fields}V:1 name="${instrument}"\n${key}\n${music}\n`);
  if (!xml.ok) throw new Error(xml.issues[0]?.message);
  const read = readScore(bytesOf(xml.value), { partId: null });
  if (!read.ok) throw new Error(read.issues[0]?.message);
  return read.value;
}

/** Lays a reading of each study beside its coach's list. Shape: `asked` as readMusic takes it */
export function judgedStudies(
  studies: readonly CoachStudy[] = COACH_STUDIES,
  asked: readonly Span[] = [],
): Judged[] {
  return studies.map((study) => {
    const score = scoreOfStudy(study);
    const reading = readMusic(score, { instrument: study.instrument, bpm: null, asked });
    const findings = findingsOf(score, soloLine(score), { reading, asked });
    const entries = study.keeps.map((text) => ({ text, fits: entryOf(text, score) }));
    const kept = findings.filter((finding) => entries.some(({ fits }) => fits(finding)));
    return {
      name: study.name,
      score,
      findings,
      kept,
      noise: findings.filter((finding) => !kept.includes(finding)),
      missed: entries
        .filter(({ text, fits }) => !text.startsWith('?') && !findings.some((finding) => fits(finding)))
        .map(({ text }) => text),
    };
  });
}

function entryOf(text: string, { measures }: Score): (finding: Finding) => boolean {
  const [place = '', words = ''] = text.replace(/^\?/u, '').split(' ~ ');
  const kinds = place.split(' ').filter((word) => !/^\d/u.test(word));
  const [from = 0, to = from] = (/\d+(?:-\d+)?$/u.exec(place)?.[0] ?? '').split('-').map(Number);
  const said = new RegExp(words, 'iu');
  const numberAt = (index: number): number => Number(measures[index]?.number ?? NaN);
  return ({ kind, places, title, sentence }) =>
    kinds.includes(kind) &&
    said.test(`${title} ${sentence}`) &&
    (from === 0 || places.some((index) => numberAt(index) >= from && numberAt(index) <= to));
}
