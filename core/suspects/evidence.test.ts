import { describe, expect, it } from 'vitest';
import { REGIONS, type RegionKey } from '../intake/intake.ts';
import { aches, caseOf, seen, tested } from '../plan/blankCase.fixture.ts';
import type { SideDifference } from '../protocol/asymmetry.ts';
import { ON_BIKE, onBikeEvidence } from './onBike.ts';
import { rankSuspects, type Suspect } from './suspects.ts';
import { RULES, type SuspectKey } from './suspectRules.ts';

type Case = Parameters<typeof caseOf>[0];
const apart = (
  key: string,
  by: number,
  verdict: SideDifference['verdict'] = 'worth-a-look',
): SideDifference[] => [
  {
    key,
    name: 'Knee at its straightest',
    unit: '°',
    left: by,
    right: 0,
    by,
    uncertainty: 1,
    from: 2,
    verdict,
  },
];
const both = (v: number | string): { both: number | string } => ({ both: v });
const pair = (left: number | string, right = left): { left: number | string; right: number | string } => ({
  left,
  right,
});
const feet = (key: string, left: number, right = left): NonNullable<Case>['bike'] =>
  ({ feet: { left: { [key]: left }, right: { [key]: right } } }) as NonNullable<Case>['bike'];

/**
 * The handbook's table once more, by hand: for each suspect what raises it and what speaks against it. Where nothing stands, nothing
 * that is measured tells it: its own test decides.
 */
