import Alert from '@mui/material/Alert';
import { useCallback, useMemo } from 'react';
import { useStore } from 'zustand';
import { openTake, type FitSession } from '../../../core/records/types.ts';
import { GUIDES, LINES, plainName } from '../../../core/landmarks/landmarks.ts';
import { NeedsFirst } from '../../ui/NeedsFirst';
import { ProposeMarks } from './ProposeMarks';
import { proposalStore, propose, type Proposal } from '../../jobs/proposals';
import { PointBoard } from '../../ui/film/PointBoard';
import type { BoardPoints } from '../../ui/film/boardPoints';
import { useClip } from '../../ui/film/useClip';
import { useSnap } from '../../ui/film/useSnap';
import { notify } from '../../session/notices';
import { stepVisit, visitStore } from '../../session/visits';
import { useEdit, useEditUnderWay } from '../../session/useEdit';
import { useSession } from '../session';

export default function Mark() {
  const { session } = useSession();
  if (!openTake(session)) {
    return (
      <NeedsFirst
        title="No film yet"
        text="The joints are marked on one frame of the film: bring it in first."
        to="../film"
        action="Go to Film"
      />
    );
  }
  return <Marking session={session} />;
}

const CHANGED_SINCE =
  'Something else was changed since. The arrow at the top takes back one change after the other.';

function Marking({ session }: { session: FitSession }) {
  const take = openTake(session)!;
  const clip = useClip(take, take.markedFrame);
  const { edit, refused } = useEdit();
  const busy = useEditUnderWay();
  const snap = useSnap(clip.blob);
  const onChange = useCallback(
    (points: BoardPoints, frame: number) => {
      void edit({ kind: 'marks', takeId: take.id, frame, marks: points });
      if (take.tracking.state === 'none') return;
      const edits = (): number | undefined => visitStore.getState().open[session.id]?.given;
      const thisOne = edits();
      notify('The tracks made from this mark were removed with it.', () => {
        if (edits() !== thisOne) notify(CHANGED_SINCE);
        else void stepVisit(session.id, 'undo').then((r) => r.ok || notify(r.message));
      });
    },
    [edit, take.id, take.tracking.state, session.id],
  );
  const stored: BoardPoints = take.marks;
  const takeId = take.id;
  // A proposal belongs to its frame: on another one it waits.
  const waiting = useStore(proposalStore, ({ takes }) => takes[takeId] ?? null);
  const proposal = waiting?.frame === clip.shown ? waiting.points : null;
  const setProposal = (points: Proposal | null): void => propose(takeId, clip.shown, points);
  const ghosts = useMemo(
    () =>
      proposal &&
      Object.fromEntries(
        Object.entries(proposal).map(([key, p]) => [key, { x: p.x, y: p.y, name: plainName(key) }]),
      ),
    [proposal],
  );
  const takeThem = (p: Proposal): void => {
    setProposal(null);
    const marks = Object.fromEntries(
      Object.entries(p).map(([key, m]) => [key, { x: m.x, y: m.y, onSticker: m.onSticker }]),
    );
    void edit({ kind: 'marks', takeId, frame: clip.shown, marks: { ...take.marks, ...marks } });
  };
  return (
    <PointBoard
      key={`${take.id}${take.view}`}
      clip={clip}
      items={GUIDES[take.view]}
      lines={LINES[take.view]}
      stored={stored}
      boundFrame={take.markedFrame}
      snap={snap}
      onChange={onChange}
      busy={busy}
      ghosts={ghosts}
      tools={
        <ProposeMarks
          session={session}
          take={take}
          clip={clip}
          proposal={proposal}
          onPropose={setProposal}
          onTake={takeThem}
        />
      }
      done={
        take.tracking.state !== 'none' && (
          <Alert severity="info" variant="outlined">
            These marks are tracked. Moving one discards the tracks; track again afterwards.
          </Alert>
        )
      }
    >
      {refused && <Alert severity="error">{refused}</Alert>}
    </PointBoard>
  );
}
