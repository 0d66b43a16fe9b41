import { inkColour, lookOf, type CueKind, type KindLook } from '@vivid-cue/core/cue-kinds';
import { CARE } from '@vivid-cue/core/care';
import type { EngravedPicture } from './drill-sheet';
import { line, page, plainSign, type Node, type ReportDoc } from './pieces';

/** A score with its cues for the stand. */
export interface ScoreSheet {
  readonly title: string;
  readonly student: string;
  /** Of which program, which part, how fast. */
  readonly facts: string;
  readonly pictures: readonly EngravedPicture[];
  readonly cues: readonly {
    readonly kind: CueKind;
    readonly sign: string;
    readonly where: string;
    readonly text: string;
  }[];
  readonly looks: readonly KindLook[];
}

/** A score with its cues: whose it is, the music, what the signs stand for, and what is said in words. */
export function scoreSheet({ title, student, facts, pictures, cues, looks }: ScoreSheet): ReportDoc {
  const colour = (kind: CueKind): string => inkColour(lookOf(kind, looks).ink);
  const kinds = [...new Map(cues.map((cue) => [cue.kind, cue])).values()];
  const legend = kinds.flatMap(({ kind, sign }): Node[] => [
    { text: `${plainSign(sign)} ${kind}    `, color: colour(kind), bold: true },
  ]);
  const told = cues.map(({ kind, where, sign, text }): Node => ({
    text: [
      { text: `${where}  `, bold: true },
      { text: `${plainSign(sign)} `.trimStart(), color: colour(kind), bold: true },
      { text },
    ],
    margin: [0, 0, 0, 2],
  }));
  const half = Math.ceil(told.length / 2);
  return page(
    [
      {
        columns: [
          line(title, { style: 'title' }),
          line(student, { alignment: 'right', bold: true, fontSize: 13, margin: [0, 4, 0, 0] }),
        ],
      },
      line(facts, { style: 'soft', margin: [0, 0, 0, 4] }),
      ...(legend.length === 0 ? [] : [{ text: legend, fontSize: 10, margin: [0, 0, 0, 8] }]),
      ...pictures.map(({ image, width }) => ({ image, width, margin: [0, 0, 0, 6] })),
      ...(told.length === 0
        ? []
        : [
            line('Cues', { style: 'head' }),
            { columns: [told.slice(0, half), told.slice(half)], columnGap: 20, fontSize: 10 },
          ]),
    ],
    CARE.pain,
  );
}
