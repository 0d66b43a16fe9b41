import type { Engraver } from '../data/engraver';
import { pictureOf } from './svg-picture';

/** Music that was made here: one part, so many measures. */
export interface MadeMusic {
  readonly musicXml: string;
  readonly measures: number;
}

/** A score that is made here has one part. */
const PART_ID = 'P1';
/** How much larger than an engraving's own size it is shown at most. */
const MOST_SCALE = 1.5;

/** So many measures stand on one line, by the room there is. Units: pixels */
export function measuresALine(widthPx: number): number {
  return widthPx < 460 ? 1 : widthPx < 760 ? 2 : 4;
}

/** Made music engraved line by line. Shape: each line with its own signs. Errors: rejects as Engraver.excerpt */
export async function engravedLines(
  engraver: Engraver,
  { musicXml, measures }: MadeMusic,
  count: number,
): Promise<SVGElement[]> {
  const part = { musicXml, partId: PART_ID, numbers: null };
  const lines: SVGElement[] = [];
  for (let fromIndex = 0; fromIndex < measures; fromIndex += count) {
    const span = { fromIndex, endIndex: Math.min(measures, fromIndex + count) };
    lines.push(pictureOf(await engraver.excerpt(part, span)));
  }
  return lines;
}

/** Puts engraved lines on a stage, as wide as it allows. */
export function showLines(stage: HTMLElement, lines: readonly SVGElement[]): void {
  for (const line of lines) {
    const [, , width = 1, height = 1] = (line.getAttribute('viewBox') ?? '').split(' ').map(Number);
    const scale = Math.min(MOST_SCALE, stage.clientWidth / width);
    line.style.width = `${Math.round(width * scale)}px`;
    line.style.height = `${Math.round(height * scale)}px`;
  }
  stage.replaceChildren(...lines);
}