const TABLE: Record<SuspectKey, { region: RegionKey; for: Case[]; against: Case[] }> = {
  saddleLow: {
    region: 'kneeFront',
    for: [
      { measures: [seen('kneeFlexionMinDeg', 50, 'high')] },
      { measures: [seen('kneeFlexionMaxDeg', 122, 'high')] },
      { body: tested({ inseam: both(860) }), bike: { crank: { lengthMm: 170 }, saddle: { heightMm: 700 } } },
    ],
    against: [
      { measures: [seen('kneeFlexionMinDeg', 36, 'in')] },
      { body: tested({ inseam: both(860) }), bike: { crank: { lengthMm: 170 }, saddle: { heightMm: 800 } } },
      { body: tested({ inseam: both(860) }), bike: { crank: { lengthMm: 170 }, saddle: { heightMm: 760 } } },
    ],
  },
  saddleHigh: {
    region: 'kneeBehind',
    for: [
      { measures: [seen('kneeFlexionMinDeg', 24, 'low')] },
      { measures: [seen('hipVerticalTravelMm', 30, 'high')] },
      { measures: [seen('footPitch180Deg', 40, 'high')] },
      { body: tested({ inseam: both(860) }), bike: { crank: { lengthMm: 170 }, saddle: { heightMm: 800 } } },
      { apart: apart('pelvisSwingDeg', 7) },
    ],
    against: [{ measures: [seen('hipVerticalTravelMm', 8, 'in')] }],
  },
  saddleForward: {
    region: 'kneeFront',
    for: [
      { measures: [seen('kneeOverSpindleMm', 18, 'high')] },
      { onBike: { handsOff: 'falls' } },
      { onBike: { heelRises: 'yes' } },
    ],
    against: [{ measures: [seen('kneeOverSpindleMm', -8, 'in')] }, { onBike: { handsOff: 'holds' } }],
  },
  saddleBack: {
    region: 'kneeBehind',
    for: [{ measures: [seen('kneeOverSpindleMm', -40, 'low')] }],
    against: [{ measures: [seen('kneeOverSpindleMm', -10, 'in')] }],
  },
  noseDown: {
    region: 'hands',
    for: [{ bike: { saddle: { tiltDeg: -4 } } }, { onBike: { slides: 'yes' } }],
    against: [{ bike: { saddle: { tiltDeg: 0 } } }, { onBike: { slides: 'no' } }],
  },
  noseUp: {
    region: 'softTissue',
    for: [{ bike: { saddle: { tiltDeg: 4 } } }, { onBike: { sits: 'back' } }],
    against: [{ bike: { saddle: { tiltDeg: -1 } } }],
  },
  crankLong: {
    region: 'hipFront',
    for: [
      { body: tested({ inseam: both(760) }), bike: { crank: { lengthMm: 175 } } },
      { measures: [seen('hipAngleMinDeg', 44, 'low')] },
    ],
    against: [{ body: tested({ inseam: both(860) }), bike: { crank: { lengthMm: 172.5 } } }],
  },
  cleatForward: {
    region: 'calf',
    for: [{ bike: feet('cleatBehindMm', 1) }],
    against: [{ bike: feet('cleatBehindMm', 10) }],
  },
  cleatFarBack: {
    region: 'hipFront',
    for: [{ bike: feet('cleatBehindMm', 8, 34) }],
    against: [{ bike: feet('cleatBehindMm', 9) }],
  },
  cleatsUnlike: {
    region: 'crooked',
    for: [{ bike: feet('cleatBehindMm', 10, 4) }],
    against: [{ bike: feet('cleatBehindMm', 10, 9) }],
  },
  cleatRotation: {
    region: 'kneeInside',
    for: [
      { bike: feet('heelOutDeg', 0, -5) },
      { onBike: { float: 'out' } },
      { onBike: { float: 'in' } },
      { onBike: { heel: 'strikes' } },
    ],
    against: [{ onBike: { float: 'both' } }],
  },
  stanceNarrow: {
    region: 'kneeInside',
    for: [
      { body: tested({ build: both('broad'), height: both(1910) }) },
      {
        bike: {
          crank: { qFactorMm: 146 },
          pedals: { axleLengthMm: 44 },
          feet: { left: { cleatOutwardMm: 3 } },
        },
      },
      { onBike: { heel: 'strikes' } },
    ],
    against: [{ body: tested({ build: both('slight') }) }],
  },
  stanceWide: {
    region: 'kneeOutside',
    for: [{ body: tested({ kneesStanding: both('knock') }) }],
    against: [{ body: tested({ kneesStanding: both('bow') }) }],
  },
  forefootTilt: {
    region: 'kneeInside',
    for: [
      { body: tested({ forefootTilt: pair(12, 3) }) },
      { measures: [seen('kneePathWidthMm', 52, 'high')] },
    ],
    against: [
      { body: tested({ forefootTilt: pair(3, 2) }) },
      { measures: [seen('kneePathWidthMm', 20, 'in')] },
    ],
  },
  forefootPad: { region: 'forefoot', for: [], against: [] },
  cold: { region: 'forefoot', for: [], against: [] },
  shoe: {
    region: 'forefoot',
    for: [{ body: tested({ footLengthLoaded: pair(262) }), bike: feet('shoeSizeEu', 39) }],
    against: [],
  },
  archContact: { region: 'forefoot', for: [{ body: tested({ arch: pair('low', 'medium') }) }], against: [] },
  saddleNarrow: {
    region: 'sitBones',
    for: [
      { body: tested({ sitBones: both(120) }), bike: { saddle: { widthMm: 138 } } },
      { body: tested({ sitBones: both(100) }), bike: { saddle: { widthMm: 168 } } },
    ],
    against: [{ body: tested({ sitBones: both(110) }), bike: { saddle: { widthMm: 150 } } }],
  },
  saddleSoft: { region: 'sitBones', for: [], against: [] },
  uprightOnNarrow: {
    region: 'sitBones',
    for: [
      {
        body: tested({ sitBones: both(120) }),
        bike: { saddle: { widthMm: 138 } },
        measures: [seen('backAngleDeg', 68, 'high')],
      },
    ],
    against: [
      { body: tested({ sitBones: both(110) }), bike: { saddle: { widthMm: 160 } } },
      { measures: [seen('backAngleDeg', 40, 'in')] },
    ],
  },
  noRelief: {
    region: 'softTissue',
    for: [{ bike: { saddle: { reliefChannel: false } } }],
    against: [{ bike: { saddle: { reliefChannel: true } } }],
  },
  reachLong: {
    region: 'neck',
    for: [
      { measures: [seen('shoulderAngleDeg', 101, 'high')] },
      { measures: [seen('elbowFlexionDeg', 4, 'low')] },
      { onBike: { reachTest: 'falls' } },
      { onBike: { handsRest: 'behind' } },
      { onBike: { sitsUp: 'yes' } },
      { onBike: { oneHand: 'yes' } },
    ],
    against: [
      { measures: [seen('shoulderAngleDeg', 80, 'in')] },
      { onBike: { handsRest: 'hoods' } },
      { onBike: { reachTest: 'there' } },
    ],
  },
  reachShort: {
    region: 'cramped',
    for: [
      { measures: [seen('shoulderAngleDeg', 60, 'low')] },
      { onBike: { reachTest: 'shrugs' } },
      { onBike: { arms: 'locked' } },
    ],
    against: [{ measures: [seen('shoulderAngleDeg', 80, 'in')] }, { onBike: { reachTest: 'there' } }],
  },
  barLow: {
    region: 'lowBack',
    for: [
      { measures: [seen('backAngleDeg', 30, 'low')] },
      { body: tested({ hinge: both('round') }) },
      { onBike: { back: 'round' } },
    ],
    against: [{ body: tested({ hinge: both('flat') }) }, { onBike: { back: 'long' } }],
  },
  barRolled: {
    region: 'hands',
    for: [{ bike: { bar: { rotationDeg: 12 } } }],
    against: [{ bike: { bar: { rotationDeg: 2 } } }],
  },
  hoods: {
    region: 'neck',
    for: [{ bike: { levers: { turnInDeg: 14 } } }],
    against: [{ bike: { levers: { turnInDeg: 3 } } }],
  },
  elbowsLocked: {
    region: 'neck',
    for: [{ measures: [seen('elbowFlexionDeg', 3, 'low')] }, { onBike: { arms: 'locked' } }],
    against: [{ measures: [seen('elbowFlexionDeg', 22, 'in')] }, { onBike: { arms: 'soft' } }],
  },
  leverReach: {
    region: 'hands',
    for: [{ onBike: { levers: 'no' } }],
    against: [{ onBike: { levers: 'yes' } }],
  },
  lowCadence: { region: 'kneeFront', for: [{ cadenceRpm: 61 }], against: [{ cadenceRpm: 92 }] },
  hamstrings: {
    region: 'lowBack',
    for: [{ body: tested({ straightLegRaise: pair(52, 66) }) }, { onBike: { heelRises: 'yes' } }],
    against: [{ body: tested({ straightLegRaise: pair(75) }) }],
  },
  flatFoot: {
    region: 'kneeBehind',
    for: [{ measures: [seen('footPitch180Deg', 2, 'low')] }],
    against: [{ measures: [seen('footPitch180Deg', 18, 'in')] }],
  },
  legLength: {
    region: 'crooked',
    for: [
      {
        body: tested({
          malleoliTraction: both(8),
          malleoliSitUp: both(8),
          tibia: pair(400, 407),
        }),
      },
      { apart: apart('kneeFlexionMinDeg', 5) },
      { onBike: { sits: 'side' } },
    ],
    against: [
      { body: tested({ malleoliTraction: both(1) }) },
      { body: tested({ malleoliTraction: both(9), malleoliSitUp: both(0) }) },
      { apart: apart('kneeFlexionMinDeg', 0.4, 'alike') },
    ],
  },
  pelvis: {
    region: 'crooked',
    for: [
      { body: tested({ pelvis: both('left-low') }) },
      { apart: apart('pelvisMeanDeg', -3) },
      { onBike: { sits: 'side' } },
    ],
    against: [{ body: tested({ pelvis: both('level') }) }, { apart: apart('pelvisMeanDeg', 0.3, 'alike') }],
  },
  oldInjury: { region: 'crooked', for: [{ intake: { past: 'Broken collarbone, 2019' } }], against: [] },
};

