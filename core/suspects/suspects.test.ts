import { describe, expect, it } from 'vitest';
import { resolveBike } from '../bike/resolve.ts';
import { UNMEASURED_BIKE, type BikeSetup } from '../bike/setup.ts';
import { NOT_TESTED, UNTESTED_BODY, type BodyRecord } from '../body/bodyTests.ts';
import { BLANK_INTAKE, filmingHeldBack, REGIONS, type Intake, type RegionKey } from '../intake/intake.ts';
import { adjustBands } from '../protocol/adjust.ts';
import { protocolById } from '../protocol/protocols.ts';
import { rankSuspects, type Suspect } from './suspects.ts';
import type { SuspectCase } from './evidence.ts';

const aching = (region: RegionKey, severity = 5): Intake => ({
  ...BLANK_INTAKE,
  complaints: [
    {
      id: region,
      region,
      side: 'both',
      words: '',
      severity,
      onset: 'after',
      since: '',
      eases: '',
      goneIso: null,
      carried: false,
    },
  ],
});
const raised = (deg: number): BodyRecord => ({
  ...UNTESTED_BODY,
  results: { straightLegRaise: { ...NOT_TESTED, left: deg, right: deg + 2 } },
});
const suspectsOf = (
  intake: Intake,
  more: {
    body?: BodyRecord;
    bike?: BikeSetup;
    measures?: SuspectCase['measures'];
    faults?: SuspectCase['faults'];
  } = {},
): Suspect[] => {
  const bike = more.bike ?? UNMEASURED_BIKE;
  return rankSuspects({
    intake,
    body: more.body ?? UNTESTED_BODY,
    bike,
    resolved: resolveBike(bike),
    measures: more.measures ?? {},
    faults: more.faults,
  })[0].suspects;
};

describe('suspects', () => {
  it('every region has some, and without evidence the cheap ones lead', () => {
    for (const { key } of REGIONS) {
      const list = suspectsOf(aching(key));
      expect(list.length, key).toBeGreaterThan(1);
      expect(list.every((s) => s.score === 0)).toBe(true);
      for (let k = 1; k < list.length; k += 1)
        expect(list[k].cost, key).toBeGreaterThanOrEqual(list[k - 1].cost);
    }
  });
  it('the film speaks louder than a guess, for and against', () => {
    const fault = (p: number): SuspectCase['faults'] => ({
      saddleLow: { whole: { p, text: 'knee at its straightest 48°' } },
    });
    const low = suspectsOf(aching('kneeFront'), { faults: fault(0.97) });
    expect(low[0]).toMatchObject({ key: 'saddleLow', for: ['knee at its straightest 48°'] });
    expect(low[0].score).toBeGreaterThan(1.2);
    const fine = suspectsOf(aching('kneeFront'), { faults: fault(0.02) }).find((s) => s.key === 'saddleLow')!;
    expect(fine.against).toHaveLength(1);
    expect(fine.score).toBeLessThan(-0.5);
  });
  it('one side is judged by its own film, and says so where that was not shot', () => {
    const faults: SuspectCase['faults'] = {
      saddleHigh: { whole: { p: 0.6, text: 'both' }, right: { p: 0.02, text: 'right knee 38°' } },
    };
    const of = (side: 'left' | 'right') => {
      const intake = aching('kneeBehind');
      return suspectsOf({ ...intake, complaints: [{ ...intake.complaints[0], side }] }, { faults }).find(
        (s) => s.key === 'saddleHigh',
      )!;
    };
    expect(of('right').against).toEqual(['right knee 38°']);
    expect(of('left')).toMatchObject({ for: [], against: [], score: 0 });
    expect(of('left').unknown.join()).toContain('left side was not filmed');
  });
  it('a secondary sign looked for and not found takes away a fifth of what it would have given', () => {
    const of = (deg: number): number =>
      suspectsOf(aching('kneeBehind'), { body: raised(deg) }).find((s) => s.key === 'hamstrings')!.score;
    expect(of(50)).toBeCloseTo(0.7, 2);
    expect(of(80)).toBeCloseTo(-0.14, 2);
  });
  it('counter-evidence alone brings nobody to the front', () => {
    const faults: SuspectCase['faults'] = {
      saddleLow: { whole: { p: 0.02, text: 'knee fine' } },
      saddleForward: { whole: { p: 0.02, text: 'plumb fine' } },
    };
    const bike = { ...UNMEASURED_BIKE, crank: { ...UNMEASURED_BIKE.crank, lengthMm: 165 } };
    const list = rankSuspects({
      intake: { ...aching('kneeFront'), changed: '' },
      body: UNTESTED_BODY,
      bike,
      resolved: resolveBike(bike),
      measures: {},
      faults,
      cadenceRpm: 92,
    })[0].suspects;
    expect(list[0].key).not.toBe('lowCadence');
    expect(list.find((s) => s.key === 'lowCadence')!.score).toBeLessThan(0);
  });
  it('build words start a question, the filmed knee over foot decides a stance', () => {
    const body: BodyRecord = {
      ...UNTESTED_BODY,
      results: { build: { ...NOT_TESTED, both: 'broad' }, height: { ...NOT_TESTED, both: 1900 } },
    };
    const words = suspectsOf(aching('kneeInside'), { body }).find((s) => s.key === 'stanceNarrow')!;
    expect(words.score).toBeLessThan(0.5);
    expect(words.unknown.join()).toContain('not filmed from ahead');
    const filmed = rankSuspects({
      intake: aching('kneeInside'),
      body,
      bike: UNMEASURED_BIKE,
      resolved: resolveBike(UNMEASURED_BIKE),
      measures: {},
      kneeOverFootMm: { left: { value: 24, uncertainty: 8 }, right: { value: 20, uncertainty: 8 } },
    })[0].suspects[0];
    expect(filmed).toMatchObject({ key: 'stanceNarrow' });
    expect(filmed.score).toBeGreaterThan(1);
  });
  it('listens to body and bike', () => {
    expect(suspectsOf(aching('kneeBehind'), { body: raised(50) })[0].key).toBe('hamstrings');
    const tilted = { ...UNMEASURED_BIKE, saddle: { ...UNMEASURED_BIKE.saddle, tiltDeg: -5 } };
    expect(suspectsOf(aching('hands'), { bike: tilted })[0]).toMatchObject({
      key: 'noseDown',
      for: ['saddle 5° nose-down'],
    });
    const level = { ...tilted, saddle: { ...tilted.saddle, tiltDeg: 0 } };
    expect(
      suspectsOf(aching('hands'), { bike: level }).find((s) => s.key === 'noseDown')!.score,
    ).toBeLessThan(0);
  });
  it('takes the worst complaint first', () => {
    const intake = {
      ...BLANK_INTAKE,
      complaints: [...aching('hands', 2).complaints, ...aching('lowBack', 8).complaints],
    };
    const all = rankSuspects({
      intake,
      body: UNTESTED_BODY,
      bike: UNMEASURED_BIKE,
      resolved: resolveBike(UNMEASURED_BIKE),
      measures: {},
    });
    expect(all.map((s) => s.complaint.region)).toEqual(['lowBack', 'hands']);
  });
});

