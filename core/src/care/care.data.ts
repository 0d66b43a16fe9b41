/**
 * Cautions in plain words, shown where they matter; never a diagnosis.
 * Source: the design; breaks and rest on brass are common practice, no source
 */
export const CARE = Object.freeze({
  pain: 'Stop when something hurts, tingles or goes numb, and ask a doctor or hand therapist; they know more than any plan.',
  brass: 'On brass, and after hard reed work, rest as long as you play.',
  breaks: 'Take about 5 minutes off in every 30.',
  load: 'Raise weekly time gradually.',
  breath: 'Light-headed? Sit down and breathe normally until it is gone.',
  hearing: 'Loud rooms add up: 85 dBA for 8 hours is a day’s dose, and every 3 dB more halve the time.',
  rules: 'The rules of the school and of the audition body come first.',
});

/** Playing after which a break is due, and how long it is. Units: minutes. Source: the design */
export const BREAKS = Object.freeze({ after: 30, minutes: 5 });
