import { LANDMARKS, isFrontal } from '../../core/landmarks/landmarks.ts';
import type { FitSession, Take } from '../../core/records/types.ts';
import type { SessionEdit } from '../../core/visit/edits.ts';
import { mustEdit } from '../session/visits';
import { clipOf } from '../storage/sessions';
import { spawnTracker } from '../workers/spawn';
import { withWorker } from './withWorker';
import { runJob } from './jobs';

export const refindingJob = (takeId: string): string => `refind:${takeId}`;

/** For a take of the same camera, unmoved: the scale of another take, and its marks found again on this film. */
export async function refindMarks(session: FitSession, take: Take, from: Take, film: Blob): Promise<void> {
  const marks = Object.fromEntries(
    LANDMARKS.flatMap((k) => (from.marks[k] ? [[k, { x: from.marks[k].x, y: from.marks[k].y }]] : [])),
  );
  const edit = (e: SessionEdit): Promise<void> => mustEdit(session.id, e, `refind ${take.id}`);
  await runJob(refindingJob(take.id), {
    label: 'Finding the stickers again',
    to: `/sessions/${session.id}/film`,
    work: ({ signal }) =>
      withWorker(spawnTracker(), signal, async (api) => {
        if (isFrontal(take.view)) await edit({ kind: 'width', takeId: take.id, width: from.width });
        else await edit({ kind: 'wheels', takeId: take.id, ...from.axles, rims: from.rims });
        const marked = await clipOf(from);
        const found = marked && (await api.refind(marked, from.markedFrame, marks, film));
        if (found && !signal.aborted)
          await edit({ kind: 'marks', takeId: take.id, frame: found.frame, marks: found.marks });
        return found;
      }),
    words: (found) =>
      found
        ? `Scale taken over; ${Object.values(found.marks).filter((m) => m.onSticker).length} of ${Object.keys(marks).length} stickers found again on frame ${found.frame}. Look at them on Mark.`
        : 'Scale taken over. The stickers were not found again: mark them on this film.',
  });
}
