import { describe, expect, it } from 'vitest';
import { bikeWith } from '../plan/blankCase.fixture.ts';
import { aheadOf, NO_WIDTH, scaleFromWidth } from './frontalScale.ts';

describe('a width across the bike', () => {
  const width = { ...NO_WIDTH, mm: 400, right: { x: 300, y: 500 }, left: { x: 500, y: 500 } };
  it('gives the scale, whichever side of the picture the rider’s right is on', () => {
    expect(scaleFromWidth(width)).toEqual({ ok: true, mmPerPx: 2, tiltDeg: 0 });
    expect(scaleFromWidth({ ...width, right: width.left, left: width.right })).toEqual({
      ok: true,
      mmPerPx: 2,
      tiltDeg: 0,
    });
  });
  it('gives the tilt as how far it falls towards the picture’s right', () => {
    const by = 200 * Math.tan((3 * Math.PI) / 180);
    for (const turned of [false, true]) {
      const [a, b] = [
        { x: 300, y: 500 },
        { x: 500, y: 500 + by },
      ];
      const r = scaleFromWidth({ ...width, right: turned ? b : a, left: turned ? a : b });
      expect(r.ok && r.tiltDeg).toBeCloseTo(3, 9);
      expect(r.ok && r.mmPerPx).toBeCloseTo(400 / Math.hypot(200, by), 9);
    }
  });
  it('says what is missing', () => {
    expect(scaleFromWidth(NO_WIDTH)).toEqual({ ok: false, reason: 'points-missing' });
    expect(scaleFromWidth({ ...width, left: null })).toMatchObject({ reason: 'points-missing' });
    expect(scaleFromWidth({ ...width, left: { x: 304, y: 500 } })).toMatchObject({
      reason: 'points-coincide',
    });
    for (const mm of [null, 0, -5])
      expect(scaleFromWidth({ ...width, mm })).toMatchObject({ reason: 'width-missing' });
    expect(scaleFromWidth({ ...width, left: { x: NaN, y: 0 } })).toMatchObject({ reason: 'points-coincide' });
  });
  it('lies ahead of the bottom bracket as the bike has it, or as on a middling one', () => {
    const bike = bikeWith({
      frame: { reachMm: 392, frontCentreMm: 612, chainstayMm: 425 },
      stem: { lengthMm: 80 },
    });
    expect(aheadOf('pedals', 'front', bike)).toBe(0);
    expect(aheadOf('bar', 'front', bike)).toBe(472);
    expect(aheadOf('hub', 'front', bike)).toBe(612);
    expect(aheadOf('hub', 'rear', bike)).toBe(-425);
    expect(aheadOf('bar', 'front', bikeWith({}))).toBe(475);
    expect(aheadOf('hub', 'rear', bikeWith({}))).toBe(-410);
  });
});
