import type { ReactNode } from 'react';
import type { FrontalReading, FrontalResult } from '../../../core/kinematics/frontalReading.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { NeedsFirst } from '../../ui/NeedsFirst';
import { ReadingWaits } from '../../ui/ReadingGate';
import { useTakeResults } from '../../jobs/useTakeResults';

const WHAT_TO_DO: Record<Extract<FrontalResult, { ok: false }>['reason'], string> = {
  'landmark-missing': 'Mark it again and track once more.',
  'too-few-frames': 'Track the rest of the film, or bring in a longer one.',
  'no-scale': 'Type the crank’s length or a width on Scale.',
  'no-stroke': 'See on Track whether both feet are followed all the way.',
};

/** Hands on a reading from the front or the rear, or says what is missing and where to get it. */
export function FrontalGate({
  session,
  take,
  children,
}: {
  session: FitSession;
  take: Take;
  children: (reading: FrontalReading, tracks: Tracks) => ReactNode;
}) {
  const got = useTakeResults(session, [take])?.[0];
  if (!got || got.kind === 'side') return <ReadingWaits />;
  if (got.kind === 'missing') {
    return got.what === 'tracks' ? (
      <NeedsFirst
        title="Nothing tracked yet"
        text="Knee paths, pelvis and stance are read from the points’ ways through the film: track them first."
        to="../track"
        action="Go to Track"
      />
    ) : (
      <NeedsFirst
        title="No scale yet"
        text="Type the crank’s length, or point out a width across the bike that is known."
        to="../scale"
        action="Go to Scale"
      />
    );
  }
  if (!got.result.ok) {
    return (
      <NeedsFirst
        title="These tracks give no stroke"
        text={`${got.result.detail} ${WHAT_TO_DO[got.result.reason]}`}
        to={got.result.reason === 'no-scale' ? '../scale' : '../track'}
        action={got.result.reason === 'no-scale' ? 'Go to Scale' : 'Go to Track'}
      />
    );
  }
  return children(got.result, got.tracks);
}
