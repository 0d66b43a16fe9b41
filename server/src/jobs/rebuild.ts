import type { Knex } from 'knex';
import { together, type Studio } from '../db/studio.js';
import { allPassageIds, holdPassage } from '../passages/repository.js';
import { rebuildSnapshot } from '../passages/snapshot.js';

/**
 * Counts every readiness snapshot anew from the reps.
 * Shape:  the number of passages counted
 */
export async function rebuildReadiness(db: Knex): Promise<number> {
  let count = 0;
  const studios: readonly { id: string }[] = await db('studios').select('id');
  for (const { id } of studios) {
    const studio: Studio = { db, id };
    for (const passageId of await allPassageIds(studio)) {
      const isCounted = await together(studio, async (inside) => {
        const passage = await holdPassage(inside, passageId);
        if (passage) await rebuildSnapshot(inside, passageId, { passage, since: null });
        return passage !== null;
      });
      if (isCounted) count += 1;
    }
  }
  return count;
}
