import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../../../app/demo/catalogue.ts';
import { NO_STATICS, type Statics } from '../../body/statics.ts';
import type { FitSession } from '../../records/types.ts';
import { tested } from '../blankCase.fixture.ts';
import type { MeasureReading } from '../../protocol/measures.ts';
import { protocolOf } from '../../visit/visitCase.ts';
import { USUAL_SCHOOLS } from './schools.ts';
import { bySchool, staticKneeBand } from './bySchool.ts';

const knee = (value: number): MeasureReading =>
  ({
    key: 'kneeFlexionMinDeg',
    value,
    uncertainty: 2,
    unit: '°',
    band: { low: 33, high: 42 },
    verdict: 'in',
  }) as MeasureReading;
const back = { ...knee(45), key: 'backAngleDeg' } as MeasureReading;
const held = (left: number | null, right: number | null): Statics => ({
  ...NO_STATICS,
  kneeFlexionDeg: { left, right, both: null },
});
const staticSchool = { ...USUAL_SCHOOLS, knee: 'static' as const };

describe('the school of the goniometer', () => {
  it('leaves the film’s own school as it is, and every other measure', () => {
    expect(
      bySchool([knee(37), back], { schools: USUAL_SCHOOLS, statics: held(30, 30), side: 'right' }),
    ).toEqual([knee(37), back]);
    expect(bySchool([back], { schools: staticSchool, statics: NO_STATICS, side: 'right' })).toEqual([back]);
  });
  it('without a held reading the band is brought over by the usual difference', () => {
    const [m] = bySchool([knee(37)], { schools: staticSchool, statics: NO_STATICS, side: 'right' });
    expect(m.band).toEqual({ low: 25 + 6.5, high: 35 + 6.5 });
    expect(m.verdict).toBe('in');
  });
  it('with one, the held reading decides: each side by its own', () => {
    for (const [angle, verdict] of [
      [30, 'in'],
      [35.5, 'likely-high'],
      [40, 'high'],
      [24.5, 'likely-low'],
      [20, 'low'],
    ] as const) {
      // Whatever the film reads beside it.
      for (const film of [34, 41])
        expect(
          bySchool([knee(film)], { schools: staticSchool, statics: held(angle, null), side: 'left' })[0]
            .verdict,
        ).toBe(verdict);
    }
    expect(
      bySchool([knee(37)], { schools: staticSchool, statics: held(50, null), side: 'right' })[0].verdict,
    ).toBe('in');
  });
  it('tight hamstrings ask for more bend here as well', () => {
    expect(staticKneeBand(4)).toEqual({ low: 29, high: 39 });
    const of = (raise: number, off: string[] = []): number => {
      const body = tested({ straightLegRaise: { left: raise, right: raise } });
      const session: FitSession = {
        ...CATALOGUE.sessions.find((s) => s.id === 'maren-1')!,
        body: { ...body, adjustmentsOff: off },
      };
      return protocolOf(session).kneeMovedDeg;
    };
    expect(of(75)).toBe(0);
    expect(of(50)).toBe(4);
    expect(of(50, ['tight-hamstrings'])).toBe(0);
    // Held at 37°: over the usual static band, inside it for who is tight.
    expect(
      bySchool([knee(43)], { schools: staticSchool, statics: held(null, 37), side: 'right' })[0].verdict,
    ).toBe('high');
    expect(
      bySchool([knee(43)], {
        schools: staticSchool,
        statics: held(null, 37),
        side: 'right',
        movedDeg: of(50),
      })[0].verdict,
    ).toBe('in');
  });
});
