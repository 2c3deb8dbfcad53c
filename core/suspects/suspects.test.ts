import { describe, expect, it } from 'vitest';
import { resolveBike } from '../bike/resolve.ts';
import { UNMEASURED_BIKE, type BikeSetup } from '../bike/setup.ts';
import { NOT_TESTED, UNTESTED_BODY, type BodyRecord } from '../body/tests.ts';
import { BLANK_INTAKE, filmingHeldBack, REGIONS, type Intake, type RegionKey } from '../intake/intake.ts';
import { adjustBands } from '../protocol/adjust.ts';
import { protocolById } from '../protocol/protocols.ts';
import { rankSuspects, type Suspect } from './suspects.ts';
import type { CaseFile } from './evidence.ts';

const aching = (region: RegionKey, severity = 5): Intake => ({
  ...BLANK_INTAKE,
  complaints: [
    { id: region, region, side: 'both', severity, onset: 'after', since: '', eases: '', goneIso: null },
  ],
});
const raised = (deg: number): BodyRecord => ({
  ...UNTESTED_BODY,
  results: { straightLegRaise: { ...NOT_TESTED, left: deg, right: deg + 2 } },
});
const suspectsOf = (
  intake: Intake,
  more: { body?: BodyRecord; bike?: BikeSetup; measures?: CaseFile['measures'] } = {},
): Suspect[] => {
  const bike = more.bike ?? UNMEASURED_BIKE;
  return rankSuspects({
    intake,
    body: more.body ?? UNTESTED_BODY,
    bike,
    resolved: resolveBike(bike),
    measures: more.measures ?? [],
  })[0].suspects;
};

describe('suspects', () => {
  it('every region has some, and without evidence the cheap ones lead', () => {
    for (const { key } of REGIONS) {
      const list = suspectsOf(aching(key));
      expect(list.length, key).toBeGreaterThan(1);
      expect(list.every((s) => s.score === 0)).toBe(true);
      for (let k = 1; k < list.length; k += 1) expect(list[k].cost).toBeGreaterThanOrEqual(list[k - 1].cost);
    }
  });
  it('the film speaks louder than a guess, for and against', () => {
    const knee = { key: 'kneeFlexionMinDeg', value: 48, unit: '°', verdict: 'high' } as const;
    const low = suspectsOf(aching('kneeFront'), { measures: [knee] });
    expect(low[0].key).toBe('saddleLow');
    expect(low[0].for[0]).toContain('48° in the film, above its band');
    const fine = suspectsOf(aching('kneeFront'), { measures: [{ ...knee, value: 37, verdict: 'in' }] });
    expect(fine.at(-1)!.key).toBe('saddleLow');
    expect(fine.at(-1)!.against).toHaveLength(1);
  });
  it('listens to body and bike', () => {
    expect(suspectsOf(aching('kneeBehind'), { body: raised(50) })[0].key).toBe('hamstrings');
    const tilted = { ...UNMEASURED_BIKE, saddle: { ...UNMEASURED_BIKE.saddle, tiltDeg: -5 } };
    expect(suspectsOf(aching('hands'), { bike: tilted })[0]).toMatchObject({
      key: 'noseDown',
      for: ['saddle 5° nose-down'],
    });
    const level = { ...tilted, saddle: { ...tilted.saddle, tiltDeg: 0 } };
    expect(suspectsOf(aching('hands'), { bike: level }).at(-1)!.key).toBe('noseDown');
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
      measures: [],
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
  it('adds findings up, keeps floors under ceilings, halves the steps of the returning', () => {
    const stiff: BodyRecord = {
      ...UNTESTED_BODY,
      results: { ...raised(45).results, hinge: { ...NOT_TESTED, both: 'round' } },
    };
    const a = adjustBands(protocol, stiff, { ...BLANK_INTAKE, returning: true });
    expect(a.bands.backAngleDeg).toEqual({ low: back.low! + 15, high: back.low! + 20 });
    expect(a.bands.shoulderAngleDeg.high).toBe(shoulder.high! - 5);
    expect(a.halfSteps).toBe(true);
    expect(adjustBands(protocol, UNTESTED_BODY, { ...BLANK_INTAKE, ageYears: 61 }).halfSteps).toBe(true);
    expect(adjustBands(protocol, UNTESTED_BODY, BLANK_INTAKE).halfSteps).toBe(false);
  });
});

it('filming waits for consent, for a minor’s guardian’s', () => {
  expect(filmingHeldBack(BLANK_INTAKE)).toContain('rider’s consent');
  expect(filmingHeldBack({ ...BLANK_INTAKE, ageYears: 15 })).toContain('guardian');
  expect(
    filmingHeldBack({ ...BLANK_INTAKE, filmConsent: { givenIso: '2026-11-23T09:00:00.000Z', by: 'A' } }),
  ).toBeNull();
});
