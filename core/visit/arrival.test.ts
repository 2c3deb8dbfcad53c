import { describe, expect, it } from 'vitest';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { comfortable, satAnew } from '../../sim/human.ts';
import { ridden } from '../../sim/answer.ts';
import { seededRandom } from '../../sim/random.ts';
import type { VirtualRider } from '../../sim/rider.ts';
import { NO_EFFECTS, type Effects } from '../model/effects.ts';
import { judgeReading } from '../protocol/measures.ts';
import { protocolById } from '../protocol/protocols.ts';
import { readTracks, type Reading } from '../kinematics/read.ts';
import { arrivalOf, isSameFilm } from './arrival.ts';
import { changeBy, ownRide } from '../protocol/ownRide.ts';

const random = seededRandom(12);
const rider = ((): VirtualRider => {
  for (;;) {
    const r = comfortable(random);
    if (r) return r;
  }
})();
const read = (of: VirtualRider, seed: number): Reading => {
  const r = readTracks(filmed({ rider: satAnew(of, seededRandom(seed)), seconds: 5, noisePx: 0.2, seed }), {
    mmPerPx: FILMED_MM_PER_PX,
    levelDeg: 0,
    crankMm: of.crankMm,
  });
  if (!r.ok) throw new Error(r.detail);
  return r;
};
const back = (mm: number): Effects => ({ ...NO_EFFECTS, sitMm: { x: -mm, y: 0 } });
const movedBack = (mm: number): VirtualRider =>
  ridden(
    rider,
    { sitMm: { x: -mm, y: 0 }, handMm: { x: 0, y: 0 }, crankMm: 0, cleatBackMm: 0, stackMm: 0 },
    { kappa: 0.35, rho: 0.5 },
  )!;

describe('a change on the log against the film', () => {
  it('one film chosen twice is told, two rides are not', () => {
    const a = read(rider, 1);
    expect(isSameFilm(a, { ...a })).toBe(true);
    expect(arrivalOf(a, { ...a }, back(10)).kind).toBe('same-film');
    expect(isSameFilm(a, read(rider, 2))).toBe(false);
  });
  it('a setback that is on the log and not in the film is contradicted, one that is in it has arrived', () => {
    let [caught, arrived, wronged] = [0, 0, 0];
    for (let k = 0; k < 8; k += 1) {
      const first = read(rider, 20 + k);
      caught += Number(arrivalOf(first, read(rider, 60 + k), back(24)).kind === 'contradicted');
      const kind = arrivalOf(first, read(movedBack(24), 60 + k), back(24)).kind;
      arrived += Number(kind === 'arrived');
      wronged += Number(kind === 'contradicted');
    }
    expect(caught).toBeGreaterThanOrEqual(6);
    expect(arrived).toBeGreaterThanOrEqual(6);
    expect(wronged).toBe(0);
  });
  it('what is smaller than sitting elsewhere is not seen either way', () => {
    expect(arrivalOf(read(rider, 3), read(rider, 4), back(3)).kind).toBe('unseen');
    expect(arrivalOf(read(rider, 3), read(rider, 4), NO_EFFECTS).kind).toBe('unseen');
  });
});

describe('a rider’s own ride to ride', () => {
  const measures = (r: Reading) => judgeReading(r, protocolById('long-distance'));
  const a = measures(read(rider, 5));
  it('is learned from the first set-up filmed twice, and rules what is a real change', () => {
    const knee = a.find((m) => m.key === 'kneeFlexionMinDeg')!;
    const of = (by: number) =>
      ownRide([[a, a.map((m) => (m.key === knee.key ? { ...m, value: m.value + by } : m))]]);
    const [calm, restless] = [of(0), of(6)];
    expect(calm[knee.key]!).toBeLessThan(knee.parts.ride);
    expect(restless[knee.key]!).toBeGreaterThan(1.5 * knee.parts.ride);
    expect(changeBy(knee, calm)).toBeLessThan(knee.change);
    expect(changeBy(knee, restless)).toBeGreaterThan(knee.change);
    expect(changeBy(knee, {})).toBe(knee.change);
  });
});