const suspect = (key: SuspectKey, region: RegionKey, more: Case): Suspect | undefined =>
  rankSuspects(
    caseOf({ ...more, intake: { ...more?.intake, complaints: [aches(region)] } }),
  )[0].suspects.find((s) => s.key === key);

describe('each suspect', () => {
  for (const [key, row] of Object.entries(TABLE) as [SuspectKey, (typeof TABLE)[SuspectKey]][]) {
    it(`${key} is raised by what raises it, and spoken against by what speaks against it`, () => {
      for (const more of row.for) {
        const s = suspect(key, row.region, more)!;
        expect(s.score, JSON.stringify(more)).toBeGreaterThan(0);
        expect(s.for.length).toBeGreaterThan(0);
      }
      for (const more of row.against) {
        const s = suspect(key, row.region, more)!;
        expect(s.score, JSON.stringify(more)).toBeLessThan(0);
        expect(s.against.length).toBeGreaterThan(0);
      }
      // Nothing known, nothing said.
      expect(suspect(key, row.region, {})).toMatchObject({ score: 0, for: [], against: [] });
    });
  }
  it('says what decides and what to try, cheap things costing less than parts', () => {
    for (const [key, rule] of Object.entries(RULES)) {
      expect(rule.test.length, key).toBeGreaterThan(3);
      expect(rule.change.length, key).toBeGreaterThan(3);
    }
    expect(RULES.shoe.cost).toBeLessThan(RULES.cleatForward.cost);
    expect(RULES.cleatForward.cost).toBeLessThan(RULES.saddleNarrow.cost);
    expect(RULES.saddleNarrow.cost).toBeLessThan(RULES.crankLong.cost);
  });
});

