/** The tests done with the rider on the bike (handbook: rules, on-bike tests): each with what may be found. */
export const ON_BIKE = [
  {
    key: 'handsOff',
    name: 'Both hands off, 2–3 s, in the drops under load',
    options: [
      ['holds', 'holds'],
      ['wobbles', 'wobbles'],
      ['falls', 'falls forward'],
    ],
  },
  {
    key: 'oneHand',
    name: 'One hand off: does the other arm load?',
    options: [
      ['no', 'no'],
      ['yes', 'yes'],
    ],
  },
  {
    key: 'handsRest',
    name: 'Hands, when not watched',
    options: [
      ['hoods', 'on the hoods'],
      ['behind', 'behind them'],
    ],
  },
  {
    key: 'sitsUp',
    name: 'Sits up between efforts',
    options: [
      ['no', 'no'],
      ['yes', 'yes'],
    ],
  },
  {
    key: 'reachTest',
    name: 'Static reach test, from the hips to hood height',
    options: [
      ['there', 'the hood is there'],
      ['shrugs', 'shoulders shrug'],
      ['falls', 'falls on to the hands'],
    ],
  },
  {
    key: 'arms',
    name: 'Shoulders and arms while riding',
    options: [
      ['soft', 'soft'],
      ['locked', 'shrugged or locked'],
    ],
  },
  {
    key: 'back',
    name: 'Back and head while riding',
    options: [
      ['long', 'back long, head low'],
      ['round', 'back rounds, head up'],
    ],
  },
  {
    key: 'slides',
    name: 'Slides forward on the saddle',
    options: [
      ['no', 'no'],
      ['yes', 'yes'],
    ],
  },
  {
    key: 'sits',
    name: 'Sits',
    options: [
      ['middle', 'in the middle'],
      ['side', 'off one side'],
      ['back', 'off the back'],
    ],
  },
  {
    key: 'float',
    name: 'Float test: the heel before the stop',
    options: [
      ['both', 'moves in and out'],
      ['in', 'only in'],
      ['out', 'only out'],
    ],
  },
  {
    key: 'heelRises',
    name: 'Heel rises early in the stroke',
    options: [
      ['no', 'no'],
      ['yes', 'yes'],
    ],
  },
  {
    key: 'heel',
    name: 'Heel and crank',
    options: [
      ['clear', 'clear'],
      ['strikes', 'strikes'],
    ],
  },
  {
    key: 'levers',
    name: 'Two fingers reach the levers',
    options: [
      ['yes', 'yes'],
      ['no', 'no'],
    ],
  },
] as const;

export type OnBikeKey = (typeof ON_BIKE)[number]['key'];
export type OnBike = Partial<Record<OnBikeKey, string>>;
