import { createStore } from 'zustand/vanilla';
import type { Landmark } from '../../core/landmarks/landmarks.ts';
import type { ImagePoint } from '../../core/math/vec.ts';
import type { ProposedPoint, ProposedWheels } from '../../core/survey/proposal.ts';
import type { FilmVerdict } from '../../core/survey/verdict.ts';
import type { CameraPath } from '../../core/tracking/steadied.ts';

export const surveyJob = (takeId: string): string => `survey:${takeId}`;

/** What is proposed for a take, and what the fitter has put right in it; kept until it is measured. */
export interface TakeSurvey {
  verdict: FilmVerdict;
  /** The frame on which the points stand; null where no rider was found. */
  frame: number | null;
  points: Partial<Record<Landmark, ProposedPoint>>;
  wheels: ProposedWheels | null;
  /** How the camera moved; null where it stood still. */
  cameraPath: CameraPath | null;
  /** The wheels stand where they stood for the take before. */
  unmoved: boolean;
  /** Which way the bike points; null where no rider was found. */
  facing: 'left' | 'right' | null;
}

export const surveyStore = createStore<{ takes: Readonly<Record<string, TakeSurvey>> }>()(() => ({
  takes: {},
}));

const put = (takeId: string, part: Partial<TakeSurvey>): void =>
  surveyStore.setState(({ takes }) =>
    takes[takeId] ? { takes: { ...takes, [takeId]: { ...takes[takeId], ...part } } } : { takes },
  );

/** A point is put by hand, or its name is confirmed: nobody asks about it any more. */
export function settlePoint(takeId: string, key: Landmark, at: ImagePoint & { onSticker: boolean }): void {
  const now = surveyStore.getState().takes[takeId];
  if (now) put(takeId, { points: { ...now.points, [key]: { ...at, sure: 1 } } });
}

/** An axle is put by hand; its tyre's ends go with it. */
export function settleAxle(takeId: string, which: 'rear' | 'front', at: ImagePoint): void {
  const now = surveyStore.getState().takes[takeId];
  if (!now?.wheels) return;
  const was = now.wheels[which];
  const by = { x: at.x - was.x, y: at.y - was.y };
  const rims = { ...now.wheels.rims };
  for (const end of [`${which}Top`, `${which}Bottom`] as const)
    rims[end] = { x: rims[end].x + by.x, y: rims[end].y + by.y };
  put(takeId, { wheels: { ...now.wheels, [which]: at, rims } });
}
