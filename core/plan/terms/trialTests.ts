/** What is tried after each change (handbook: rules, on-bike tests): each with what may be found, the good one first. */
export const TRIAL_TESTS = [
  {
    key: 'handsOff',
    name: 'Both hands off, 2–3 s',
    options: [
      ['holds', 'holds'],
      ['wobbles', 'wobbles'],
      ['falls', 'falls forward'],
    ],
  },
  {
    key: 'oneHand',
    name: 'One hand off: other arm loads',
    options: [
      ['no', 'no'],
      ['yes', 'yes'],
    ],
  },
  {
    key: 'heel',
    name: 'Heel past the crank',
    options: [
      ['clear', 'clear'],
      ['strikes', 'strikes'],
    ],
  },
  {
    key: 'levers',
    name: 'Brakes from hoods and drops',
    options: [
      ['yes', 'reached'],
      ['no', 'not reached'],
    ],
  },
  {
    key: 'kneePath',
    name: 'Knee path, by eye',
    options: [
      ['straight', 'straight'],
      ['wanders', 'wanders'],
    ],
  },
] as const;

export type TrialTestKey = (typeof TRIAL_TESTS)[number]['key'];
export type TrialTests = Partial<Record<TrialTestKey, string>>;