describe('bands adjusted to the rider', () => {
  const protocol = protocolById('long-distance');
  const { kneeFlexionMinDeg: knee, backAngleDeg: back, shoulderAngleDeg: shoulder } = protocol.bands;
  it('moves them by the handbook’s amounts, each to be switched off', () => {
    // Raise 50°: 3 + 2 · (10 / 15) = 4.3 → 4. Knee 33…42 → 37…46; back floor 42 → 47.
    const a = adjustBands(protocol, raised(50), BLANK_INTAKE);
    expect(a.bands.kneeFlexionMinDeg).toEqual({ low: knee.low! + 4, high: knee.high! + 4 });
    expect(a.bands.backAngleDeg).toEqual({ low: back.low! + 5, high: back.high });
    const off = adjustBands(protocol, { ...raised(50), adjustmentsOff: ['tight-hamstrings'] }, BLANK_INTAKE);
    expect(off.bands).toEqual(protocol.bands);
    expect(off.adjustments[0]).toMatchObject({ on: false, shifts: [{ before: knee }, { before: back }] });
    expect(adjustBands(protocol, raised(72), BLANK_INTAKE).adjustments).toEqual([]);
    expect(adjustBands(protocol, raised(59), BLANK_INTAKE).bands.kneeFlexionMinDeg.low).toBe(knee.low! + 3);
    expect(adjustBands(protocol, raised(30), BLANK_INTAKE).bands.kneeFlexionMinDeg.low).toBe(knee.low! + 5);
  });
  it('several findings say one thing: the largest shift whole, the next by half, together at most 8°', () => {
    const stiff: BodyRecord = {
      ...UNTESTED_BODY,
      results: { ...raised(45).results, hinge: { ...NOT_TESTED, both: 'round' } },
    };
    const a = adjustBands(protocol, stiff, { ...BLANK_INTAKE, returning: true });
    expect(a.bands.backAngleDeg.low).toBe(back.low! + 7.5);
    expect(a.bands.backAngleDeg.high).toBe(back.high);
    expect(a.bands.shoulderAngleDeg.high).toBe(shoulder.high! - 5);
    expect(a.halfSteps).toBe(true);
    expect(adjustBands(protocol, UNTESTED_BODY, BLANK_INTAKE).halfSteps).toBe(false);
  });
  it('age alone halves steps and moves no band; a small rider’s knee may bend more at the top', () => {
    const old = adjustBands(protocol, UNTESTED_BODY, { ...BLANK_INTAKE, ageYears: 72 });
    expect(old.halfSteps).toBe(true);
    expect(old.bands).toEqual(protocol.bands);
    expect(adjustBands(protocol, UNTESTED_BODY, { ...BLANK_INTAKE, ageYears: 9 }).halfSteps).toBe(true);
    const small = (mm: number): number =>
      adjustBands(
        protocol,
        { ...UNTESTED_BODY, results: { height: { ...NOT_TESTED, both: mm } } },
        BLANK_INTAKE,
      ).bands.kneeFlexionMaxDeg.high!;
    expect([small(1580), small(1650), small(1800)]).toEqual([121, 120, 118]);
  });
  it('the hip’s floor is the higher of the band’s and the rider’s own from the table', () => {
    const floor = (deg: number, id = 'long-distance'): number =>
      adjustBands(
        protocolById(id),
        { ...UNTESTED_BODY, results: { hipFlexion: { ...NOT_TESTED, left: deg, right: deg } } },
        BLANK_INTAKE,
      ).bands.hipAngleMinDeg.low!;
    expect(floor(104)).toBe(60);
    expect(floor(130)).toBe(55);
    // 180 − 114 − 20, over the time trial's 40.
    expect(floor(114, 'time-trial')).toBe(46);
  });
});

it('filming waits for consent, for a minor’s guardian’s', () => {
  expect(filmingHeldBack(BLANK_INTAKE)).toContain('rider’s consent');
  expect(filmingHeldBack({ ...BLANK_INTAKE, ageYears: 15 })).toContain('guardian');
  expect(
    filmingHeldBack({ ...BLANK_INTAKE, filmConsent: { givenIso: '2026-11-23T09:00:00.000Z', by: 'A' } }),
  ).toBeNull();
});
