import { describe, expect, it } from 'vitest';
import { UNMEASURED_PART, type Part } from '../bike/parts.ts';
import type { RegionKey } from '../intake/intake.ts';
import { aches, caseOf, seen, tested } from './blankCase.fixture.ts';
import type { Moves } from './controls.ts';
import { crankInDoubt, proposals, USUAL_SCHOOLS, type Proposal, type ProposalCase } from './proposals.ts';
import { rankSuspects } from '../suspects/suspects.ts';

type More = Parameters<typeof caseOf>[0] & {
  schools?: Partial<ProposalCase['schools']>;
  parts?: readonly Part[];
  kneeApart?: ProposalCase['kneeApart'];
  hurts?: readonly RegionKey[];
};

/** A case with its suspects ranked as they would be. */
function caseFor({ schools, parts, kneeApart, hurts = [], ...more }: More): ProposalCase {
  const file = caseOf({
    ...more,
    intake: {
      ...more.intake,
      complaints: [...(more.intake?.complaints ?? []), ...hurts.map((r) => aches(r))],
    },
  });
  return {
    ...file,
    schools: { ...USUAL_SCHOOLS, ...schools },
    suspects: rankSuspects(file),
    parts: parts ?? [],
    kneeApart: kneeApart ?? null,
  };
}
const of = (key: string, more: More): Proposal | undefined =>
  proposals(caseFor(more)).find((p) => p.key === key);
const movesOf = (key: string, more: More): Moves | null => of(key, more)?.moves ?? null;
const sided = (v: number | string, w = v): { left: number | string; right: number | string } => ({
  left: v,
  right: w,
});
const cleats = (left: number | null, right: number | null): More['bike'] => ({
  feet: { left: { cleatBehindMm: left ?? undefined }, right: { cleatBehindMm: right ?? undefined } },
});
const part = (over: Partial<Part> & Pick<Part, 'kind' | 'name'>): Part => ({
  id: over.name,
  ...UNMEASURED_PART,
  ...over,
});

it('nothing known, nothing proposed', () => {
  expect(proposals(caseFor({}))).toEqual([]);
});

describe('cleats fore and aft', () => {
  it('a pair in a good place is left alone, whatever the school, but for the mid-foot', () => {
    for (const cleat of ['level', 'behind', 'between'] as const)
      expect(of('cleatBack', { bike: cleats(9, 9), schools: { cleat } })).toBeUndefined();
    const plates = of('cleatBack', { bike: cleats(9, 9), schools: { cleat: 'midfoot' } })!;
    expect(plates.moves['cleatBack.left']).toBeGreaterThanOrEqual(25);
    expect(plates.risk.join()).toContain('toe overlap');
  });
  it('ahead of the head it always goes back; merely forward only where something hurts for it', () => {
    expect(movesOf('cleatBack', { bike: cleats(-4, -4) })).toEqual({
      'cleatBack.left': 14,
      'cleatBack.right': 14,
    });
    expect(of('cleatBack', { bike: cleats(4, 4) })).toBeUndefined();
    const hurting = of('cleatBack', { bike: cleats(4, 4), hurts: ['calf'] })!;
    expect(hurting.moves).toEqual({ 'cleatBack.left': 6, 'cleatBack.right': 6 });
    expect(hurting.why.join()).toContain('calf');
    expect(hurting.check).toContain('2–3 mm');
  });
  it('of an unlike pair the odd one goes to its partner, and both where neither stands well', () => {
    expect(movesOf('cleatBack', { bike: cleats(10, 4) })).toEqual({ 'cleatBack.right': 6 });
    expect(movesOf('cleatBack', { bike: cleats(16, 11) })).toEqual({ 'cleatBack.left': -5 });
    expect(movesOf('cleatBack', { bike: cleats(1, 5) })).toEqual({
      'cleatBack.left': 9,
      'cleatBack.right': 5,
    });
  });
  it('whatever is moved, no pair is left that is unlike, and nothing more is asked for then', () => {
    for (const cleat of ['level', 'behind', 'between'] as const)
      for (let left = -8; left <= 16; left += 2)
        for (let right = -8; right <= 16; right += 3) {
          const moves = movesOf('cleatBack', { bike: cleats(left, right), schools: { cleat } });
          if (!moves) continue;
          const then = [
            left + (moves['cleatBack.left'] ?? 0),
            right + (moves['cleatBack.right'] ?? 0),
          ] as const;
          expect(Math.abs(then[0] - then[1]), `${cleat} ${left} ${right}`).toBeLessThan(3);
          expect(of('cleatBack', { bike: cleats(...then), schools: { cleat } })).toBeUndefined();
        }
  });
  it('one that was not measured is not moved', () => {
    expect(movesOf('cleatBack', { bike: cleats(null, -4) })).toEqual({ 'cleatBack.right': 14 });
  });
});

