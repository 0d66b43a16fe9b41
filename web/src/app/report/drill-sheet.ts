import { CARE } from '@vivid-cue/core/care';
import { line, page, type ReportDoc } from './pieces';

/** A picture of engraved music. Shape: a data address; the sizes in points */
export interface EngravedPicture {
  readonly image: string;
  readonly width: number;
}

/** A drill for the stand: why, how, and its engraving. */
export function drillSheet(drill: {
  readonly title: string;
  readonly why: string;
  readonly how: string;
  readonly tempo: string;
  readonly turns: readonly string[];
  readonly pictures: readonly EngravedPicture[];
}): ReportDoc {
  return page(
    [
      line(drill.title, { style: 'title' }),
      line(drill.why, { style: 'soft' }),
      line(drill.how, { margin: [0, 6, 0, 2] }),
      line(drill.tempo, { bold: true, margin: [0, 0, 0, 10] }),
      ...(drill.turns.length === 0 ? [] : [line(drill.turns.join('   '), { margin: [0, 0, 0, 10] })]),
      ...drill.pictures.map(({ image, width }) => ({ image, width, margin: [0, 0, 0, 8] })),
    ],
    CARE.pain,
  );
}
