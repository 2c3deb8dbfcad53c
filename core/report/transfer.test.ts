import { describe, expect, it } from 'vitest';
import { DEMO_PARTS } from '../../app/demo/parts.ts';
import { DOSSIERS } from '../../scripts/demo/dossiers.ts';
import { resolveBike } from '../bike/resolve.ts';
import { UNMEASURED_BIKE, type BikeSetup } from '../bike/setup.ts';
import { applyMoves } from '../plan/controls/controls.ts';
import { asReported, coordinatesApart, coordinatesOf } from './position.ts';
import { transfer } from './transfer.ts';

const bike = DOSSIERS.maren.asFound;
const { parts } = DEMO_PARTS;

/** Another frame: stack, reach, seat angle and seat tube by so much. */
function frame(
  by: { stack?: number; reach?: number; seat?: number; tube?: number },
  more: Partial<BikeSetup> = {},
): BikeSetup {
  const f = bike.frame;
  return {
    ...bike,
    ...more,
    frame: {
      ...f,
      stackMm: f.stackMm! + (by.stack ?? 0),
      reachMm: f.reachMm! + (by.reach ?? 0),
      seatAngleDeg: f.seatAngleDeg + (by.seat ?? 0),
      seatTubeMm: 520 + (by.tube ?? 0),
    },
  };
}

describe('transfer to another frame', () => {
  it('onto the same frame asks for the same saddle and the front that is on it', () => {
    const t = transfer(bike, frame({}), parts);
    expect(t.misses).toEqual([]);
    expect(t.saddle!.heightMm).toBeCloseTo(bike.saddle.heightMm!, 6);
    expect(t.saddle!.setback80Mm).toBeCloseTo(bike.saddle.setback80Mm!, 6);
    expect(t.hands!.builds[0].missMm).toBeLessThan(0.5);
    expect(t.hands!.builds[0].moves).toEqual({});
  });

  it('onto a smaller frame: more post, a longer stem or more spacers, each front’s hoods where the words say', () => {
    const small = frame({ stack: -28, reach: -12, tube: -40 });
    const t = transfer(bike, small, parts);
    const same = transfer(bike, frame({}), parts);
    expect(t.saddle!.postShowingMm!).toBeCloseTo(same.saddle!.postShowingMm! + 40, 6);
    expect(t.saddle!.heightMm).toBeCloseTo(bike.saddle.heightMm!, 6);
    for (const f of t.hands!.builds) {
      const hood = resolveBike(applyMoves(small, f.moves)).points.hood!;
      expect(hood.x - t.hands!.wantedHood.x).toBeCloseTo(f.offMm.x, 4);
      expect(hood.y - t.hands!.wantedHood.y).toBeCloseTo(f.offMm.y, 4);
    }
    expect(t.hands!.builds.map((f) => Math.round(f.missMm))).toEqual(
      t.hands!.builds.map((f) => Math.round(f.missMm)).sort((a, b) => a - b),
    );
  });

  it('onto a much larger frame: what can’t be reached is told with its miss', () => {
    const large = frame({ stack: 95, reach: 115, tube: 130 }, { stem: { ...bike.stem, spacersMm: 0 } });
    const t = transfer(bike, large, parts);
    // The seat tube ends where the post would have to be.
    const height = t.misses.find((m) => m.what === 'Saddle height')!;
    expect(height.words).toMatch(/too high: the post is all the way in/);
    expect(t.saddle!.heightMm - bike.saddle.heightMm!).toBeCloseTo(height.missMm, 0);
    const hands = t.misses.find((m) => m.what === 'Hands')!;
    expect(hands.words).toMatch(/ahead|above/);
    // Saddle first: the hands keep their distance to where the saddle really stands.
    const lift = t.saddle!.reachedSit.y - t.saddle!.wantedSit.y;
    const byHands = transfer(bike, large, parts, 'hands');
    expect(t.hands!.wantedHood.y - byHands.hands!.wantedHood.y).toBeCloseTo(lift, 6);
  });

  it('carries cranks and pedals into the saddle’s height', () => {
    const t = transfer(
      bike,
      frame({}, { crank: { ...bike.crank, lengthMm: 165 }, pedals: { ...bike.pedals, stackMm: 14 } }),
      parts,
    );
    expect(t.carriedMm).toBeCloseTo(7.5 + 3, 9);
    expect(t.carried).toHaveLength(2);
    expect(t.saddle!.heightMm).toBeCloseTo(bike.saddle.heightMm! + 10.5, 6);
    // The seat's direction stays: knee and hip see the same seat angle.
    const a = resolveBike(bike).seatAngleDeg!;
    const { reachedSit: s } = t.saddle!;
    expect((Math.atan2(s.y, -s.x) * 180) / Math.PI).toBeCloseTo(a, 6);
  });

  it('a sole that is not known of the other bike is taken as the same shoe', () => {
    const shoe = { ...bike.feet.left, soleStackMm: 8 };
    const worn = { ...bike, feet: { left: shoe, right: shoe } };
    const open = { ...shoe, soleStackMm: null };
    expect(transfer(worn, { ...frame({}), feet: { left: open, right: open } }, parts).carriedMm).toBe(0);
    const thin = { ...shoe, soleStackMm: 5 };
    const t = transfer(worn, { ...frame({}), feet: { left: thin, right: thin } }, parts);
    expect(t.carriedMm).toBeCloseTo(-3, 9);
    expect(t.carried).toEqual(['pedal and sole −3 mm: saddle −3 mm']);
  });

  it('a steeper or slacker seat tube is taken up by offset and rails, and told where they end', () => {
    const slack = transfer(bike, frame({ seat: -4 }), parts);
    const steep = transfer(bike, frame({ seat: 3 }), parts);
    expect(steep.saddle!.postOffsetMm).toBeGreaterThanOrEqual(slack.saddle!.postOffsetMm);
    const far = transfer(bike, frame({ seat: -12 }), parts);
    const miss = far.misses.find((m) => m.what === 'Setback')!;
    expect(miss.words).toMatch(/too far back/);
    expect(far.saddle!.setback80Mm - bike.saddle.setback80Mm!).toBeCloseTo(miss.missMm, 0);
  });

  it('says what has to be known first, and invents nothing', () => {
    const bare = transfer(
      bike,
      { ...frame({}), frame: { ...bike.frame, stackMm: null, seatTubeMm: null } },
      parts,
    );
    expect(bare.open.join()).toMatch(/stack, reach and head angle/);
    expect(bare.saddle!.postShowingMm).toBeNull();
    expect(bare.hands).toBeNull();
    const none = transfer({ ...bike, saddle: { ...bike.saddle, heightMm: null } }, frame({}), parts);
    expect(none.saddle).toBeNull();
    expect(none.open.join()).toMatch(/saddle height/);
  });
});

