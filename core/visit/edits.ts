import Joi from 'joi';
import type { ImagePoint } from '../math/vec.ts';
import type { WheelRims } from '../camera/keystone.ts';
import type { Landmark } from '../landmarks/landmarks.ts';
import type { WidthReference } from '../camera/frontalScale.ts';
import type { Protocol } from '../protocol/protocols.ts';
import { withValue } from './withValue.ts';
import {
  cameraPathSchema,
  correctionsSchema,
  hiddenSchema,
  marksSchema,
  protocolSchema,
  rimsSchema,
  sessionSchema,
  takeSchema,
  trackingSchema,
  widthSchema,
} from '../records/schemas.ts';
import { withTakeAdded } from './rounds.ts';
import { allBack, moved, putBack } from './setups.ts';
import { setupPlace } from '../plan/terms/change.ts';
import type { Correction, FitSession, Hidden, Mark, Take, TrackingState } from '../records/types.ts';

/** Everything the interface can change in a session, one word each. */
export type SessionEdit =
  | { kind: 'take-added'; take: Take }
  | { kind: 'take-opened' | 'take-returned' | 'take-erased'; takeId: string }
  | { kind: 'take-removed'; takeId: string; removedIso: string }
  | {
      kind: 'wheels';
      takeId: string;
      rear: ImagePoint | null;
      front: ImagePoint | null;
      rims: Partial<WheelRims>;
    }
  | { kind: 'set'; at: string; value: unknown }
  | { kind: 'marks'; takeId: string; frame: number; marks: Partial<Record<Landmark, Mark>> }
  | {
      kind: 'corrected';
      takeId: string;
      corrections: Correction[];
      hidden: Hidden[];
      tracking: TrackingState;
    }
  | { kind: 'tracking'; takeId: string; tracking: TrackingState }
  | { kind: 'camera-path'; takeId: string; path: Take['cameraPath'] }
  | { kind: 'width'; takeId: string; width: WidthReference }
  | { kind: 'protocol'; protocolId: string; protocol: Protocol | null }
  | {
      kind: 'moved';
      id: string;
      madeIso: string;
      values: { at: string; value: unknown }[];
      lineKey?: string | null;
    }
  | { kind: 'all-back'; id: string; madeIso: string }
  | { kind: 'put-back'; id: string; atIso: string }
  | { kind: 'restored'; part: Partial<Pick<FitSession, Restorable>> };

/** Parts of a session that a file may bring back as a whole. */
const RESTORABLE = [
  'takes',
  'takeId',
  'current',
  'final',
  'changes',
  'plan',
  'earlierPlans',
  'planning',
  'followUps',
] as const;
type Restorable = (typeof RESTORABLE)[number];

const takeId = Joi.string().max(40).required();
const point = Joi.object({ x: Joi.number().required(), y: Joi.number().required() }).allow(null);

const editSchema = Joi.alternatives<SessionEdit>().conditional('.kind', {
  switch: [
    { is: 'take-added', then: Joi.object({ kind: Joi.any(), take: takeSchema.required() }) },
    {
      is: Joi.valid('take-opened', 'take-returned', 'take-erased'),
      then: Joi.object({ kind: Joi.any(), takeId }),
    },
    {
      is: 'take-removed',
      then: Joi.object({ kind: Joi.any(), takeId, removedIso: Joi.string().isoDate().required() }),
    },
    {
      is: 'corrected',
      then: Joi.object({
        kind: Joi.any(),
        takeId,
        corrections: correctionsSchema.required(),
        hidden: hiddenSchema.required(),
        tracking: trackingSchema.required(),
      }),
    },
    {
      is: 'wheels',
      then: Joi.object({
        kind: Joi.any(),
        takeId,
        rear: point.required(),
        front: point.required(),
        rims: rimsSchema.required(),
      }),
    },
    {
      is: 'set',
      then: Joi.object({
        kind: Joi.any(),
        at: Joi.string().max(120).required(),
        value: Joi.any().required(),
      }),
    },
    {
      is: 'marks',
      then: Joi.object({
        kind: Joi.any(),
        takeId,
        frame: Joi.number().integer().min(0).required(),
        marks: marksSchema.required(),
      }),
    },
    {
      is: 'tracking',
      then: Joi.object({
        kind: Joi.any(),
        takeId,
        tracking: trackingSchema.required(),
      }),
    },
    {
      is: 'camera-path',
      then: Joi.object({ kind: Joi.any(), takeId, path: cameraPathSchema.allow(null).required() }),
    },
    {
      is: 'width',
      then: Joi.object({ kind: Joi.any(), takeId, width: widthSchema.required() }),
    },
    {
      is: 'protocol',
      then: Joi.object({
        kind: Joi.any(),
        protocolId: Joi.string().max(60).required(),
        protocol: protocolSchema.allow(null).required(),
      }),
    },
    {
      is: 'moved',
      then: Joi.object({
        kind: Joi.any(),
        id: Joi.string().max(40).required(),
        madeIso: Joi.string().isoDate().required(),
        values: Joi.array()
          .items(Joi.object({ at: setupPlace, value: Joi.any().required() }))
          .min(1)
          .max(20)
          .required(),
        lineKey: Joi.string().max(40).allow(null),
      }),
    },
    {
      is: 'all-back',
      then: Joi.object({
        kind: Joi.any(),
        id: Joi.string().max(40).required(),
        madeIso: Joi.string().isoDate().required(),
      }),
    },
    {
      is: 'put-back',
      then: Joi.object({
        kind: Joi.any(),
        id: Joi.string().max(40).required(),
        atIso: Joi.string().isoDate().required(),
      }),
    },
    {
      is: 'restored',
      then: Joi.object({
        kind: Joi.any(),
        // What is in the parts is checked with the whole session.
        part: Joi.object(Object.fromEntries(RESTORABLE.map((key) => [key, Joi.any()])))
          .min(1)
          .required(),
      }),
    },
  ],
  otherwise: Joi.forbidden(),
});

