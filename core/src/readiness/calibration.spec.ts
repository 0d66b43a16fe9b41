import { brier, calibrationError, forecastsOf, KINDS, ownLearner } from './testing/studies.js';

describe('calibration on simulated learners', () => {
  it('states what comes true within 0.05 for its own kind', () => {
    expect(calibrationError(forecastsOf(ownLearner, 20261128))).toBeLessThanOrEqual(0.05);
  });

  for (const [name, make] of KINDS) {
    it(`states what comes true within 0.08, and holds it in 70 of 100 intervals, for ${name}`, () => {
      const forecasts = forecastsOf(make, 20261128);
      expect(calibrationError(forecasts)).toBeLessThanOrEqual(0.08);
      const inside = forecasts.filter(({ isInside }) => isInside).length / forecasts.length;
      expect(inside).toBeGreaterThanOrEqual(0.7);
    });
  }

  it('beats the last ten reps, and the last ten near the target, on Brier score over all kinds together', () => {
    const all = KINDS.flatMap(([, make]) => forecastsOf(make, 7));
    const own = brier(all, ({ stated }) => stated);
    expect(own).toBeLessThan(brier(all, ({ lastTen }) => lastTen));
    expect(own).toBeLessThan(brier(all, ({ nearTarget }) => nearTarget));
  });
});
