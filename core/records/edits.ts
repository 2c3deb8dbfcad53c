import Joi from 'joi';
import type { Vec2 } from '../geometry/vec.ts';
import type { WheelRims } from '../stroke/keystone.ts';
import type { SideLandmark } from '../stroke/landmarks.ts';
import { valueAt, withValue } from './path.ts';
import { marksSchema, rimsSchema, sessionSchema, takeSchema } from './schemas.ts';
import { moved, putBack } from './setups.ts';
import { setupPlace } from './work.ts';
import type { FitSession, Mark, Take, TrackingState } from './types.ts';

/** Everything the interface can change in a session, one word each. */
export type SessionEdit =
  | { kind: 'take'; take: Take | null }
  | { kind: 'wheels'; rear: Vec2 | null; front: Vec2 | null; rims: Partial<WheelRims> }
  | { kind: 'set'; at: string; value: unknown }
  | { kind: 'marks'; frame: number; marks: Partial<Record<SideLandmark, Mark>> }
  | { kind: 'tracking'; tracking: TrackingState }
  | { kind: 'protocol'; protocolId: string }
  | { kind: 'tried'; saddleMm: number | null }
  | { kind: 'moved'; id: string; madeIso: string; values: { at: string; value: unknown }[] }
  | { kind: 'put-back'; id: string; atIso: string }
  | { kind: 'restored'; part: Partial<Pick<FitSession, Restorable>> };

/** Parts of a session that an undo puts back as a whole. */
const RESTORABLE = ['take', 'triedSaddleMm', 'current', 'changes'] as const;
type Restorable = (typeof RESTORABLE)[number];

const point = Joi.object({ x: Joi.number().required(), y: Joi.number().required() }).allow(null);

export const editSchema = Joi.alternatives<SessionEdit>().conditional('.kind', {
  switch: [
    { is: 'take', then: Joi.object({ kind: Joi.any(), take: takeSchema.allow(null).required() }) },
    {
      is: 'wheels',
      then: Joi.object({
        kind: Joi.any(),
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
        frame: Joi.number().integer().min(0).required(),
        marks: marksSchema.required(),
      }),
    },
    {
      is: 'tracking',
      then: Joi.object({
        kind: Joi.any(),
        tracking: Joi.object({
          state: Joi.string().valid('none', 'stopped', 'done').required(),
          framesDone: Joi.number().integer().min(0).required(),
          revision: Joi.number().integer().min(0).required(),
        }).required(),
      }),
    },
    { is: 'protocol', then: Joi.object({ kind: Joi.any(), protocolId: Joi.string().max(60).required() }) },
    {
      is: 'tried',
      then: Joi.object({ kind: Joi.any(), saddleMm: Joi.number().min(-80).max(80).allow(null).required() }),
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
 * New marks make old tracks void; so does a new film.
 */
export function applyEdit(session: FitSession, edit: unknown): EditResult {
  const checked = editSchema.validate(edit, { convert: false });
  if (checked.error) return { ok: false, message: checked.error.message };
  const e = checked.value as SessionEdit;
  const next = change(session, e);
  if (!next) {
    return {
      ok: false,
      message: NOT_POSSIBLE[e.kind] ?? 'There is no film in this session yet.',
    };
  }
  const whole = sessionSchema.validate(next, { convert: false });
  return whole.error ? { ok: false, message: whole.error.message } : { ok: true, session: next };
}

const NOT_POSSIBLE: Partial<Record<SessionEdit['kind'], string>> = {
  set: 'This is no part of a session.',
  moved: 'Nothing moves by this, or the bike has no such part.',
  'put-back': 'This change is not there, or was put back already.',
};

function change(s: FitSession, e: SessionEdit): FitSession | null {
  const untracked: TrackingState = {
    state: 'none',
    framesDone: 0,
    revision: (s.take?.tracking.revision ?? 0) + 1,
  };
  switch (e.kind) {
    case 'take':
      return { ...s, take: e.take, triedSaddleMm: null };
    case 'set':
      return withValue(s, e.at, e.value);
    case 'protocol':
      return { ...s, protocolId: e.protocolId, triedSaddleMm: null };
    case 'tried':
      return { ...s, triedSaddleMm: e.saddleMm };
    case 'moved':
      return moved(s, e);
    case 'put-back':
      return putBack(s, e.id, e.atIso);
    case 'restored':
      return { ...s, ...e.part };
    default:
      break;
  }
  if (!s.take) return null;
  switch (e.kind) {
    case 'wheels':
      return { ...s, take: { ...s.take, axles: { rear: e.rear, front: e.front }, rims: e.rims } };
    case 'marks':
      return {
        ...s,
        take: { ...s.take, markedFrame: e.frame, marks: e.marks, tracking: untracked },
        triedSaddleMm: null,
      };
    case 'tracking':
      return { ...s, take: { ...s.take, tracking: e.tracking }, triedSaddleMm: null };
  }
}

/**
 * The edit that takes another one back. Tracks have none: they are made from the marks, and made again from them.
 * @param session as it stood before the edit
 */
export function inverseOf(session: FitSession, edit: SessionEdit): SessionEdit | null {
  switch (edit.kind) {
    case 'set': {
      const value = valueAt(session, edit.at);
      // What had not been there before is taken back by what stood above it.
      if (value !== undefined) return { kind: 'set', at: edit.at, value };
      const above = edit.at.slice(0, edit.at.lastIndexOf('.'));
      const held = valueAt(session, above);
      return above.includes('.') && held !== undefined ? { kind: 'set', at: above, value: held } : null;
    }
    case 'protocol':
      return { kind: 'protocol', protocolId: session.protocolId };
    case 'tried':
      return { kind: 'tried', saddleMm: session.triedSaddleMm };
    case 'take':
    case 'wheels':
    case 'marks':
      return { kind: 'restored', part: { take: session.take, triedSaddleMm: session.triedSaddleMm } };
    case 'moved':
    case 'put-back':
      return { kind: 'restored', part: { current: session.current, changes: session.changes } };
    case 'restored': {
      const keys = Object.keys(edit.part) as Restorable[];
      return { kind: 'restored', part: Object.fromEntries(keys.map((key) => [key, session[key]])) };
    }
    case 'tracking':
      return null;
  }
}
