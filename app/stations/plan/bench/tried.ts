import { useMemo } from 'react';
import { asItIs, forecastOf, preparedOnce, type Forecast } from '../../../../core/model/forecast.ts';
import type { Turn } from '../../../../core/model/predict.ts';
import type { MeasureReading } from '../../../../core/protocol/measures.ts';
import { cannot, effectsOf, type Moves } from '../../../../core/plan/controls/controls.ts';
import { compensation, pitchAtBottomDeg } from '../../../../core/plan/couplings.ts';
import { bodyOf } from '../../../../core/plan/terms/plan.ts';
import type { VisitCase } from '../../../../core/visit/visitCase.ts';

/** Moves tried on the rider’s model, and what it answers. */
export interface Tried {
  moves: Moves;
  nothing: boolean;
  forecast: Forecast;
  /** The measures predicted; null where the set-up is impossible. */
  measures: Extract<Forecast, { ok: true }>['measures'] | null;
  turn: Turn | null;
  /** By how far the seat moves, mm. */
  sitMm: { x: number; y: number };
  /** Why it is impossible; null where it isn’t. */
  refusal: string | null;
  /** What would keep the leg as it is; null where nothing has to. */
  partner: Moves | null;
}

function refusalOf(forecast: Forecast): string | null {
  if (forecast.ok) return null;
  return forecast.what === 'leg'
    ? `the leg can’t reach, ${forecast.missMm.toFixed(0)} mm too short at ${forecast.thetaDeg?.toFixed(0)}° of the crank`
    : `the arms can’t reach the bar, ${forecast.missMm.toFixed(0)} mm short`;
}

type Side = VisitCase['case']['sides'][number];

/** What the model says of the rider as filmed, and of moves tried on it. */
export function useTried(c: VisitCase['case'], side: Side, moves: Moves) {
  const prepared = preparedOnce(side.model);
  const measured: readonly MeasureReading[] = side.measures;
  const tried = useMemo((): Tried => {
    const fx = effectsOf(c.bike, moves);
    const forecast = forecastOf(prepared, {
      measured,
      fx,
      habits: c.habits,
      body: bodyOf(c),
      withTurn: true,
    });
    const refusal = cannot(c.bike, moves) ?? refusalOf(forecast);
    const possible = forecast.ok && refusal === null;
    return {
      moves,
      nothing: Object.keys(moves).length === 0,
      forecast,
      measures: possible ? forecast.measures : null,
      turn: possible ? forecast.turn : null,
      sitMm: fx.sitMm,
      refusal,
      partner: compensation(moves, pitchAtBottomDeg(c.sides)),
    };
  }, [prepared, measured, c, moves]);
  return { tried, start: asItIs(prepared) };
}
