import type { Provider } from '@angular/core';
import { MusicFiles } from '../data/music-files';
import { PartMusic, StudioPartMusic } from '../data/part-music';
import { StudioFiles } from '../data/studio-files';
import { TakeDesk } from '../take/take-desk';

/** Takes as the studio has them. */
export const STUDIO_TAKES: Provider[] = [
  TakeDesk,
  { provide: MusicFiles, useExisting: StudioFiles },
  { provide: PartMusic, useExisting: StudioPartMusic },
];
