import type { VideoInfo } from '../../core/records/types.ts';
import type { ClipTrouble } from './clipTrouble';

const LONGEST_S = 2 * 3600;
const [LEAST_PX, MOST_PX] = [64, 8192];

/** Two hours at 240 frames a second: a film that says it has more is laid out nowhere. */
export const MOST_FRAMES = 1_800_000;

export const tooMany = (frames: number): ClipTrouble => ({
  title: `This file says it holds ${frames.toLocaleString('en')} frames: no clip does.`,
  advice: 'Its index is damaged: copy it from the camera again. A clip of a minute is enough.',
});

/** Why a film can't be what its file says of it; null where it can. */
export function implausible({ widthPx, heightPx, durationS }: VideoInfo): ClipTrouble | null {
  if (Math.min(widthPx, heightPx) < LEAST_PX || Math.max(widthPx, heightPx) > MOST_PX)
    return {
      title: `This file says its picture is ${widthPx} × ${heightPx} px: no camera films that.`,
      advice: `Pictures from ${LEAST_PX} to ${MOST_PX} px a side are taken. The file is damaged, or no film of a rider: copy it from the camera again.`,
    };
  if (!(durationS >= 0 && durationS <= LONGEST_S))
    return {
      title: `This film is ${durationS > 48 * 3600 ? `${Math.round(durationS / 86_400)} days` : `${Math.round(durationS / 3600)} hours`} long by its own time stamps.`,
      advice:
        'A clip of a minute is enough. Cut the part with the rider out of it, or copy it from the camera again if its times are damaged.',
    };
  return null;
}
