import { expect, it } from 'vitest';
import { CATALOGUE } from '../../app/demo/catalogue.ts';
import { CAST, FRONTAL_CAST } from '../../sim/cast.ts';
import { filmed, FILMED_MM_PER_PX } from '../../sim/filmed.ts';
import { filmedFrontal, FRONTAL_BODY } from '../../sim/frontal.ts';
import { readFrontal } from '../kinematics/readFrontal.ts';
import { readTracks } from '../kinematics/read.ts';
import { notMeasured } from '../visit/notMeasured.ts';
import { workFindings } from './findings.ts';
import { judgeReading } from './measures.ts';
import { protocolById } from './protocols.ts';

const reading = readTracks(filmed({ rider: CAST[0].scene.rider, noisePx: 0.2 }), {
  mmPerPx: FILMED_MM_PER_PX,
});
if (!reading.ok) throw new Error(reading.detail);
const measures = judgeReading(reading, protocolById('long-distance'));

it('findings say how far out, by their sign, and how sure, by their uncertainty', () => {
  const [base] = measures;
  const at = (value: number) =>
    workFindings(reading, [{ ...base, value, uncertainty: 2, band: { low: 30, high: 40 } }])[0];
  expect(at(35)).toMatchObject({ off: 0, sureness: 'inside' });
  expect(at(41)).toMatchObject({ off: 1, sureness: 'open' });
  expect(at(27)).toMatchObject({ off: -3, sureness: 'sure' });
  expect(at(46)).toMatchObject({ off: 6, sureness: 'beyond-doubt' });
});

it('each shows on the frame where it is most so', () => {
  const findings = workFindings(reading, measures);
  const frameOf = (key: string): number => findings.find((f) => f.key === key)!.frame;
  const theta = (frame: number): number => ((reading.thetaDeg[frame] % 360) + 360) % 360;
  const knee = reading.frameAnglesDeg.kneeFlexionDeg!;
  expect(knee[frameOf('kneeFlexionMinDeg')]).toBeLessThan(reading.angles.kneeFlexionDeg!.min + 1);
  expect(knee[frameOf('kneeFlexionMaxDeg')]).toBeGreaterThan(reading.angles.kneeFlexionDeg!.max - 1);
  expect(Math.abs(theta(frameOf('footPitch90Deg')) - 90)).toBeLessThan(6);
  expect(Math.abs(theta(frameOf('footPitch180Deg')) - 180)).toBeLessThan(6);
  expect(frameOf('hipVerticalTravelMm')).toBe(-1);
});

it('what was not measured is said: the other leg until it is filmed, other holds until they are', () => {
  const pilar = CATALOGUE.sessions.find((s) => s.riderId === 'pilar')!;
  const what = (s: typeof pilar): string[] => notMeasured(s, reading).map((m) => m.what);
  expect(what(pilar)).toContain('The left leg');
  const [take] = pilar.takes;
  const both = {
    ...pilar,
    takes: [take, { ...take, id: 'left', view: 'nonDrive' as const, position: 'drops' as const }],
  };
  expect(what(both).join()).not.toMatch(/leg|holds/);
});

it('a film from the front joins the findings, and what each film lacks is named', () => {
  const tracks = filmedFrontal({
    rider: CAST[0].scene.rider,
    body: FRONTAL_BODY,
    view: 'front',
    camera: FRONTAL_CAST[0].scene.camera,
    seconds: 6,
    rate: 60,
  });
  const front = readFrontal(tracks, { view: 'front', centrePx: { x: 360, y: 360 }, crankMm: 172.5 });
  if (!front.ok) throw new Error(front.detail);
  const protocol = protocolById('long-distance');
  const both = judgeReading(reading, protocol, front);
  expect(both).toHaveLength(measures.length + 1);
  const path = both.find((m) => m.key === 'kneePathWidthMm')!;
  expect(path.value).toBe(Math.max(front.legs.left.pathWidthMm.value, front.legs.right.pathWidthMm.value));
  expect(path).toMatchObject({ verdict: 'in', unit: 'mm', provisional: false });
  // From the front alone: its own measure, and nothing invented.
  const alone = judgeReading(null, protocol, front);
  expect(alone.map((m) => m.key)).toEqual(['kneePathWidthMm']);
  expect(workFindings(null, alone)[0].frame).toBe(-1);
  const pilar = CATALOGUE.sessions.find((s) => s.riderId === 'pilar')!;
  const missing = (s: typeof pilar) => notMeasured(s, reading).map((m) => `${m.what}: ${m.why}`);
  expect(missing(pilar)).toContain('Pelvis tilt: sacrum and ASIS are not marked');
  expect(missing(pilar).join()).toContain('there is no film from the front or the rear');
  expect(missing(pilar).join()).toContain('no goniometer reading');
  const more = {
    ...pilar,
    takes: [...pilar.takes, { ...pilar.takes[0], id: 'f', view: 'front' as const }],
    statics: { ...pilar.statics, kneeFlexionDeg: { left: null, right: 31, both: null } },
  };
  expect(missing(more).join()).not.toMatch(/front or the rear|goniometer/);
});

it('every part of a ± is there, and none is larger than the whole', () => {
  for (const m of measures) {
    const whole = Math.hypot(...Object.values(m.parts));
    expect(m.uncertainty, m.key).toBeCloseTo(1.96 * whole, 6);
    for (const part of Object.values(m.parts)) expect(1.96 * part).toBeLessThanOrEqual(m.uncertainty + 1e-9);
  }
});