describe('cleats’ turn', () => {
  const turned = { feet: { left: { heelOutDeg: 0 }, right: { heelOutDeg: -6 } } };
  it('the foot that hurts turns halfway to its partner', () => {
    const hurts = (side: 'left' | 'right'): More => ({
      bike: turned,
      intake: { complaints: [aches('kneeInside', { side })] },
    });
    expect(movesOf('heelOut', hurts('right'))).toEqual({ 'heelOut.right': 3 });
    expect(movesOf('heelOut', hurts('left'))).toEqual({ 'heelOut.left': -3 });
  });
  it('nothing is turned for its own sake', () => {
    expect(of('heelOut', { bike: turned })).toBeUndefined();
    expect(
      of('heelOut', { bike: { feet: { left: { heelOutDeg: 0 } } }, hurts: ['kneeInside'] }),
    ).toBeUndefined();
  });
});

describe('wedges', () => {
  const tilted: More = {
    body: tested({ forefootTilt: sided(12, -9) }),
    measures: [seen('kneePathWidthMm', 50, 'high')],
  };
  it('only in the school of wedges, and by the foot’s own tilt', () => {
    expect(of('wedge', tilted)).toBeUndefined();
    expect(movesOf('wedge', { ...tilted, schools: { kneePath: 'wedge' } })).toEqual({
      'wedge.left': 1.5,
      'wedge.right': -1.5,
    });
  });
  it('not without a knee that shows it, not under a foot that has one, not for a little tilt', () => {
    const school = { kneePath: 'wedge' } as const;
    expect(of('wedge', { ...tilted, measures: [], schools: school })).toBeUndefined();
    expect(
      movesOf('wedge', { ...tilted, schools: school, bike: { feet: { left: { wedgeDeg: 1.5 } } } }),
    ).toEqual({ 'wedge.right': -1.5 });
    expect(
      of('wedge', { ...tilted, body: tested({ forefootTilt: sided(5) }), schools: school }),
    ).toBeUndefined();
  });
});

describe('stance', () => {
  const broad = tested({ build: { both: 'broad' } });
  const across = (left: number, right = left): More['bike'] => ({
    crank: { qFactorMm: 150 },
    pedals: { axleLengthMm: 53 },
    feet: { left: { cleatOutwardMm: left }, right: { cleatOutwardMm: right } },
  });
  it('an uneven pair is made even by the foot that stands further in', () => {
    const p = of('stanceEven', { bike: across(5, 0) })!;
    // The left cleat is out, so its foot is in: the cleat comes back to its partner's place.
    expect(p.moves).toEqual({ 'cleatOut.left': -5 });
    expect(of('stance', { bike: across(5, 0), hurts: ['footOutside'], body: broad })).toBeUndefined();
  });
  it('wider by the cleat first, by a washer for what the slots do not give', () => {
    const p = of('stance', { bike: across(0), hurts: ['footOutside'], body: broad })!;
    expect(p.moves).toEqual({ 'cleatOut.left': -4, 'cleatOut.right': -4 });
    const used = of('stance', { bike: across(-4), hurts: ['footOutside'], body: broad })!;
    expect(used.moves).toEqual({
      'cleatOut.left': -1,
      'cleatOut.right': -1,
      'washers.left': 1,
      'washers.right': 1,
    });
    expect(used.risk.join()).toContain('One washer only');
  });
  it('narrower where build and outside of the knee ask for it, never against the build', () => {
    const slight = tested({ build: { both: 'slight' } });
    expect(movesOf('stance', { bike: across(0), hurts: ['kneeOutside'], body: slight })).toEqual({
      'cleatOut.left': 4,
      'cleatOut.right': 4,
    });
    expect(of('stance', { bike: across(0), hurts: ['footOutside'], body: slight })).toBeUndefined();
  });
});

