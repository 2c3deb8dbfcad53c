import { describe, expect, it } from 'vitest';
import { caseFor, demoCase, riderOf } from '../../scripts/plans/cases.ts';
import { DOSSIERS } from '../../scripts/demo/dossiers.ts';
import { ridden } from '../../sim/answer.ts';
import type { VirtualRider } from '../../sim/rider.ts';
import { conflicts, kneesApart, retrain, stillOut } from './afterwards.ts';
import { tested } from './blankCase.fixture.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import type { PlanCase } from './plan.ts';
import { prescribe } from './prescribe.ts';
import { protocolById, type MeasureKey } from '../protocol/protocols.ts';

const maren = demoCase('maren');
const still = { sitMm: { x: 0, y: 0 }, handMm: { x: 0, y: 0 }, crankMm: 0, cleatBackMm: 0, stackMm: 0 };
/** Maren with her saddle moved under her, all of it taken by the knee. */
const raised = (mm: number): VirtualRider => {
  const then = ridden(
    riderOf('maren'),
    { ...still, sitMm: { x: -0.29 * mm, y: 0.96 * mm }, handMm: { x: 0, y: mm } },
    { kappa: 0, rho: 0 },
  );
  if (!then) throw new Error('out of reach');
  return then;
};
const measure = (
  key: MeasureKey,
  value: number,
  verdict: MeasureReading['verdict'],
  band: MeasureReading['band'],
): MeasureReading => ({
  ...maren.measures[0],
  key,
  value,
  verdict,
  band,
  uncertainty: 2,
  unit: key.endsWith('Mm') ? 'mm' : '°',
});

describe('an over-straight knee with a flat foot', () => {
  const straight = measure('kneeFlexionMinDeg', 26, 'low', { low: 33, high: 42 });
  const pitch = (v: number): MeasureReading => measure('footPitch180Deg', v, 'in', { low: 8, high: 28 });
  const offered = (measures: MeasureReading[], saddleUp: number): number =>
    retrain({ ...maren, measures }, { saddleUp }).length;
  it('has two answers: lower the saddle, or retrain the foot and judge again', () => {
    const [other] = retrain({ ...maren, measures: [straight, pitch(9)] }, { saddleUp: -6 });
    expect(other).toMatchObject({ stage: 'saddle', moves: {} });
    expect(other.words).toContain('retrain the foot');
  });
  it('a foot that points already, a knee that is bent, a saddle that stays: nothing to retrain', () => {
    expect(offered([straight, pitch(20)], -6)).toBe(0);
    expect(offered([{ ...straight, verdict: 'in' }, pitch(9)], -6)).toBe(0);
    expect(offered([straight, pitch(9)], 0)).toBe(0);
    expect(offered([straight], -6)).toBe(0);
    // The band of a stiff ankle may have no lower end.
    expect(offered([straight, { ...pitch(9), band: { low: null, high: 28 } }], -6)).toBe(0);
  });
  it('stands among the alternatives of a real plan', () => {
    const high = { ...raised(34), footPitchMeanDeg: riderOf('maren').footPitchMeanDeg - 11 };
    const c = caseFor({ right: high }, DOSSIERS.maren, protocolById('long-distance'));
    const plan = prescribe({ ...c, suspects: [] });
    expect(plan.total.saddleUp).toBeLessThan(0);
    expect(plan.alternatives.some((a) => a.words?.startsWith('retrain the foot'))).toBe(true);
  });
});

describe('two legs', () => {
  const both = (left: number, right: number): PlanCase =>
    caseFor({ left: raised(left), right: raised(right) }, DOSSIERS.maren, protocolById('long-distance'));
  const said = (c: PlanCase, body = c.body): string => prescribe({ ...c, body }).conflicts.join(' ');
  it('that want the saddle elsewhere are told apart, not averaged', () => {
    const c = both(0, 24);
    const words = said(c);
    expect(words).toMatch(/the (left|right) leg wants it .* the (left|right) leg .*: \d+ mm apart/);
    const by = Number(/(\d+) mm apart/.exec(words)![1]);
    expect(by).toBeGreaterThan(10);
    expect(said(both(6, 6))).toBe('');
  });
  it('are apart for sure beyond their doubts, and by three degrees at least', () => {
    const apart = kneesApart(both(0, 24))!;
    // The left knee, on the lower saddle, stays more bent.
    expect(apart.byDeg).toBeGreaterThan(6);
    expect(apart.sure).toBe(true);
    expect(kneesApart(both(0, 3))!.sure).toBe(false);
    expect(kneesApart(maren)).toBeNull();
  });
  it('of a true difference over six millimetres a clinician is named', () => {
    const legs = tested({ malleoliTraction: { both: 9 }, malleoliSitUp: { both: 9 } });
    const solve = { sides: [] } as unknown as Parameters<typeof conflicts>[0];
    expect(conflicts(solve, {}, { ...maren, body: legs }).join()).toContain('clinician');
    expect(conflicts(solve, {}, maren)).toEqual([]);
  });
});

const isOut = (v: MeasureReading['verdict']): boolean => v === 'low' || v === 'high';

describe('what stays out', () => {
  const open = (measures: MeasureReading[], more: Partial<PlanCase> = {}): string[] =>
    stillOut({ ...maren, ...more, measures }, null, maren.sides).map((o) => o.words);
  const out = (key: MeasureKey): MeasureReading => measure(key, 99, 'high', { low: null, high: 50 });
  it('is named with what it calls for, each in its own words', () => {
    expect(open([out('ankleRangeDeg')])[0]).toContain('cadence drills');
    expect(open([out('kneePathWidthMm')])[0]).toContain('stance first');
    expect(open([out('hipVerticalTravelMm')])[0]).toContain('goes with saddle height');
    expect(open([out('elbowFlexionDeg')])[0]).toContain('soft elbows');
    expect(open([out('backAngleDeg')])[0]).toContain('worth its price');
  });
  it('the school of balance only reports the plumb line', () => {
    const balance = { schools: { ...maren.schools, foreAft: 'balance' as const } };
    expect(open([out('kneeOverSpindleMm')], balance)[0]).toContain('the balance test decides');
    expect(open([out('kneeOverSpindleMm')])[0]).not.toContain('balance');
  });
  it('what is in its band, at its edge, or foretold to come back is not named', () => {
    expect(
      open([
        { ...out('backAngleDeg'), verdict: 'in' },
        { ...out('elbowFlexionDeg'), verdict: 'edge-high' },
      ]),
    ).toEqual([]);
    const plan = prescribe(maren);
    const back = plan.forecast?.ok
      ? plan.forecast.measures.filter((m) => !isOut(m.verdict) && isOut(m.verdictBefore))
      : [];
    expect(back.length).toBeGreaterThan(0);
    for (const m of back) expect(plan.open.map((o) => o.key)).not.toContain(m.key);
  });
});
