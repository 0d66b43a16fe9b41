import type { Settings, SettingsView } from '@vivid-cue/contract';
import type { Studio } from '../db/studio.js';
import { Problem } from '../http/problem.js';

type Schools = Omit<Settings, 'studioName' | 'zone' | 'vocabulary'>;

/** Takes are kept so long after a season's last date, until a studio chooses (our own). Units: days */
export const TAKE_DAYS = 60;

/** What a studio holds to until it chooses. Source: product design, schools of practice. */
const DEFAULT_SCHOOLS: Schools = {
  rungRule: 'three-in-a-row',
  tempoPolicy: 'keep',
  climbSchool: 'steady',
  slipRule: 'two-down',
  dayMinutes: 40,
  dayCap: 60,
  restDays: [0],
  takeDays: TAKE_DAYS,
};

interface StudioRow {
  readonly name: string;
  readonly zone: string;
  readonly vocabulary: 'us' | 'uk';
  readonly version: number;
  readonly schools: string;
}

/**
 * The studio's settings.
 * Shape:  what was never chosen has its default
 */
export async function readSettings(studio: Studio): Promise<SettingsView> {
  const row = (await studio
    .db('studios')
    .where({ id: studio.id })
    .first('name', 'zone', 'vocabulary', 'version', 'schools')) as StudioRow;
  const { name: studioName, zone, vocabulary, version, schools } = row;
  return {
    studioName,
    zone,
    vocabulary,
    version,
    ...schoolsOf(schools),
  };
}

/** What was chosen, and the default of what was not; choices of other times that nothing reads are passed over. */
function schoolsOf(text: string): Schools {
  const { rungRule, tempoPolicy, climbSchool, slipRule, dayMinutes, dayCap, restDays, takeDays } = {
    ...DEFAULT_SCHOOLS,
    ...(JSON.parse(text) as Partial<Schools>),
  };
  return { rungRule, tempoPolicy, climbSchool, slipRule, dayMinutes, dayCap, restDays, takeDays };
}

/**
 * Changes the studio's settings.
 * Shape:  the settings as stored
 * Errors: Problem version-stale
 */
export async function changeSettings(
  studio: Studio,
  version: number,
  settings: Settings,
): Promise<SettingsView> {
  const { studioName, zone, vocabulary, ...schools } = settings;
  const changed = await studio
    .db('studios')
    .where({ id: studio.id, version })
    .update({ name: studioName, zone, vocabulary, schools: JSON.stringify(schools), version: version + 1 });
  const current = await readSettings(studio);
  if (changed !== 1)
    throw new Problem(
      'version-stale',
      'The settings were changed in another window meanwhile; look at both and save again.',
      { current },
    );
  return current;
}
