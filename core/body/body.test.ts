import { describe, expect, it } from 'vitest';
import { UNMEASURED_BIKE } from '../bike/setup.ts';
import {
  barWidthMm,
  cleatRotationStart,
  crankRangeMm,
  legLength,
  saddleHeightStarts,
  saddleWidths,
  shoeAdvice,
  shoeSizeEu,
  spread,
  stanceTendency,
} from './estimates.ts';
import { spacingFromPhoto } from './impression.ts';
import { bodySummary, meaningOf } from './meaning.ts';
import { BODY_TESTS, NOT_TESTED, type BodyRecord, type TestKey } from './bodyTests.ts';

type Found = number | string | [number | string, number | string];
const body = (found: Partial<Record<TestKey, Found>>): BodyRecord => ({
  adjustmentsOff: [],
  results: Object.fromEntries(
    Object.entries(found).map(([key, v]) => [
      key,
      Array.isArray(v) ? { ...NOT_TESTED, left: v[0], right: v[1] } : { ...NOT_TESTED, both: v },
    ]),
  ),
});

describe('starting estimates, against sums done by hand', () => {
  it('saddle height three ways', () => {
    // Inseam 840: 740; 0.883 · 840 = 741.72; 1.09 · 840 − 172.5 = 915.6 − 172.5 = 743.1. Spread 3.1.
    const starts = saddleHeightStarts(840, 172.5).map((s) => s.mm);
    expect(starts).toEqual([740, expect.closeTo(741.72, 6), expect.closeTo(743.1, 6)]);
    expect(spread(starts)).toBeCloseTo(3.1, 6);
    expect(saddleHeightStarts(840, null)).toHaveLength(2);
  });
  it('crank, saddle and bar', () => {
    // 0.20 · 840 = 168 → 167.5; 0.216 · 840 = 181.44 → 182.5 (181.44 / 2.5 = 72.58 → 73).
    expect(crankRangeMm(840)).toEqual([167.5, 182.5]);
    // Sit bones 120, middle posture: 132…140 on the flat part, 155…165 overall; upright 5 more.
    expect(saddleWidths(120, 'middle').map((w) => [w.fromMm, w.toMm])).toEqual([
      [132, 140],
      [155, 165],
    ]);
    expect(saddleWidths(120, 'upright')[1].fromMm).toBe(160);
    expect(barWidthMm(400)).toEqual([380, 420]);
  });
  it('shoe size by the larger foot, and what is wrong with the shoe worn', () => {
    // (265 + 15) · 0.15 = 42; (258 + 15) · 0.15 = 40.95 → 41.
    expect([shoeSizeEu(265), shoeSizeEu(258)]).toEqual([42, 41]);
    const worn = {
      ...UNMEASURED_BIKE,
      feet: { left: { ...UNMEASURED_BIKE.feet.left, shoeSizeEu: 44 }, right: UNMEASURED_BIKE.feet.right },
    };
    const a = shoeAdvice(body({ footLength: [255, 255], footLengthLoaded: [265, 258] }), worn);
    expect(a).toMatchObject({ left: 42, right: 41, size: 42 });
    expect(a.notes.join(' ')).toMatch(/Left foot 7 mm longer.*half-size/);
    expect(a.notes.join(' ')).toMatch(/Left foot 10 mm longer under load/);
    expect(a.notes.join(' ')).toMatch(/Left shoe 2 sizes too long/);
    expect(shoeAdvice(body({}), worn)).toMatchObject({ size: null, notes: [] });
  });
  it('cleat rotation from walk and jump: toe-out is heel-in', () => {
    expect(cleatRotationStart(body({ toeOutWalk: [6, 12], toeOutJump: [8, 10] }))).toEqual({
      left: -7,
      right: -11,
    });
    expect(cleatRotationStart(body({ toeOutWalk: [6, 12] }))).toEqual({ left: -6, right: -12 });
  });
});

describe('leg length, reasoned as on the table', () => {
  it.each([
    [{}, 'open'],
    [{ malleoliTraction: 2 }, 'none'],
    [{ malleoliTraction: 6 }, 'open'],
    [{ malleoliTraction: 6, malleoliSitUp: 1 }, 'pelvic-rotation'],
    [{ malleoliTraction: 6, malleoliSitUp: -5 }, 'pelvic-rotation'],
    [{ malleoliTraction: 6, malleoliSitUp: 6, tibia: [470, 475] }, 'tibia'],
    [{ malleoliTraction: 6, malleoliSitUp: 6, tibia: [470, 470], femur: [560, 565] }, 'femur'],
    [{ malleoliTraction: 6, malleoliSitUp: 6, tibia: [475, 470], femur: [560, 560] }, 'true'],
  ] as [Partial<Record<TestKey, Found>>, string][])('%j → %s', (found, kind) => {
    expect(legLength(body(found)).kind).toBe(kind);
  });
  it('names the longer side and refers what is over 6 mm', () => {
    const l = legLength(body({ malleoliTraction: -8, malleoliSitUp: -8, tibia: [480, 472] }));
    expect(l).toMatchObject({ kind: 'tibia', longer: 'left', differenceMm: 8, refer: true });
    expect(legLength(body({ malleoliTraction: 5, malleoliSitUp: 5 })).refer).toBe(false);
  });
});