describe('a true leg-length difference', () => {
  const legs = (mm: number, sitting = mm): More['body'] =>
    tested({ malleoliTraction: { both: mm }, malleoliSitUp: { both: sitting }, tibia: sided(400, 400 + mm) });
  const shows = { byDeg: -5, sure: true };
  it('is treated by half, under the shorter leg, where it shows on the bike', () => {
    // The right leg is longer: the left one straightens more, left less right is negative.
    expect(movesOf('shim', { body: legs(6), kneeApart: shows })).toEqual({ 'shim.left': 3 });
    expect(
      movesOf('shim', {
        body: legs(6),
        kneeApart: shows,
        bike: { feet: { left: { shimMm: 2 } } },
      }),
    ).toEqual({ 'shim.left': 2 });
  });
  it('is left alone where it does not show, shows the other way round, is the pelvis’s, or was not filmed', () => {
    expect(of('shim', { body: legs(6), kneeApart: { byDeg: -5, sure: false } })).toBeUndefined();
    expect(of('shim', { body: legs(6), kneeApart: { byDeg: 5, sure: true } })).toBeUndefined();
    expect(of('shim', { body: legs(8, 0), kneeApart: shows })).toBeUndefined();
    expect(of('shim', { body: legs(6) })).toBeUndefined();
  });
  it('over six millimetres a clinician is named', () => {
    expect(of('shim', { body: legs(10), kneeApart: shows })!.risk.join()).toContain('clinician');
    expect(of('shim', { body: legs(5), kneeApart: shows })!.risk.join()).not.toContain('clinician');
  });
});

describe('saddle', () => {
  it('over three degrees of tilt is levelled to one; less only where something hurts for it', () => {
    const tilt = (tiltDeg: number, hurts: readonly RegionKey[] = []): Moves | null =>
      movesOf('saddleTilt', { bike: { saddle: { tiltDeg } }, hurts });
    expect(tilt(-6)).toEqual({ saddleTilt: 5 });
    expect(tilt(5)).toEqual({ saddleTilt: -4 });
    expect(tilt(-2.5)).toBeNull();
    expect(tilt(-2.5, ['hands'])).toEqual({ saddleTilt: 1.5 });
    expect(tilt(2.5, ['hands'])).toBeNull();
    expect(of('saddleTilt', { bike: { saddle: { tiltDeg: -6 } } })!.vanishes).toEqual([
      'sliding forward on to the bar',
    ]);
  });
  it('a width is taken from the bin by the school, or named where the bin has none', () => {
    const sore: More = {
      body: tested({ sitBones: { both: 120 } }),
      bike: { saddle: { widthMm: 138 } },
      hurts: ['sitBones'],
    };
    // Overall: 155 to 165 mm. The nearest to the middle that is there is taken, not one that is sold out.
    const bin = [
      part({ kind: 'saddle', name: 'Heron 158', widthMm: 158 }),
      part({ kind: 'saddle', name: 'Heron 160', widthMm: 160, count: 0 }),
      part({ kind: 'saddle', name: 'Heron 164', widthMm: 164 }),
      part({ kind: 'stem', name: 'Stem 160', widthMm: 160 }),
    ];
    const p = of('saddleWidth', { ...sore, parts: bin })!;
    expect(p.moves).toEqual({ saddleWidth: 20 });
    expect(p.why.join()).toContain('Heron 158 is in the bin');
    const bare = of('saddleWidth', sore)!;
    expect(bare.moves).toEqual({ saddleWidth: 22 });
    expect(bare.why.join()).toContain('none of this width');
    expect(of('saddleWidth', { ...sore, hurts: [] })).toBeUndefined();
  });
  it('asks for a few millimetres more of who sits upright, less of who sits low', () => {
    const width = (discipline: 'city' | 'gravel' | 'timeTrial'): number =>
      movesOf('saddleWidth', {
        body: tested({ sitBones: { both: 120 } }),
        bike: { saddle: { widthMm: 138 } },
        hurts: ['sitBones'],
        intake: { discipline },
      })!.saddleWidth!;
    expect(width('city')).toBeGreaterThan(width('gravel'));
    expect(width('timeTrial')).toBeLessThan(width('gravel'));
  });
});

