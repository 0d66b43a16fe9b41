import { troubleOf } from './problem';

/**
 * Does a change; where somebody else was quicker, takes what stands on the server now and does it once more on that.
 * Only for changes that name what they change ("this day is skipped"), never for whole states.
 * Errors: whatever the second try or another trouble throws
 */
export async function onTop<T>(
  change: () => Promise<void>,
  takeNewer: (current: T) => Promise<void> | void,
): Promise<void> {
  try {
    await change();
  } catch (error) {
    const { code, current } = troubleOf(error);
    if (code !== 'version-stale' || current === null) throw error;
    await takeNewer(current as T);
    await change();
  }
}
