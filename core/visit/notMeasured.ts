import type { FitSession } from '../records/types.ts';
import { ANGLE_KEYS, ANGLE_NAMES, landmarksOf } from '../kinematics/angles.ts';
import { isFrontal, plainName, type SideOptional } from '../landmarks/landmarks.ts';
import type { Reading } from '../kinematics/read.ts';

/** What a side film leaves out for a landmark that was not seen. */
function withoutLandmarks(reading: Reading): [what: string, why: string][] {
  const lost = reading.standIns;
  return ANGLE_KEYS.flatMap((key): [string, string][] => {
    const points = landmarksOf(key).filter((k) => (lost as readonly string[]).includes(k));
    return points.length
      ? [
          [
            ANGLE_NAMES[key],
            `${points.map(plainName).join(' and ')} ${points.length > 1 ? 'were' : 'was'} not seen`,
          ],
        ]
      : [];
  });
}

/** What this visit's films do not tell, and why: said so that nobody takes silence for health. */
export function notMeasured(session: FitSession, reading: Reading | null): { what: string; why: string }[] {
  const views = new Set(session.takes.map((t) => t.view));
  const out: { what: string; why: string }[] = [];
  const other = views.has('drive') ? (views.has('nonDrive') ? null : 'left') : 'right';
  if (other) out.push({ what: `The ${other} leg`, why: 'there is no film of that side' });
  if (!views.has('front') && !views.has('rear'))
    out.push({
      what: 'Knee path, stance, pelvis and shoulders level or not',
      why: 'there is no film from the front or the rear',
    });
  if (reading) {
    const open = (keys: readonly SideOptional[]): string =>
      keys
        .filter((k) => !reading.landmarks[k])
        .map(plainName)
        .join(' and ');
    const hidden: [string, string][] = [
      ['Pelvis tilt', open(['sacrum', 'asis'])],
      ['Head and what the wind sees', open(['head'])],
      ['Shoulder against mid-back', open(['c7', 'sacrum'])],
      ['Grip', open(['hand'])],
    ];
    for (const [what, points] of hidden)
      if (points) out.push({ what, why: `${points} ${points.includes(' and ') ? 'are' : 'is'} not marked` });
    for (const [what, points] of withoutLandmarks(reading)) out.push({ what, why: points });
    const lost = Object.entries(reading.landmarks).filter(([, n]) => n.lostFrames > 0);
    if (lost.length)
      out.push({
        what: 'Some frames',
        why: `${lost.map(([key, n]) => `${plainName(key)} on ${n.lostFrames}`).join(', ')} could not be followed`,
      });
  }
  const holds = new Set(
    session.takes
      .filter((t) => !isFrontal(t.view))
      .map((t) => t.position)
      .filter(Boolean),
  );
  if (holds.size < 2) out.push({ what: 'Other holds', why: 'only one position of the hands was filmed' });
  if (!Object.values(session.statics).some((r) => r.left !== null || r.right !== null || r.both !== null))
    out.push({ what: 'Standing still', why: 'no goniometer reading was typed in' });
  return out;
}