describe('what the evidence is worth', () => {
  it('a film at the edge of a band counts for less than one beyond it', () => {
    const score = (verdict: 'high' | 'edge-high'): number =>
      suspect('saddleLow', 'kneeFront', { measures: [seen('kneeFlexionMinDeg', 44, verdict)] })!.score;
    expect(score('edge-high')).toBeGreaterThan(0);
    expect(score('edge-high')).toBeLessThan(score('high'));
  });
  it('a difference of the sides within its doubt says nothing', () => {
    expect(
      suspect('legLength', 'crooked', { apart: apart('kneeFlexionMinDeg', 3.5, 'within-noise') })!.score,
    ).toBe(0);
  });
  it('which side of the pelvis is higher is said', () => {
    const said = (by: number): string =>
      suspect('pelvis', 'crooked', { apart: apart('pelvisMeanDeg', by) })!.for.join();
    expect(said(-3)).toContain('3.0° higher on the right');
    expect(said(3)).toContain('3.0° higher on the left');
  });
  it('a saddle height that errs the other way speaks against, by how much', () => {
    const s = suspect('saddleLow', 'kneeFront', {
      body: tested({ inseam: both(860) }),
      bike: { crank: { lengthMm: 170 }, saddle: { heightMm: 800 } },
    })!;
    // The highest start is 860 − 100 = 760, 0.883 · 860 = 759 or 1.09 · 860 − 170 = 767.
    expect(s.against).toEqual(['saddle height errs the other way by 33 mm']);
  });
  it('a cleat ahead of the head is said to be ahead', () => {
    const said = (mm: number): string =>
      suspect('cleatForward', 'calf', { bike: feet('cleatBehindMm', mm) })!.for.join();
    expect(said(-4)).toBe('cleat 4 mm ahead of the first head');
    expect(said(2)).toBe('cleat only 2 mm behind the first head');
  });
  it('side and onset of the complaint count where the handbook says so', () => {
    const of = (key: SuspectKey, complaint: Parameters<typeof aches>[1]): number =>
      rankSuspects(caseOf({ intake: { complaints: [aches('footOutside', complaint)] } }))[0].suspects.find(
        (s) => s.key === key,
      )!.score;
    expect(of('shoe', { onset: 'at-once' })).toBeGreaterThan(0);
    expect(of('shoe', { onset: 'builds-up' })).toBe(0);
    expect(of('stanceNarrow', { onset: 'builds-up', side: 'both' })).toBeGreaterThan(0);
    expect(of('stanceNarrow', { onset: 'builds-up', side: 'left' })).toBe(0);
    expect(of('saddleHigh', { side: 'left' })).toBeGreaterThan(0);
    expect(of('saddleHigh', { side: 'both' })).toBe(0);
  });
  it('a complaint that is gone raises nobody', () => {
    const gone = aches('hands', { goneIso: '2026-11-20T10:00:00.000Z' });
    expect(rankSuspects(caseOf({ intake: { complaints: [gone] } }))).toEqual([]);
  });
  it('an old injury told at length is quoted in short', () => {
    const s = suspect('oldInjury', 'crooked', { intake: { past: `${'knee, '.repeat(40)}` } })!;
    expect(s.for[0].length).toBeLessThan(75);
    expect(s.for[0].endsWith('…')).toBe(true);
    expect(suspect('oldInjury', 'crooked', { intake: { past: '   ' } })!.score).toBe(0);
  });
});

describe('tests on the bike', () => {
  it('every answer that can be given is heard by somebody, or is the plain one', () => {
    const heard = (key: string, answer: string): SuspectKey[] =>
      (Object.keys(RULES) as SuspectKey[]).filter((s) => onBikeEvidence(s, { [key]: answer }).length > 0);
    for (const test of ON_BIKE) {
      const answers = test.options.map(([k]) => heard(test.key, k).length);
      // At least one of the findings must say something, or the test need not be done.
      expect(Math.max(...answers), test.key).toBeGreaterThan(0);
    }
  });
  it('is quoted with the answer in its own words', () => {
    expect(onBikeEvidence('reachLong', { reachTest: 'falls' })[0].text).toContain('falls on to the hands');
    expect(onBikeEvidence('reachLong', {})).toEqual([]);
    expect(onBikeEvidence('noseUp', { slides: 'yes' })).toEqual([]);
  });
});

it('every complaint has its suspects, each once, and no suspect is without a complaint', () => {
  const named = new Set<SuspectKey>();
  for (const { key } of REGIONS) {
    const list = rankSuspects(caseOf({ intake: { complaints: [aches(key)] } }))[0].suspects;
    expect(new Set(list.map((s) => s.key)).size, key).toBe(list.length);
    for (const s of list) named.add(s.key);
  }
  expect((Object.keys(RULES) as SuspectKey[]).filter((k) => !named.has(k))).toEqual([]);
});