export type EditResult = { ok: true; session: FitSession } | { ok: false; message: string };

/**
 * Applies an edit to a session and checks the whole again: a session that does not fit its schema is never handed back.
 * New marks make old tracks void.
 */
export function applyEdit(session: FitSession, edit: unknown): EditResult {
  const checked = editSchema.required().validate(edit, { convert: false });
  if (checked.error) return { ok: false, message: checked.error.message };
  const e = checked.value as SessionEdit;
  const next = change(session, e);
  if (!next) {
    return {
      ok: false,
      message: NOT_POSSIBLE[e.kind] ?? 'There is no film in this visit yet.',
    };
  }
  const whole = sessionSchema.validate(next, { convert: false });
  return whole.error ? { ok: false, message: whole.error.message } : { ok: true, session: next };
}

const NOT_POSSIBLE: Partial<Record<SessionEdit['kind'], string>> = {
  set: 'This is no part of a session.',
  moved: 'Nothing moves by this, or the bike has no such part.',
  'all-back': 'The bike stands as it was found already.',
  'put-back': 'This change is not there, or was undone already.',
};

/** One take changed; null where there is no such take. */
function withTake(s: FitSession, takeId: string, to: (take: Take) => Take): FitSession | null {
  if (!s.takes.some((t) => t.id === takeId)) return null;
  return { ...s, takes: s.takes.map((t) => (t.id === takeId ? to(t) : t)) };
}

/** Tracks that no longer belong to the marks. */
const untracked = (take: Take): TrackingState => ({
  state: 'none',
  framesDone: 0,
  estimated: false,
  revision: take.tracking.revision + 1,
});

/** A take out of the trash again; null where it is not in there. */
function takeReturned(s: FitSession, takeId: string): FitSession | null {
  const removed = s.removedTakes.find((r) => r.take.id === takeId);
  if (!removed || s.takes.some((t) => t.id === takeId)) return null;
  const removedTakes = s.removedTakes.filter((r) => r !== removed);
  return { ...s, removedTakes, takes: [...s.takes, removed.take], takeId };
}

function change(s: FitSession, e: SessionEdit): FitSession | null {
  switch (e.kind) {
    case 'take-added':
      return withTakeAdded(s, e.take);
    case 'take-opened':
      return withTake({ ...s, takeId: e.takeId }, e.takeId, (t) => t);
    case 'take-removed': {
      const take = s.takes.find((t) => t.id === e.takeId);
      if (!take) return null;
      const takes = s.takes.filter((t) => t !== take);
      const takeId = s.takeId === e.takeId ? (takes.at(-1)?.id ?? null) : s.takeId;
      return { ...s, takes, takeId, removedTakes: [...s.removedTakes, { take, removedIso: e.removedIso }] };
    }
    case 'take-returned':
      return takeReturned(s, e.takeId);
    case 'take-erased': {
      const removedTakes = s.removedTakes.filter((r) => r.take.id !== e.takeId);
      return removedTakes.length < s.removedTakes.length ? { ...s, removedTakes } : null;
    }
    case 'set':
      return withValue(s, e.at, e.value);
    case 'protocol':
      return { ...s, protocolId: e.protocolId, protocol: e.protocol };
    case 'moved':
      return moved(s, e);
    case 'all-back':
      return allBack(s, e);
    case 'put-back':
      return putBack(s, e.id, e.atIso);
    case 'restored':
      return { ...s, ...e.part };
    case 'wheels':
      return withTake(s, e.takeId, (t) => ({ ...t, axles: { rear: e.rear, front: e.front }, rims: e.rims }));
    case 'width':
      return withTake(s, e.takeId, (t) => ({ ...t, width: e.width }));
    case 'marks':
      return withTake({ ...s }, e.takeId, (t) => ({
        ...t,
        markedFrame: e.frame,
        marks: e.marks,
        corrections: [],
        hidden: [],
        tracking: untracked(t),
      }));
    case 'corrected':
      return withTake({ ...s }, e.takeId, (t) => ({
        ...t,
        corrections: e.corrections,
        hidden: e.hidden,
        tracking: e.tracking,
      }));
    case 'camera-path':
      return withTake({ ...s }, e.takeId, (t) => ({ ...t, cameraPath: e.path }));
    case 'tracking':
      return withTake({ ...s }, e.takeId, (t) => ({ ...t, tracking: e.tracking }));
  }
}