describe('bar', () => {
  it('rolled by eight degrees or more it is turned back to a slight roll', () => {
    const roll = (rotationDeg: number): Moves | null =>
      movesOf('barRotation', { bike: { bar: { rotationDeg } } });
    expect(roll(12)).toEqual({ barRotation: -9 });
    expect(roll(-9)).toEqual({ barRotation: 6 });
    expect(roll(7)).toBeNull();
  });
  it('a width by the shoulders only for hands or neck that hurt, on a bar with drops', () => {
    const wide: More = {
      body: tested({ shoulderWidth: { both: 380 } }),
      bike: { bar: { widthMm: 440, dropMm: 120 } },
      hurts: ['neck'],
    };
    // 360 to 400 mm: the nearest that is sold is 400.
    expect(movesOf('barWidth', wide)).toEqual({ barWidth: -40 });
    expect(
      movesOf('barWidth', { ...wide, parts: [part({ kind: 'bar', name: 'Sluice 380', widthMm: 380 })] }),
    ).toEqual({ barWidth: -60 });
    expect(of('barWidth', { ...wide, hurts: ['calf'] })).toBeUndefined();
    expect(of('barWidth', { ...wide, bike: { bar: { widthMm: 440 } } })).toBeUndefined();
    expect(of('barWidth', { ...wide, bike: { bar: { widthMm: 390, dropMm: 120 } } })).toBeUndefined();
    expect(movesOf('barWidth', { ...wide, bike: { bar: { widthMm: 340, dropMm: 120 } } })).toEqual({
      barWidth: 20,
    });
  });
});

it('a shorter crank is thought of where the hip closes, the knee bends too far, or it is long for the legs', () => {
  const doubt = (more: More): boolean => crankInDoubt(caseFor(more));
  expect(doubt({ measures: [seen('hipAngleMinDeg', 44, 'low')] })).toBe(true);
  expect(doubt({ measures: [seen('kneeFlexionMaxDeg', 121, 'high')] })).toBe(true);
  expect(
    doubt({
      body: tested({ inseam: { both: 740 } }),
      bike: { crank: { lengthMm: 175 } },
      hurts: ['hipFront'],
    }),
  ).toBe(true);
  expect(doubt({ measures: [seen('hipAngleMinDeg', 60, 'in')] })).toBe(false);
});

it('every proposal says why and what is looked at afterwards, and moves something', () => {
  const all = proposals(
    caseFor({
      bike: {
        crank: { qFactorMm: 150 },
        pedals: { axleLengthMm: 53 },
        feet: {
          left: { cleatBehindMm: -4, heelOutDeg: 0, cleatOutwardMm: 5 },
          right: { cleatBehindMm: 3, heelOutDeg: -6, cleatOutwardMm: 0 },
        },
        saddle: { tiltDeg: -7, widthMm: 130 },
        bar: { rotationDeg: 14, widthMm: 460, dropMm: 130 },
      },
      body: tested({ sitBones: { both: 120 }, shoulderWidth: { both: 380 } }),
      hurts: ['kneeInside', 'sitBones', 'neck'],
    }),
  );
  expect(all.map((p) => p.key)).toEqual([
    'cleatBack',
    'heelOut',
    'stanceEven',
    'saddleTilt',
    'saddleWidth',
    'barRotation',
    'barWidth',
  ]);
  for (const p of all) {
    expect(p.why.length, p.key).toBeGreaterThan(0);
    expect(p.check, p.key).not.toBe('');
    expect(
      Object.values(p.moves).some((v) => v !== 0),
      p.key,
    ).toBe(true);
  }
});
