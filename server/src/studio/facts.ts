import type { Vocabulary } from '@vivid-cue/core/music';
import type { Studio } from '../db/studio.js';

/** What of the studio itself colours every page. */
export interface StudioFacts {
  readonly zone: string;
  readonly vocabulary: Vocabulary;
}

/** The studio's zone and vocabulary. */
export async function studioFacts(studio: Studio): Promise<StudioFacts> {
  const row = (await studio.db('studios').where({ id: studio.id }).first('zone', 'vocabulary')) as
    StudioFacts | undefined;
  return row ?? { zone: 'UTC', vocabulary: 'us' };
}
