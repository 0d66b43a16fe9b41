import { groupBy } from '../base/index.js';
import { judgedStudies, type Judged } from './testing/coach.js';
import { COACH_STUDIES } from './testing/coach-studies.data.js';
import { LATER_STUDIES } from './testing/coach-studies-2.data.js';
import { LAST_STUDIES } from './testing/coach-studies-3.data.js';

/**
 * Twenty-six studies composed for these specs, each with the list that a coach wrote before the reading had seen it: what is
 * kept is common practice, no source. What was kept at first reading stands in docs/references.md.
 */
const STUDIES = [...COACH_STUDIES, ...LATER_STUDIES, ...LAST_STUDIES];
const judged = judgedStudies(STUDIES);

function share(kept: number, all: number): number {
  return all === 0 ? 1 : kept / all;
}

function listOf(all: readonly Judged[], of: (one: Judged) => readonly string[]): string {
  return all.flatMap((one) => of(one).map((text) => `${one.name}: ${text}`)).join('\n');
}

describe('Studies beside their coach’s lists', () => {
  it('keep 85 % of what is told, 92 % of the first five, and miss at most one thing a piece', () => {
    const told = judged.flatMap(({ findings }) => findings);
    const kept = judged.flatMap((one) => one.kept);
    const noise = listOf(judged, (one) => one.noise.map(({ kind, title }) => `${kind} ${title}`));
    expect(share(kept.length, told.length)).withContext(noise).toBeGreaterThanOrEqual(0.85);
    const first = judged.flatMap((one) =>
      one.findings.slice(0, 5).map((finding) => one.kept.includes(finding)),
    );
    expect(share(first.filter((isKept) => isKept).length, first.length)).toBeGreaterThanOrEqual(0.92);
    for (const { name, missed } of judged)
      expect(missed.length)
        .withContext(`${name}: ${missed.join(', ')}`)
        .toBeLessThanOrEqual(1);
  });

  it('tell each kind so that three of four are kept: noise of one kind is not paid by another', () => {
    const kinds = groupBy(
      judged.flatMap((one) =>
        one.findings.map((finding) => ({ finding, isKept: one.kept.includes(finding) })),
      ),
      ({ finding }) => finding.kind,
    );
    for (const [kind, all] of kinds) {
      const kept = all.filter(({ isKept }) => isKept).length;
      const noise = all.filter(({ isKept }) => !isKept).map(({ finding }) => finding.title);
      expect(all.length - kept <= 1 || share(kept, all.length) >= 0.75)
        .withContext(`${kind}: ${noise.join(' ')}`)
        .toBeTrue();
    }
  });

  it('are told in at most 14 findings a page of music', () => {
    for (const { name, findings } of judged)
      expect(findings.length).withContext(name).toBeLessThanOrEqual(14);
  });

  it('find nothing at all of what stands outside the measures that are asked', () => {
    for (const study of STUDIES) {
      const [own] = judgedStudies([study], [{ fromIndex: 2, endIndex: 6 }]);
      const outside = own?.findings.filter(({ places }) => places.some((place) => place < 2 || place >= 6));
      expect(outside?.map(({ title }) => title))
        .withContext(study.name)
        .toEqual([]);
      expect(own?.findings.length).withContext(study.name).toBeGreaterThan(0);
    }
  });
});
