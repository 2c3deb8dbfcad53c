import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useRef, useState } from 'react';
import type { SessionEdit } from '../../core/records/edits.ts';
import type { Take } from '../../core/records/types.ts';
import { plainName, type Landmark } from '../../core/stroke/landmarks.ts';
import type { Tracks } from '../../core/stroke/tracks.ts';
import { jointsOfPose, reanchored, type PosePoint } from '../../core/tracking/poseJoints.ts';
import { saving } from '../storage/saveState';
import { saveTracks } from '../storage/stores';
import { spawnClipReader } from '../workers/spawn';
import { openPoseModel, type PoseModel } from './poseModel';

/** The model is asked about this many frames, and no closer together than so many. */
const ASKED = 24;
const CLOSEST_FRAMES = 8;
/** What the model sees at all, of what can be marked. */
const SEEN_BY_MODEL: ReadonlySet<string> = new Set([
  ...['hip', 'knee', 'ankle', 'heel', 'toe', 'shoulder', 'elbow', 'wrist', 'head', 'hand'],
  ...['kneeR', 'kneeL', 'ankleR', 'ankleL', 'toeR', 'toeL', 'hipR', 'hipL', 'shoulderR', 'shoulderL'],
]);

/** Points followed without a sticker may drift: the pose model, asked every so many frames, holds them to the joint. */
export function HoldByModel({
  take,
  tracks,
  blob,
  edit,
}: {
  take: Take;
  tracks: Tracks;
  blob: Blob | null;
  edit: (e: SessionEdit) => Promise<unknown>;
}) {
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const stopped = useRef(false);
  const loose = (Object.keys(tracks.landmarks) as Landmark[]).filter(
    (k) => take.marks[k] && !take.marks[k].onSticker && SEEN_BY_MODEL.has(k),
  );
  if (loose.length === 0 || !blob) return null;
  const hold = async (): Promise<void> => {
    const { from, to } = take.trim ?? { from: 0, to: take.video.frames - 1 };
    const step = Math.max(CLOSEST_FRAMES, Math.ceil((to - from) / ASKED));
    const asked = new Set([take.markedFrame]);
    for (let i = from; i <= to; i += step) asked.add(i);
    const frames = [...asked].sort((a, b) => a - b);
    stopped.current = false;
    setSaid(null);
    setProgress({ done: 0, of: frames.length });
    const reader = spawnClipReader();
    let model: PoseModel | null = null;
    try {
      model = await openPoseModel();
      const opened = await reader.api.open(blob);
      if (!opened.ok) throw new Error(opened.trouble.title);
      const seen: { frame: number; joints: Partial<Record<Landmark, PosePoint>> }[] = [];
      for (const [k, frame] of frames.entries()) {
        if (stopped.current) {
          setSaid('Stopped: the paths are as they were.');
          return;
        }
        const picture = await reader.api.frame(frame);
        const points = picture && (await model.find(picture));
        seen.push({ frame, joints: points ? jointsOfPose(points, take.view) : {} });
        setProgress({ done: k + 1, of: frames.length });
      }
      const landmarks = { ...tracks.landmarks };
      const words: string[] = [];
      for (const key of loose) {
        const anchors = seen.map((s) => ({ frame: s.frame, p: s.joints[key] ?? null }));
        const { xPx, yPx, movedPx } = reanchored(landmarks[key], anchors, take.markedFrame);
        if (movedPx === 0) continue;
        landmarks[key] = { ...landmarks[key], xPx, yPx };
        words.push(`${plainName(key)} by up to ${movedPx.toFixed(0)} px`);
      }
      if (words.length === 0) {
        setSaid('The model agrees with every path: nothing was moved.');
        return;
      }
      const revision = Date.now();
      await saving(() => saveTracks(take.id, revision, { tS: tracks.tS, landmarks }));
      await edit({
        kind: 'corrected',
        takeId: take.id,
        corrections: take.corrections,
        hidden: take.hidden,
        tracking: { ...take.tracking, revision },
      });
      setSaid(`Brought over: ${words.join(', ')}. Undo takes it back.`);
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    } finally {
      model?.close();
      reader.end();
      setProgress(null);
    }
  };
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {progress ? (
        <Box role="status">
          <Typography variant="body2">
            {progress.done} of {progress.of} frames looked at by the pose model
          </Typography>
          <LinearProgress
            variant="determinate"
            value={(100 * progress.done) / progress.of}
            aria-label="Frames looked at"
          />
          <Button
            size="small"
            onClick={() => {
              stopped.current = true;
            }}
          >
            Stop
          </Button>
        </Box>
      ) : (
        <>
          <Typography variant="body2" color="textSecondary">
            Without a sticker: {loose.map(plainName).join(', ')}. Their paths may drift.
          </Typography>
          <Button size="small" variant="outlined" onClick={() => void hold()}>
            Hold them by the pose model
          </Button>
        </>
      )}
      {said && (
        <Alert severity="info" variant="outlined">
          {said}
        </Alert>
      )}
    </Box>
  );
}
