import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import type { FitSession } from '../../core/records/types.ts';
import type { Reading } from '../../core/kinematics/read.ts';
import type { Tracks } from '../../core/tracking/tracks.ts';
import { NeedsFirst } from './NeedsFirst';
import { useReading } from '../jobs/useTakeResults';
import { Working } from './Working';

const WHAT_TO_DO: Record<string, string> = {
  backwards: 'See on Film which side the camera stood, and whether the clip was mirrored or reversed.',
  'no-stroke': 'Film at least five whole turns, or see on Track whether the foot was lost.',
  'no-crank': 'See on Track whether heel and toe are followed all the way round.',
  'too-few-frames': 'Track the rest of the film, or bring in a longer one.',
  'landmark-missing': 'Mark it again and track once more.',
};

/** While the tracks are being read. */
export function ReadingWaits() {
  return (
    <Box sx={{ flex: 1, display: 'grid', placeItems: 'center' }}>
      <Working words="Reading the tracks" sx={{ width: 320 }} />
    </Box>
  );
}

/** Hands on a reading, or says what is missing and where to get it. */
export function ReadingGate({
  session,
  children,
}: {
  session: FitSession;
  children: (reading: Reading, tracks: Tracks) => ReactNode;
}) {
  const state = useReading(session);
  if (state.status === 'waiting') {
    return <ReadingWaits />;
  }
  if (state.status === 'missing') {
    return state.what === 'tracks' ? (
      <NeedsFirst
        title="Nothing tracked yet"
        text="The angles are read from the joints’ paths through the film: track them first."
        to="../track"
        action="Go to Track"
      />
    ) : (
      <NeedsFirst
        title="No scale yet"
        text="Point out both axles and type the wheelbase: level, direction and millimetres come from them."
        to="../scale"
        action="Go to Scale"
      />
    );
  }
  if (!state.result.ok) {
    return (
      <NeedsFirst
        title="These tracks give no stroke"
        text={`${state.result.detail} ${WHAT_TO_DO[state.result.reason]}`}
        to="../track"
        action="Go to Track"
      />
    );
  }
  return children(state.result, state.tracks);
}
