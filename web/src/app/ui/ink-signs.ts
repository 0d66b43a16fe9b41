import { inkColour, lookOf, type CueKind, type KindLook } from '@vivid-cue/core/cue-kinds';

/** A cue as far as its sign is found in a picture. */
interface SignedCue {
  readonly kind: CueKind;
  readonly sign: string;
  readonly fromIndex: number;
}

/**
 * Gives fingerings of an engraving the ink of their cues: the engine draws them black, whatever the file says.
 * Shape:  `fromIndex` the index of the picture's first measure; printed fingerings that no cue says stay as they are
 */
export function inkSigns(
  picture: Element,
  fromIndex: number,
  { cues, looks }: { readonly cues: readonly SignedCue[]; readonly looks: readonly KindLook[] },
): void {
  picture.querySelectorAll('g.measure').forEach((measure, n) => {
    const own = cues.filter((cue) => cue.fromIndex === fromIndex + n && cue.sign !== '');
    for (const fingering of measure.querySelectorAll<SVGElement>('g.fing')) {
      const cue = own.find(({ sign }) => sign === fingering.textContent.trim());
      if (!cue) continue;
      const colour = inkColour(lookOf(cue.kind, looks).ink);
      for (const text of fingering.querySelectorAll<SVGElement>('text, tspan')) text.style.fill = colour;
    }
  });
}
