import type { PlanCase, Prescription } from '../../core/plan/terms/plan.ts';
import { spawnPlanner, type Spawned } from '../workers/spawn';
import type { PlanApi } from '../workers/plan.worker';

let planner: Spawned<PlanApi> | null = null;
let last: Promise<unknown> = Promise.resolve();
/** Plans by the case they are of: each is made once, whoever asks. */
const made = new WeakMap<PlanCase, { plan: Promise<Prescription | null>; wanted: (() => boolean)[] }>();

/**
 * The plan of a case, worked out in a worker, one after another.
 * @param wanted asked when its turn comes: a case that nobody waits for any more is passed over, and its plan is null
 * @throws where the worker can't be had or breaks down, with a sentence
 */
export function planOf(c: PlanCase, wanted: () => boolean = () => true): Promise<Prescription | null> {
  const known = made.get(c);
  if (known) {
    known.wanted.push(wanted);
    return known.plan;
  }
  const asks = [wanted];
  const plan = last.then(() => (asks.some((ask) => ask()) ? worked(c) : null));
  last = plan.catch(() => undefined);
  made.set(c, { plan, wanted: asks });
  plan.then(
    // One that was passed over, or failed, may be asked for again.
    (p) => p ?? made.delete(c),
    () => made.delete(c),
  );
  return plan;
}

async function worked(c: PlanCase): Promise<Prescription> {
  planner ??= spawnPlanner();
  const mine = planner;
  try {
    return await mine.api.prescribe(c);
  } catch (error) {
    mine.end();
    if (planner === mine) planner = null;
    throw error;
  }
}
