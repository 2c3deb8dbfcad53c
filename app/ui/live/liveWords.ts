import { plainName, type SideLandmark } from '../../../core/landmarks/landmarks.ts';
import type { LiveNow } from '../../jobs/live';

/** What keeps the figures from being as good as they could be, and the cure. */
export const LIVE_WARNINGS: Record<LiveNow['warnings'][number], string> = {
  dark: 'Too dark: bring a lamp, or the shutter smears the stickers.',
  slow: 'Fewer than 40 pictures a second come: more light, or another camera; fast joints are read more roughly.',
  busy: 'This computer does not keep up with the camera: close other programs and tabs. What is read is right, but turns are missed.',
  moved: 'The camera has been moved: stop and start it, so that the wheels are found again.',
  unread:
    'No whole turn can be read yet: let the rider pedal on evenly. If it stays so, the stickers are looked for anew.',
  'by-crank':
    'No wheels are seen, or the wheelbase is not noted on Bike: the scale is the crank’s, the level is taken as true.',
};

/** What the camera is at, in a sentence. */
export function liveText({ phase, tries, posture, lost, followed, isSilent, trouble }: LiveNow): string {
  if (phase === 'starting') return 'Turning the camera on…';
  if (phase === 'paused') return 'Paused: nothing is read.';
  if (phase === 'looking')
    return tries === 0
      ? 'Looking for the stickers: let the rider pedal evenly.'
      : 'No rider with stickers found yet: the whole rider side on, all stickers in sight, pedalling evenly. It looks again by itself.';
  if (phase === 'off') return trouble ? 'The camera is off.' : '';
  if (isSilent)
    return 'No pictures come from the camera any more: see that it is on and connected, then stop and start it.';
  if (lost.length > 0 && lost.length === followed) return 'The rider is not seen: nothing is read.';
  if (lost.length > 0)
    return `Not seen: ${lost.map((k) => plainName(k as SideLandmark)).join(', ')}. Turns without count for nothing.`;
  if (posture === 'rose') return 'The rider is up from the saddle: not read.';
  if (posture === 'hand-off') return 'The near hand is off the bar.';
  return 'Reading every turn.';
}

/** How much longer the rider needs to find the new place, by the turns that are wanted at the least. */
export const settlingText = (more: number): string =>
  `Settling: ${more === 1 ? 'the figures still move' : `${more} turns more`}`;
