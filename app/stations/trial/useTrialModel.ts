import { useMemo } from 'react';
import type { Reading } from '../../../core/kinematics/read.ts';
import { forecastOf, preparedOnce } from '../../../core/model/forecast.ts';
import { CONTROL_KEYS, CONTROLS } from '../../../core/plan/controls/controlTable.ts';
import { effectsOf, standsAt } from '../../../core/plan/controls/controls.ts';
import type { ChangedValue } from '../../../core/plan/terms/change.ts';
import { bodyOf } from '../../../core/plan/terms/plan.ts';
import type { MeasureReading } from '../../../core/protocol/measures.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { filmedTake, visitCase } from '../../../core/visit/visitCase.ts';
import { sideTake } from '../../jobs/useTakeResults';
import { useSession } from '../session';

type TrialModel = NonNullable<ReturnType<typeof useTrialModel>>;

/** The plan’s own case and model: what a step is predicted to do is the same figure on every page. Null while nothing is filmed. */
export function useTrialModel(session: FitSession, reading: Reading | null) {
  const { rider } = useSession();
  const take = sideTake(session);
  return useMemo(() => {
    if (!reading) return null;
    const made = visitCase({
      session,
      near: filmedTake(session, take, reading),
      parts: null,
      habits: rider?.habits ?? null,
    });
    return { measures: made.measures, prepared: preparedOnce(made.near!), case: made.case };
  }, [session, reading, take, rider?.habits]);
}

const controlAt = (at: string) => CONTROL_KEYS.find((key) => CONTROLS[key].at === at);

/** Where a setting stood when it was filmed; null for what no control moves. */
export function standsIn(model: TrialModel, at: string): number | null {
  const control = controlAt(at);
  return control ? standsAt(model.case.bike, control) : null;
}

/** A measure as it is predicted with one setting of the filmed bike moved; null where it can’t be. */
export function predictedAt(
  { case: c, prepared }: TrialModel,
  measure: MeasureReading,
  { at, setting }: { at: string; setting: number },
): number | null {
  const control = controlAt(at);
  const from = control && standsAt(c.bike, control);
  if (!control || from === null || from === undefined) return null;
  const fx = effectsOf(c.bike, { [control]: setting - from });
  const f = forecastOf(prepared, { measured: [measure], fx, habits: c.habits, body: bodyOf(c) });
  return f.ok ? (f.measures[0]?.after ?? null) : null;
}

/** By how much a change is predicted to move a measure; null where the model does not reach. */
export function predictedBy(
  model: TrialModel | null,
  values: readonly ChangedValue[],
  key: string,
): number | null {
  const measure = model?.measures.find((m) => m.key === key);
  const moved = values.find((v) => controlAt(v.at) && typeof v.from === 'number' && typeof v.to === 'number');
  if (!model || !measure || !moved) return null;
  const [before, after] = [moved.from, moved.to].map((setting) =>
    predictedAt(model, measure, { at: moved.at, setting: setting as number }),
  );
  return before === null || after === null ? null : after - before;
}
