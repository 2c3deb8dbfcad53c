import { describe, expect, it } from 'vitest';
import { aches, caseOf, lineOf, planOf, seen, tested } from './blankCase.fixture.ts';
import { adviceFor, cautionsFor } from './cautions.ts';
import type { Intake } from '../intake/intake.ts';
import type { Moves } from './controls/controls.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import type { Prescription } from './terms/plan.ts';

/** A prescription of lines by their keys, each with what it moves. */
const linesOf = (lines: Record<string, Moves>): Prescription =>
  planOf({
    now: Object.entries(lines).map(([key, moves]) => lineOf(key, moves, 'saddle')),
    total: Object.assign({}, ...Object.values(lines)) as Moves,
  });
const keys = (
  more: Parameters<typeof caseOf>[0],
  plan: Prescription = linesOf({}),
  halfSteps = false,
): string[] => cautionsFor({ ...caseOf(more), halfSteps }, plan).map((q) => q.key);
const serious = (more: Parameters<typeof caseOf>[0], plan: Prescription = linesOf({})): string[] =>
  cautionsFor({ ...caseOf(more), halfSteps: false }, plan)
    .filter((q) => q.serious)
    .map((q) => q.key);

describe('cautions', () => {
  it('nothing moved and nothing wrong: none', () => {
    expect(keys({})).toEqual([]);
  });
  it('of the rider: age, strong pain, a leg-length difference over six millimetres', () => {
    expect(serious({ intake: { ageYears: 16 } })).toEqual(['minor']);
    expect(serious({ intake: { ageYears: 18 } })).toEqual([]);
    expect(serious({ intake: { complaints: [aches('lowBack', { severity: 7 })] } })).toEqual(['strongPain']);
    expect(serious({ intake: { complaints: [aches('lowBack', { severity: 6 })] } })).toEqual([]);
    expect(
      serious({
        intake: {
          complaints: [aches('lowBack', { severity: 9, goneIso: '2026-11-01T08:00:00.000Z' })],
        },
      }),
    ).toEqual([]);
    const legs = (mm: number): Parameters<typeof caseOf>[0] => ({
      body: tested({ malleoliTraction: { both: mm }, malleoliSitUp: { both: mm } }),
    });
    expect(serious(legs(9))).toEqual(['legLength']);
    expect(serious(legs(6))).toEqual([]);
  });
  it('of the change: a big one, or many at once, has to be acknowledged', () => {
    expect(serious({}, linesOf({ saddleUp: { saddleUp: 12 } }))).toContain('bigChange');
    expect(serious({}, linesOf({ saddleUp: { saddleUp: 9 } }))).not.toContain('bigChange');
    const three = { saddleUp: { saddleUp: 4 }, saddleBack: { saddleBack: 5 }, hands: { spacers: 5 } };
    expect(serious({}, linesOf(three))).toContain('bigChange');
  });
  it('of the parts: post, front, cleats, plates, each where it is touched', () => {
    expect(keys({}, linesOf({ saddleBack: { saddleBack: 5 } }))).toEqual(['post', 'trial']);
    expect(keys({}, linesOf({ hands: { spacers: 5 } }))).toEqual(['front', 'trial']);
    for (const key of ['cleatBack', 'stance', 'heelOut', 'shim'])
      expect(keys({}, linesOf({ [key]: { 'cleatBack.left': 3 } })), key).toContain('cleats');
    expect(serious({}, linesOf({ cleatBack: { 'cleatBack.left': 26 } }))).toContain('plates');
    expect(serious({}, linesOf({ cleatBack: { 'cleatBack.left': 9 } }))).not.toContain('plates');
  });
  it('a child’s review comes early; an operated joint halves the steps and is named', () => {
    const words = (intake: Partial<Intake>): string =>
      cautionsFor({ ...caseOf({ intake }), halfSteps: false }, linesOf({}))
        .map((q) => q.words)
        .join(' ');
    expect(words({ ageYears: 9 })).toContain('3–4 months');
    expect(words({ ageYears: 9 })).toContain('110 mm');
    expect(words({ past: 'Right knee replaced in 2021' })).toContain('Right knee replaced');
    expect(words({ past: 'Left ankle sprained, healed. No surgery.' })).toBe('');
  });
  it('half steps are said', () => {
    expect(keys({}, linesOf({}), true)).toEqual(['halfSteps']);
  });
});

