import { describe, expect, it } from 'vitest';
import { bikeWith } from '../plan/blankCase.fixture.ts';
import { bikeFaults, type BikeFault } from './faults.ts';
import { resolveBike } from './resolve.ts';

type Over = Parameters<typeof bikeWith>[0];
const faults = (over: Over): BikeFault[] => {
  const b = bikeWith(over);
  return bikeFaults(b, resolveBike(b));
};
const foot = (over: object): Over => ({ feet: { left: over } });

/** Just inside what is sound, and just outside, with what is then said. */
const EDGES: [what: string, sound: Over, faulty: Over, words: string, weight: BikeFault['weight']][] = [
  ['nose-down', { saddle: { tiltDeg: -3 } }, { saddle: { tiltDeg: -3.5 } }, 'saddle 3.5° nose-down', 'look'],
  ['nose-up', { saddle: { tiltDeg: 3 } }, { saddle: { tiltDeg: 4 } }, 'saddle 4° nose-up', 'look'],
  [
    'post',
    { saddle: { postShowingMm: 240, postShowingMostMm: 240 } },
    { saddle: { postShowingMm: 247, postShowingMostMm: 240 } },
    'seatpost 7 mm past its minimum insertion',
    'danger',
  ],
  [
    'cleats’ turn',
    { feet: { left: { heelOutDeg: 2 }, right: { heelOutDeg: 0 } } },
    { feet: { left: { heelOutDeg: 2 }, right: { heelOutDeg: -1 } } },
    'cleats 3° apart',
    'look',
  ],
  [
    'cleats fore and aft',
    { feet: { left: { cleatBehindMm: 10 }, right: { cleatBehindMm: 8 } } },
    { feet: { left: { cleatBehindMm: 10 }, right: { cleatBehindMm: 6 } } },
    'cleats 4 mm apart fore and aft',
    'look',
  ],
  [
    'stance',
    {
      crank: { qFactorMm: 150 },
      pedals: { axleLengthMm: 53 },
      feet: { left: { cleatOutwardMm: 3 }, right: { cleatOutwardMm: 0 } },
    },
    {
      crank: { qFactorMm: 150 },
      pedals: { axleLengthMm: 53 },
      feet: { left: { cleatOutwardMm: 4 }, right: { cleatOutwardMm: -1 } },
    },
    'feet 5 mm unevenly placed about the middle',
    'look',
  ],
  ['washers', foot({ washers: 1 }), foot({ washers: 2 }), '2 washers under the left pedal', 'danger'],
  [
    'cleat ahead of the head',
    foot({ cleatBehindMm: -2 }),
    foot({ cleatBehindMm: -5 }),
    'left cleat ahead of the first metatarsal head',
    'look',
  ],
  ['rolled up', { bar: { rotationDeg: 7 } }, { bar: { rotationDeg: 8 } }, 'bar rolled up 8°', 'look'],
  ['rolled down', { bar: { rotationDeg: -7 } }, { bar: { rotationDeg: -9 } }, 'bar rolled down 9°', 'look'],
  ['levers', { levers: { turnInDeg: 10 } }, { levers: { turnInDeg: 12 } }, 'levers turned in 12°', 'look'],
];

describe('faults of a bike as found', () => {
  it('nothing measured, nothing said', () => {
    expect(faults({})).toEqual([]);
  });
  for (const [what, sound, faulty, words, weight] of EDGES)
    it(`${what}: silent while sound, plain and weighed beyond`, () => {
      expect(faults(sound)).toEqual([]);
      const [f, ...more] = faults(faulty);
      expect(more).toEqual([]);
      expect(f).toMatchObject({ what: words, weight });
      expect(f.why.length).toBeGreaterThan(20);
    });
  it('what may hurt somebody is never merely worth a look', () => {
    const all = EDGES.flatMap(([, , faulty]) => faults(faulty));
    expect(all.filter((f) => f.weight === 'danger').map((f) => f.what)).toEqual([
      'seatpost 7 mm past its minimum insertion',
      '2 washers under the left pedal',
    ]);
  });
  it('half a pair is no pair', () => {
    expect(faults({ feet: { left: { cleatBehindMm: 10, heelOutDeg: 6 } } })).toEqual([]);
  });
});
