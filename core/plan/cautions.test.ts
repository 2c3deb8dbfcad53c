import { describe, expect, it } from 'vitest';
import { aches, caseOf, lineOf, seen, tested } from './blankCase.fixture.ts';
import { adviceFor, cautionsFor } from './cautions.ts';
import type { Moves } from './controls.ts';
import type { MeasureReading } from '../protocol/measures.ts';
import type { Prescription } from './plan.ts';

/** A prescription of lines by their keys, each with what it moves. */
function planOf(lines: Record<string, Moves>, rejected: readonly string[] = []): Prescription {
  const list = Object.entries(lines).map(([key, moves]) =>
    lineOf(key, moves, 'saddle', rejected.includes(key)),
  );
  return {
    lines: list,
    total: Object.assign({}, ...list.filter((l) => !rejected.includes(l.key)).map((l) => l.moves)) as Moves,
    forecast: null,
    alternatives: [],
    conflicts: [],
    seenThrough: [],
    open: [],
    leaveAlone: false,
  };
}
const keys = (
  more: Parameters<typeof caseOf>[0],
  plan: Prescription = planOf({}),
  halfSteps = false,
): string[] => cautionsFor({ ...caseOf(more), halfSteps }, plan).map((q) => q.key);
const serious = (more: Parameters<typeof caseOf>[0], plan: Prescription = planOf({})): string[] =>
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
    expect(serious({}, planOf({ saddleUp: { saddleUp: 12 } }))).toContain('bigChange');
    expect(serious({}, planOf({ saddleUp: { saddleUp: 9 } }))).not.toContain('bigChange');
    const three = { saddleUp: { saddleUp: 4 }, saddleBack: { saddleBack: 5 }, front: { spacers: 5 } };
    expect(serious({}, planOf(three))).toContain('bigChange');
    expect(serious({}, planOf(three, ['front']))).not.toContain('bigChange');
  });
  it('of the parts: post, front, cleats, plates, each where it is touched', () => {
    expect(keys({}, planOf({ saddleBack: { saddleBack: 5 } }))).toEqual(['post', 'trial']);
    expect(keys({}, planOf({ front: { spacers: 5 } }))).toEqual(['front', 'trial']);
    for (const key of ['cleatBack', 'stance', 'heelOut', 'stanceEven', 'shim'])
      expect(keys({}, planOf({ [key]: { 'cleatBack.left': 3 } })), key).toContain('cleats');
    expect(serious({}, planOf({ cleatBack: { 'cleatBack.left': 26 } }))).toContain('plates');
    expect(serious({}, planOf({ cleatBack: { 'cleatBack.left': 9 } }))).not.toContain('plates');
    // What the fitter turned down is not on the bike.
    expect(keys({}, planOf({ front: { spacers: 5 } }, ['front']))).toEqual([]);
  });
  it('half steps are said', () => {
    expect(keys({}, planOf({}), true)).toEqual(['halfSteps']);
  });
});

describe('advice that moves nothing', () => {
  const advice = (more: Parameters<typeof caseOf>[0]): string => {
    const c = caseOf(more);
    return adviceFor({ ...c, measures: c.measures as readonly MeasureReading[] }).join('\n');
  };
  it('says nothing where nothing is known', () => {
    expect(advice({})).toBe('');
  });
  it('a crank with the hip’s own evidence: film, table, length', () => {
    const known: Parameters<typeof caseOf>[0] = {
      body: tested({ inseam: { both: 760 }, hipFlexion: { left: 104, right: 120 } }),
      bike: { crank: { lengthMm: 175 } },
      measures: [seen('hipAngleMinDeg', 43.6, 'low')],
    };
    const words = advice(known);
    expect(words).toContain('the hip closes to 44° in the film');
    expect(words).toContain('hip flexion 104° on the table');
    expect(words).toContain('175 mm is over the 152.5 to 165 mm of this inseam');
    expect(advice({ ...known, body: tested({ inseam: { both: 860 } }), measures: [] })).toBe('');
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
});