describe('advice that moves nothing', () => {
  const advice = (more: Parameters<typeof caseOf>[0]): string => {
    const c = caseOf(more);
    return adviceFor({ ...c, measures: (c.measures.right ?? []) as readonly MeasureReading[] })
      .map((a) => a.words)
      .join('\n');
  };
  it('says nothing where nothing is known', () => {
    expect(advice({})).toBe('');
  });
  it('a crank with the hip’s own evidence: film, table, length', () => {
    const known: Parameters<typeof caseOf>[0] = {
      body: tested({ inseam: { both: 760 }, hipFlexion: { left: 104, right: 120 } }),
      bike: { crank: { lengthMm: 175 } },
      measures: { right: [{ ...seen('hipAngleMinDeg', 43.6), verdict: 'low' } as MeasureReading] },
    };
    const words = advice(known);
    expect(words).toContain('the hip closes to 44° in the film');
    expect(words).toContain('hip flexion 104° on the table');
    expect(words).toContain('175 mm is over the 152.5 to 165 mm of this inseam');
    expect(advice({ ...known, body: tested({ inseam: { both: 860 } }), measures: {} })).toBe('');
    // Without an inseam or a crank there is nothing to compare.
    expect(advice({ ...known, bike: {} })).not.toContain('Crank');
  });
  it('shoes: length per foot and the last’s width', () => {
    expect(advice({ body: tested({ footLengthLoaded: { left: 262, right: 270 } }) })).toContain(
      'Right foot 8 mm longer',
    );
    expect(
      advice({ body: tested({ footLength: { left: 255 }, footLengthLoaded: { left: 265 } }) }),
    ).toContain('the arch falls');
    const width = (mm: number): string =>
      advice({ body: tested({ footLengthLoaded: { left: 260 }, footWidth: { left: mm } }) });
    expect(width(106)).toContain('a wide last');
    expect(width(90)).toContain('a narrow last');
    expect(width(98)).toBe('');
    const shoe = (shoeSizeEu: number): string =>
      advice({
        body: tested({ footLengthLoaded: { left: 265, right: 265 } }),
        bike: { feet: { left: { shoeSizeEu } } },
      });
    // (265 + 15) · 0.15 = 42.
    expect(shoe(44)).toContain('Left shoe 2 sizes too long');
    expect(shoe(40.5)).toContain('1.5 sizes too small');
    expect(shoe(42)).toBe('');
  });
  it('tight hamstrings are stretched, not bolted', () => {
    expect(advice({ body: tested({ straightLegRaise: { left: 55, right: 70 } }) })).toContain('55°');
    expect(advice({ body: tested({ straightLegRaise: { left: 65, right: 70 } }) })).toBe('');
  });
  it('is told to the rider in a rider’s words: of their own body, without figures of a table', () => {
    const c = caseOf({
      bike: { crank: { lengthMm: 175 }, feet: { left: { shoeSizeEu: 44 }, right: { shoeSizeEu: 44 } } },
      body: tested({
        inseam: { both: 720 },
        footLength: { left: 255, right: 247 },
        straightLegRaise: { left: 50, right: 50 },
      }),
    });
    const told = adviceFor({ ...c, measures: [] });
    expect(told.length).toBeGreaterThanOrEqual(3);
    for (const { words, toRider } of told) {
      expect(toRider).toMatch(/\b[Yy]our?\b/);
      expect(toRider).not.toBe(words);
      expect(toRider).not.toMatch(/inseam|raise \d|on the table|in the film/);
    }
  });
});
