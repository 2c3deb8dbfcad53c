import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import type { SessionEdit } from '../../core/records/edits.ts';
import type { FitSession, Take } from '../../core/records/types.ts';
import { isFrontal, LANDMARKS } from '../../core/stroke/landmarks.ts';
import { clipOf } from '../storage/sessions';
import { spawnTracker } from '../workers/spawn';
import { takeText } from './takeWords';

/** For a take of the same camera, unmoved: scale from the take before, and its marks found again on this film. */
export function CameraStood({
  session,
  take,
  blob,
  edit,
}: {
  session: FitSession;
  take: Take;
  blob: Blob | null;
  edit: (e: SessionEdit) => Promise<unknown>;
}) {
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const model = session.takes.find(
    (t) =>
      t.id !== take.id &&
      t.view === take.view &&
      (t.axles.rear ?? t.width.right) &&
      t.video.widthPx === take.video.widthPx &&
      t.video.heightPx === take.video.heightPx,
  );
  const blank = !take.axles.rear && !take.width.right && Object.keys(take.marks).length === 0;
  if (!model || !blob || (!blank && !said)) return null;
  const copy = async (): Promise<void> => {
    setBusy(true);
    const worker = spawnTracker();
    try {
      if (isFrontal(take.view)) await edit({ kind: 'width', takeId: take.id, width: model.width });
      else await edit({ kind: 'wheels', takeId: take.id, ...model.axles, rims: model.rims });
      const film = await clipOf(model);
      const marks = Object.fromEntries(
        LANDMARKS.flatMap((k) =>
          model.marks[k] ? [[k, { x: model.marks[k]!.x, y: model.marks[k]!.y }]] : [],
        ),
      );
      const found = film && (await worker.api.refind(film, model.markedFrame, marks, blob));
      if (found) await edit({ kind: 'marks', takeId: take.id, frame: found.frame, marks: found.marks });
      const n = found ? Object.values(found.marks).filter((m) => m.onSticker).length : 0;
      setSaid(
        found
          ? `Scale taken over; ${n} of ${Object.keys(marks).length} stickers found again on frame ${found.frame}. Look at them on Mark.`
          : 'Scale taken over. The stickers were not found again: mark them on this film.',
      );
    } catch (error) {
      setSaid(`That did not work: ${error instanceof Error ? error.message : String(error)}`);
    } finally {
      worker.end();
      setBusy(false);
    }
  };
  return (
    <Box>
      {blank && (
        <Button variant="outlined" disabled={busy} onClick={() => void copy()}>
          {busy ? 'Finding the stickers again…' : `The camera stood still: as in “${takeText(model)}”`}
        </Button>
      )}
      {said && (
        <Alert severity="info" variant="outlined" sx={{ mt: 1 }}>
          {said}
        </Alert>
      )}
    </Box>
  );
}