describe('what findings mean', () => {
  it('stance follows build, bow legs and hips', () => {
    expect(stanceTendency(body({})).tends).toBe('as it is');
    expect(stanceTendency(body({ build: 'broad', kneesStanding: 'bow' })).tends).toBe('wider');
    expect(stanceTendency(body({ build: 'slight', kneesStanding: 'knock' })).tends).toBe('narrower');
    expect(stanceTendency(body({ hipInternal: [40, 20] })).reasons).toEqual(['tight hips (wider)']);
  });
  it('speaks where there is something to say, and of the sides', () => {
    expect(meaningOf('straightLegRaise', body({ straightLegRaise: [55, 57] }))).toContain('Tight hamstrings');
    expect(meaningOf('straightLegRaise', body({ straightLegRaise: [70, 72] }))).toBeNull();
    expect(meaningOf('hipInternal', body({ hipInternal: [40, 28] }))).toContain('Left larger by 12');
    expect(meaningOf('oneLegBend', body({ oneLegBend: ['steady', 'drops'] }))).toMatch(
      /drops in.*sides differ/,
    );
    expect(meaningOf('hinge', body({}))).toBeNull();
  });
  it('the card holds limits and asymmetries, nothing else', () => {
    expect(bodySummary(body({ straightLegRaise: [70, 72], hinge: 'flat' }))).toEqual({
      limits: [],
      watch: [],
    });
    const card = bodySummary(
      body({ hinge: 'round', hipFlexion: [100, 118], malleoliTraction: 7, malleoliSitUp: 7 }),
    );
    expect(card.limits).toHaveLength(2);
    expect(card.watch).toEqual([
      'Right leg 7 mm longer: refer before treating.',
      'Hip flexion: right larger by 18.',
    ]);
  });
  it('every test can be done from its card: a way to answer and how, in three lines at the most', () => {
    const keys = BODY_TESTS.map((t) => t.key);
    expect(new Set(keys).size).toBe(keys.length);
    for (const t of BODY_TESTS) {
      expect(t.howTo.length).toBeLessThanOrEqual(3);
      expect('number' in t !== 'choices' in t, t.key).toBe(true);
    }
  });
});

describe('sit bones from a photo', () => {
  const at = (x: number, y: number) => ({ x, y });
  it('scales the dents by the ruler, whichever way it lies', () => {
    // 100 mm of ruler are 500 px: 0.2 mm a pixel; dents 600 px apart: 120 mm.
    const points = {
      rulerFrom: at(10, 10),
      rulerTo: at(310, 410),
      dentLeft: at(100, 500),
      dentRight: at(700, 500),
    };
    const r = spacingFromPhoto(points, 100);
    expect(r).toMatchObject({ ok: true, spacingMm: expect.closeTo(120, 9), mmPerPx: expect.closeTo(0.2, 9) });
    // Half the pixels, twice the doubt.
    const half = (p: { x: number; y: number }) => at(p.x / 2, p.y / 2);
    const small = spacingFromPhoto(
      {
        rulerFrom: half(points.rulerFrom),
        rulerTo: half(points.rulerTo),
        dentLeft: half(points.dentLeft),
        dentRight: half(points.dentRight),
      },
      100,
    );
    if (!r.ok || !small.ok) throw new Error('both can be read');
    expect(small.spacingMm).toBeCloseTo(r.spacingMm, 9);
    expect(small.uncertaintyMm).toBeCloseTo(2 * r.uncertaintyMm, 9);
  });
  it('says what can’t be right', () => {
    const p = { rulerFrom: at(0, 0), rulerTo: at(500, 0), dentLeft: at(0, 90), dentRight: at(600, 90) };
    expect(spacingFromPhoto(p, NaN)).toMatchObject({ reason: 'ruler-missing' });
    expect(spacingFromPhoto({ ...p, rulerTo: at(9, 0) }, 100)).toMatchObject({ reason: 'ruler-too-short' });
    expect(spacingFromPhoto(p, 1000)).toMatchObject({ reason: 'not-sit-bones' });
  });
});