describe('coordinates of a position', () => {
  const rows = coordinatesOf(bike, resolveBike(bike));
  it('have each a way of measuring, and say what is open', () => {
    expect(rows.every((r) => r.how.length > 10)).toBe(true);
    expect(rows.find((r) => r.key === 'height')).toMatchObject({
      value: bike.saddle.heightMm,
      from: 'measured',
    });
    expect(rows.find((r) => r.key === 'spindle')).toMatchObject({
      value: bike.saddle.heightMm! + bike.crank.lengthMm!,
      from: 'computed',
    });
    expect(rows.find((r) => r.key === 'barRotation')!.value).toBe(0);
    const open = coordinatesOf({ ...bike, saddle: { ...bike.saddle, tiltDeg: null } }, resolveBike(bike));
    expect(open.find((r) => r.key === 'tilt')).toMatchObject({ value: null, from: 'open' });
  });
  it('tell what moved, and not what a tape does', () => {
    const to = applyMoves(bike, { saddleUp: 6, stemFlip: 1 });
    const apart = coordinatesApart(rows, coordinatesOf(to, resolveBike(to)));
    expect(apart.find((r) => r.name === 'Height to bottom bracket')).toMatchObject({
      to: bike.saddle.heightMm! + 6,
    });
    expect(apart.some((r) => r.name === 'Hood below saddle')).toBe(true);
    expect(apart.some((r) => r.name === 'Tilt')).toBe(false);
    expect(coordinatesApart(rows, rows)).toEqual([]);
  });
});

it('what lies over the saddle is told as such, without a sign', () => {
  const low = coordinatesOf(UNMEASURED_BIKE, resolveBike(UNMEASURED_BIKE)).find((c) => c.key === 'hoodDrop')!;
  expect(asReported({ ...low, value: 65 })).toMatchObject({ name: 'Hood below saddle', value: 65 });
  expect(asReported({ ...low, value: -65 })).toMatchObject({ name: 'Hood above saddle', value: 65 });
  expect(asReported({ ...low, key: 'tilt', value: -3 }).value).toBe(-3);
});
