import type { PlanePoint } from '../math/vec.ts';
import { balanceOf, type Balance } from '../kinematics/balance.ts';
import type { Reading } from '../kinematics/read.ts';
import type { Outline, Turn } from './predict.ts';

type Joint = Exclude<keyof Outline, 'thetaDeg' | 'spindle'>;
const JOINTS: readonly Joint[] = ['heel', 'toe', 'ankle', 'knee', 'hip', 'shoulder', 'elbow', 'wrist'];
/** What goes along with which joint. */
const CARRIED = { head: 'shoulder', c7: 'shoulder', hand: 'wrist', sacrum: 'hip', asis: 'hip' } as const;

const meanOf = (t: Turn, joint: Joint): PlanePoint => ({
  x: t.outlines.reduce((s, o) => s + o[joint].x, 0) / t.outlines.length,
  y: t.outlines.reduce((s, o) => s + o[joint].y, 0) / t.outlines.length,
});

/**
 * The share on the hands after a change: every joint's mean place moved by what the model predicts, then balanced as the film was
 * (handbook: models, balance). An indicator, never a promise.
 */
export function balanceAfter(
  reading: Reading,
  before: Turn,
  after: Turn,
  known: { powerW: number | null; massKg: number | null },
): Balance | null {
  const paths = { ...reading.body.paths };
  const shift = (key: keyof typeof paths, joint: Joint): void => {
    const p = paths[key];
    if (!p) return;
    const [a, b] = [meanOf(before, joint), meanOf(after, joint)];
    const by = (c: typeof p.x, d: number): typeof p.x => ({
      ...c,
      curve: { ...c.curve, mean: c.curve.mean + d },
    });
    paths[key] = { ...p, x: by(p.x, b.x - a.x), y: by(p.y, b.y - a.y) };
  };
  for (const joint of JOINTS) shift(joint, joint);
  for (const [key, joint] of Object.entries(CARRIED) as [keyof typeof CARRIED, Joint][]) shift(key, joint);
  return balanceOf({ ...reading, body: { ...reading.body, paths } }, known);
}
