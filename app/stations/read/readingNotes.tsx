import Alert from '@mui/material/Alert';
import { ANGLE_KEYS, ANGLE_NAMES } from '../../../core/kinematics/angles.ts';
import { plainName } from '../../../core/landmarks/landmarks.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { Figure } from '../../ui/Figure';

/** What readings from whichever side have in common. */
type AnyReading = Pick<Reading, 'strokes' | 'usedStrokes' | 'provisional' | 'cadenceRpm'>;

/** Cadence and strokes, to be read from two metres. */
export function TurnFigures({ reading }: { reading: AnyReading }) {
  return (
    <>
      <Figure name="Cadence" value={reading.cadenceRpm.toFixed(1)} plusMinus="rpm" testId="cadence" />
      <Figure
        name="Strokes"
        value={String(reading.usedStrokes)}
        plusMinus={reading.provisional ? 'provisional' : `of ${reading.strokes.length}`}
        testId="strokes"
      />
    </>
  );
}

export function ProvisionalNote({ reading }: { reading: AnyReading }) {
  return reading.provisional ? (
    <Alert severity="warning" variant="outlined" sx={{ mb: 1.5 }}>
      Fewer than five whole strokes: every figure here is provisional. Pieces of strokes count for the curves.
    </Alert>
  ) : null;
}

/** Joints by the pose model: what every figure is worth. */
export function EstimatedNote({ reading }: { reading: Reading }) {
  return reading.estimatedSdMm ? (
    <Alert severity="warning" variant="outlined" sx={{ mb: 1.5 }}>
      A first look without stickers: the joints are where the pose model sees them, and every figure is an
      estimate with a larger ±. Film again with stickers before anything is moved by it.
    </Alert>
  ) : null;
}

/** Which landmarks were not seen, and what is left out for it. */
export function NotSeenNote({ reading }: { reading: Reading }) {
  const { standIns } = reading;
  if (standIns.length === 0) return null;
  const out = ANGLE_KEYS.filter((key) => !reading.angles[key]).map((key) => ANGLE_NAMES[key].toLowerCase());
  return (
    <Alert severity="info" variant="outlined" sx={{ mb: 1.5 }}>
      Not seen on this film: {standIns.map(plainName).join(', ')}. Left out for it: {out.join(', ')}. The rest
      stands; what is predicted takes usual proportions there.
    </Alert>
  );
}

/** What was reported of the cadence against what the film shows: a wrong frame rate is seen by it. */
export function CadenceNote({ typed, read }: { typed: number | null; read: number }) {
  if (typed === null || Math.abs(typed - read) <= Math.max(3, 0.05 * read)) return null;
  return (
    <Alert severity="warning" variant="outlined" sx={{ mb: 1.5 }}>
      {typed} rpm were noted, but the film shows {read.toFixed(1)}. If it was filmed in slow motion, its time
      stamps are stretched: angles stay right, cadence and power do not.
    </Alert>
  );
}

/** What was bridged, lost and left out: of a reading from whichever side. */
export function LossNote({ reading }: { reading: Pick<Reading, 'strokes'> & { landmarks: object } }) {
  const rows = (
    Object.entries(reading.landmarks) as [string, { bridgedFrames: number; lostFrames: number }][]
  ).filter(([, n]) => n.bridgedFrames + n.lostFrames > 0);
  const faults = reading.strokes.filter((s) => s.fault);
  if (rows.length === 0 && faults.length === 0) return null;
  const WHY = { gap: 'a gap', backward: 'backward motion', cadence: 'a cadence off by over 15 %' };
  return (
    <Alert severity="info" variant="outlined" sx={{ mt: 2 }}>
      {rows.map(([key, n]) => (
        <div key={key}>
          {plainName(key)}: {n.bridgedFrames} frames bridged over short gaps
          {n.lostFrames > 0 && `, ${n.lostFrames} left open`}.
        </div>
      ))}
      {faults.length > 0 && (
        <div>
          Left out: {faults.length} {faults.length === 1 ? 'turn' : 'turns'} with{' '}
          {[...new Set(faults.map((f) => WHY[f.fault!]))].join(', ')}.
        </div>
      )}
    </Alert>
  );
}
