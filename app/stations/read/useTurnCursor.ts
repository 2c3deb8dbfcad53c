import { useMemo } from 'react';
import { wrap360, turnDeg } from '../../../core/math/angles.ts';
import type { Reading } from '../../../core/kinematics/read.ts';

import type { Clip } from '../../ui/film/useClip';

/** What of a reading, from whichever side, ties frames to the crank's turn. */
type Turning = Pick<Reading, 'frames' | 'thetaDeg' | 'tS' | 'strokes'>;

/** One cursor for film and charts: the crank angle of the shown frame, and the frame for a crank angle pointed at. */
export function useTurnCursor(
  clip: Clip,
  reading: Turning,
): { cursorDeg: number | null; goToTheta: (thetaDeg: number) => void; frameIndex: number } {
  // The reading leaves out frames with doubled stamps, so its rows and the film's frames are not numbered alike.
  const frameIndex = useMemo(() => reading.frames.indexOf(clip.shown), [clip.shown, reading]);
  const theta = frameIndex >= 0 ? reading.thetaDeg[frameIndex] : NaN;
  return {
    frameIndex,
    cursorDeg: Number.isFinite(theta) ? wrap360(theta) : null,
    goToTheta(wanted) {
      const now = reading.tS[Math.max(0, frameIndex)];
      const used = reading.strokes.filter((s) => !s.fault);
      const stroke = used.find((s) => now >= s.startS && now < s.endS) ?? used[0];
      let best = -1;
      let gap = Infinity;
      reading.tS.forEach((t, i) => {
        if (t < stroke.startS || t >= stroke.endS || !Number.isFinite(reading.thetaDeg[i])) return;
        const off = Math.abs(turnDeg(reading.thetaDeg[i], wanted));
        if (off < gap) {
          gap = off;
          best = i;
        }
      });
      if (best >= 0) clip.goTo(reading.frames[best]);
    },
  };
}
