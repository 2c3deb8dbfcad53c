import equal from 'fast-deep-equal';
import { filmingHeldBack } from '../../core/intake/intake.ts';
import { measuredChange } from '../../core/kinematics/live/measuring.ts';
import type { Change } from '../../core/plan/terms/change.ts';
import type { FitSession } from '../../core/records/types.ts';
import { setupNow } from '../../core/visit/setups.ts';
import { protocolOf } from '../../core/visit/visitCase.ts';
import { editVisit, visitStore } from '../session/visits';
import { camerasHere, cameraTrouble, openCamera, picturesOf } from './camera';
import { liveStore, markChange, runLive, stopLive, whenStopped, type OpenCamera } from './live';

const CAMERA = { widthPx: 1280, heightPx: 720, framesPerS: 60 };
const USUAL_CRANK_MM = 172.5;

/** Stores with the visit what its changes did, where that is new. */
async function keepMeasured(visitId: string): Promise<void> {
  const { marks, measured } = liveStore.getState();
  const session = visitStore.getState().open[visitId]?.shown;
  for (const { id, isBack } of marks) {
    const state = measured[id];
    const change = session?.changes.find((c) => c.id === id);
    if (isBack || !change || state?.state !== 'measured') continue;
    const kept = measuredChange(state);
    if (equal(change.measured, kept)) continue;
    await editVisit(visitId, { kind: 'set', at: `changes.#${id}.measured`, value: kept }, `measured ${id}`);
  }
}

/** Marks what is put on the bike, or taken off it again, wherever in the page that is done. */
function followChanges(visitId: string): () => void {
  const stands = (c: Change): string => JSON.stringify([c.values, c.putBackIso]);
  const shown = (): FitSession | undefined => visitStore.getState().open[visitId]?.shown;
  const known = new Map((shown()?.changes ?? []).map((c) => [c.id, stands(c)]));
  return visitStore.subscribe(() => {
    const session = shown();
    // Consent that is taken back is taken back at once.
    if (session && filmingHeldBack(session.intake)) stopLive();
    let isChanged = false;
    for (const c of session?.changes ?? []) {
      const isBack = c.putBackIso !== null;
      const before = known.get(c.id);
      if (before === stands(c)) continue;
      known.set(c.id, stands(c));
      const id = before !== undefined && isBack ? `${c.id} back` : c.id;
      markChange(id, isBack);
      isChanged = true;
    }
    if (isChanged) void keepMeasured(visitId);
  });
}

async function openForVisit(cameraId: string, ended: () => void): Promise<OpenCamera> {
  const stream = await openCamera(cameraId, CAMERA).catch((error: unknown) => {
    throw new Error(cameraTrouble(error));
  });
  const [track] = stream.getVideoTracks();
  track.addEventListener('ended', ended);
  const { width = CAMERA.widthPx, height = CAMERA.heightPx } = track.getSettings();
  return {
    pictures: picturesOf(stream),
    ...{ label: track.label, widthPx: width, heightPx: height },
    cameras: await camerasHere(),
    close: () => stream.getTracks().forEach((t) => t.stop()),
  };
}

/** Turns the camera on and reads the rider of a visit, until it is stopped, unplugged or taken away. */
export function startLive(session: FitSession, cameraId: string): Promise<void> {
  const { frame, crank } = setupNow(session);
  return runLive({
    ownerId: session.id,
    label: 'The camera reads the rider',
    to: `/sessions/${session.id}/trial?view=live`,
    ask: {
      wheelbaseMm: frame.wheelbaseMm,
      crankMm: crank.lengthMm ?? USUAL_CRANK_MM,
      protocol: protocolOf(session),
      keeps: true,
    },
    open: (ended) => openForVisit(cameraId, ended),
    watchBike: () => followChanges(session.id),
    onMeasured: () => keepMeasured(session.id),
  });
}

/** Another camera in place of the one that runs. */
export async function switchCamera(session: FitSession, cameraId: string): Promise<void> {
  stopLive();
  await whenStopped();
  await startLive(session, cameraId);
}
