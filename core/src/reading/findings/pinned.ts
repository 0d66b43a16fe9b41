import type { Finding } from './finding.js';
import type { FindingMark } from './findings.js';
import type { MeasureFacts } from './measure-facts.js';

/** The key under which a measure is pinned as the one that decides. Shape: `print` is the mark of its music. */
export function pinKey(print: string): string {
  return `deciding:${print}`;
}

/**
 * The findings with the measure that the instructor pinned as the one that decides.
 * Shape:  unchanged where the pinned music is not there any more; of measures alike the one with the same number
 */
export function withPin(
  findings: readonly Finding[],
  {
    pin,
    prints,
    facts,
    numberOf,
  }: {
    readonly pin: FindingMark | null;
    readonly prints: readonly string[];
    readonly facts: readonly Pick<MeasureFacts, 'index' | 'demand'>[];
    readonly numberOf: (index: number) => string;
  },
): Finding[] {
  if (!pin) return [...findings];
  const alike = prints.flatMap((print, index) => (pinKey(print) === pin.key ? [index] : []));
  const index = alike.find((one) => numberOf(one) === pin.measure) ?? alike[0];
  if (index === undefined) return [...findings];
  const demand = facts[index]?.demand;
  const asks = demand?.because ? `It asks ${demand.because}.` : '';
  const pinned: Finding = {
    id: pin.key,
    key: pin.key,
    kind: 'deciding',
    importance: 1,
    title: `Measure ${numberOf(index)} decides the tempo.`,
    sentence: ['Pinned by you.', asks].filter((text) => text !== '').join(' '),
    places: [index],
    notes: [],
    pair: null,
  };
  return [pinned, ...findings.filter(({ kind }) => kind !== 'deciding')];
}
