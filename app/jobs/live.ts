import { proxy, transfer } from 'comlink';
import equal from 'fast-deep-equal';
import { createStore } from 'zustand/vanilla';
import { measureChange, measuredChange, type ChangeState } from '../../core/kinematics/live/measuring.ts';
import type { HandsRest } from '../../core/kinematics/live/hands.ts';
import type { TrainerSample } from '../../core/kinematics/devices.ts';
import type { LoadAt } from '../../core/kinematics/live/ramp.ts';
import type { Posture, PostureEvent } from '../../core/kinematics/live/posture.ts';
import type { Turn } from '../../core/kinematics/live/turns.ts';
import type { LiveWarning, LiveWord } from '../../core/live/followLive.ts';
import type { MeasureReading } from '../../core/protocol/measures.ts';
import type { Change } from '../../core/plan/terms/change.ts';
import { filmingHeldBack } from '../../core/intake/intake.ts';
import type { FitSession } from '../../core/records/types.ts';
import { setupNow } from '../../core/visit/setups.ts';
import { protocolOf } from '../../core/visit/visitCase.ts';
import { editVisit, visitStore } from '../session/visits';
import type { Kept } from '../workers/live.worker';
import type { Pens } from '../workers/livePicture';
import { spawnLive } from '../workers/spawn';
import { camerasHere, cameraTrouble, openCamera, picturesOf } from './camera';
import { isRunning, jobEnded, runJob, stopJob } from './jobs';

/** Something that was changed on the bike while the camera ran: a change of the log, or one that was undone. */
export interface Mark {
  id: string;
  /** When the first part of it was put on, and the last. */
  beganS: number;
  atS: number;
  /** Undone, or everything as found: nothing of the log to measure. */
  isBack: boolean;
}

export interface LiveNow {
  visitId: string | null;
  phase: 'off' | 'starting' | 'looking' | 'following' | 'paused';
  /** How often a rider with stickers was looked for in vain. */
  tries: number;
  trouble: string | null;
  /** Landmarks that are followed, and those of them that are not seen just now. */
  followed: number;
  lost: readonly string[];
  cameras: readonly MediaDeviceInfo[];
  camera: { label: string; widthPx: number; heightPx: number } | null;
  nowS: number;
  /** No pictures come any more, though nobody has stopped the camera. */
  isSilent: boolean;
  handled: number;
  dropped: number;
  /** How long after a picture was taken it is read, beyond the least there ever was. */
  behindMs: number;
  framesPerS: number;
  cadenceRpm: number | null;
  posture: Posture;
  hands: HandsRest | null;
  warnings: readonly LiveWarning[];
  measures: readonly MeasureReading[];
  turns: readonly Turn[];
  events: readonly PostureEvent[];
  marks: readonly Mark[];
  /** How far each of the marks is measured, by its id. */
  measured: Readonly<Record<string, ChangeState>>;
  /** What a trainer has read while the camera ran. */
  load: readonly LoadAt[];
  /** From when to when the effort rose; `toS` null while it does. */
  ramp: { fromS: number; toS: number | null } | null;
}

const OFF: LiveNow = {
  visitId: null,
  phase: 'off',
  tries: 0,
  trouble: null,
  followed: 0,
  lost: [],
  cameras: [],
  camera: null,
  nowS: 0,
  isSilent: false,
  handled: 0,
  dropped: 0,
  behindMs: 0,
  framesPerS: 0,
  cadenceRpm: null,
  posture: 'riding',
  hands: null,
  warnings: [],
  measures: [],
  turns: [],
  events: [],
  marks: [],
  measured: {},
  load: [],
  ramp: null,
};

/** What the camera that runs in this page shows. */
export const liveStore = createStore<LiveNow>()(() => OFF);

const JOB = 'live';
const put = (part: Partial<LiveNow>): void => liveStore.setState(part);

const CAMERA = { widthPx: 1280, heightPx: 720, framesPerS: 60 };
/** Turns are kept for the strip and for the changes: those of an hour. */
const MOST_TURNS = 6000;
const MOST_EVENTS = 200;
/** An hour of a trainer that tells four times a second. */
const MOST_LOADS = 14_400;

/** Takes what a trainer reads now. */
export function noteLoad(powerW: number): void {
  const { phase, nowS, load } = liveStore.getState();
  if (phase !== 'following' || (load.length > 0 && load[load.length - 1].tS >= nowS)) return;
  put({ load: [...load, { tS: nowS, powerW }].slice(-MOST_LOADS) });
}

/** From now on the effort rises. */
export const beginRamp = (): void => put({ ramp: { fromS: liveStore.getState().nowS, toS: null } });

export function endRamp(): void {
  const { ramp, nowS } = liveStore.getState();
  if (ramp) put({ ramp: { ...ramp, toS: nowS } });
}

/** A trainer’s own table of the ramp, begun with it, in place of what was read meanwhile. */
export function loadFromTable(samples: readonly TrainerSample[]): void {
  const { ramp } = liveStore.getState();
  if (!ramp || samples.length === 0) return;
  const from = ramp.fromS - samples[0].tS;
  put({ load: samples.map(({ tS, powerW }) => ({ tS: from + tS, powerW })) });
}

let setPaused: (on: boolean) => void = () => undefined;
let askKept: () => Promise<Kept | null> = () => Promise.resolve(null);

/** The camera’s last minute with what was followed on it; null while nothing is followed. */
export const lastMinute = (): Promise<Kept | null> => askKept();

let showOn: (canvas: OffscreenCanvas | null, pens: Pens) => void = () => undefined;

/** Shows the camera’s pictures on a canvas while it runs; null: nobody looks any more. */
export const showLive = (canvas: OffscreenCanvas | null, pens: Pens): void => showOn(canvas, pens);

export const stopLive = (): void => stopJob(JOB);

export function pauseLive(on: boolean): void {
  if (!isRunning(JOB)) return;
  setPaused(on);
  put({ phase: on ? 'paused' : 'looking' });
}

/** Each change is measured from the turns between the one before it and the one after. */
function measureAll({ marks, turns, events }: LiveNow): LiveNow['measured'] {
  const roseS = events.filter((e) => e.kind === 'rose').map((e) => e.fromS);
  const states: Record<string, ChangeState> = {};
  let fromS = -Infinity;
  marks.forEach((mark, k) => {
    const { beganS, atS } = mark;
    const state = measureChange(turns, { fromS, beganS, atS, untilS: marks[k + 1]?.beganS, roseS });
    states[mark.id] = state;
    fromS = state.state === 'measured' ? state.settledS : mark.atS;
  });
  return states;
}

let heardMs = 0;
const SILENT_MS = 3000;

const hear = (w: LiveWord, behindMs: number): void => {
  heardMs = performance.now();
  const now = liveStore.getState();
  switch (w.kind) {
    case 'looking':
      put({ phase: 'looking', tries: w.tries, measures: [] });
      break;
    case 'following':
      put({ phase: 'following' });
      break;
    case 'picture': {
      const { tS, followed, lost, handled, dropped, framesPerS, posture, hands, warnings } = w;
      // What was on its way when it was paused is old.
      if (now.phase === 'paused') break;
      put({
        phase: 'following',
        isSilent: false,
        nowS: tS,
        ...{ followed, lost, handled, dropped, behindMs, framesPerS, posture, hands, warnings },
      });
      break;
    }
    case 'turns': {
      const turns = [...now.turns, ...w.turns].slice(-MOST_TURNS);
      const next = { ...now, turns, measures: w.measures, cadenceRpm: w.cadenceRpm };
      const measured = measureAll(next);
      put({ ...next, measured });
      // The first that is known of a change is kept at once; what more turns add, when it is over.
      const isNew = Object.entries(measured).some(
        ([id, s]) => s.state === 'measured' && now.measured[id]?.state !== 'measured',
      );
      if (isNew && now.visitId) void keepMeasured(now.visitId);
      break;
    }
    case 'posture':
      put({ events: [...now.events, w.event].slice(-MOST_EVENTS) });
      break;
  }
};

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
    const { nowS } = liveStore.getState();
    let { marks } = liveStore.getState();
    for (const c of session?.changes ?? []) {
      const isBack = c.putBackIso !== null;
      const before = known.get(c.id);
      if (before === stands(c)) continue;
      known.set(c.id, stands(c));
      const id = before !== undefined && isBack ? `${c.id} back` : c.id;
      const mark = { id, beganS: nowS, atS: nowS, isBack };
      // Moved further before the rider has said a word: it goes on.
      marks = marks.some((m) => m.id === id)
        ? marks.map((m) => (m.id === id ? { ...m, atS: nowS } : m))
        : [...marks, mark];
    }
    if (marks === liveStore.getState().marks) return;
    put({ marks });
    void keepMeasured(visitId);
  });
}

/** Says so when no pictures come any more. @returns ends the listening */
function listenForSilence(): () => void {
  const timer = setInterval(() => {
    const { phase, isSilent } = liveStore.getState();
    if (phase === 'following' && !isSilent && performance.now() - heardMs > SILENT_MS)
      put({ isSilent: true });
  }, 1000);
  return () => clearInterval(timer);
}

/** Another camera in place of the one that runs. */
export async function switchCamera(session: FitSession, cameraId: string): Promise<void> {
  stopLive();
  await jobEnded(JOB);
  await startLive(session, cameraId);
}

/** Turns the camera on and reads whoever rides before it, whatever page is drawn, until it is stopped, unplugged or taken away. */
export async function startLive(session: FitSession, cameraId: string): Promise<void> {
  if (isRunning(JOB)) return;
  put({ ...OFF, visitId: session.id, phase: 'starting', cameras: liveStore.getState().cameras });
  const end = await runJob(JOB, {
    label: 'The camera reads the rider',
    to: `/sessions/${session.id}/trial?view=live`,
    oneTab: true,
    words: () => null,
    work: async ({ signal }) => {
      const stream = await openCamera(cameraId, CAMERA).catch((error: unknown) => {
        throw new Error(cameraTrouble(error));
      });
      const worker = spawnLive();
      const forget = followChanges(session.id);
      const deaf = listenForSilence();
      const [track] = stream.getVideoTracks();
      track.addEventListener('ended', () => {
        put({ trouble: UNPLUGGED });
        stopLive();
      });
      signal.addEventListener('abort', () => {
        void worker.api.stop().catch(UNHEARD);
        void keepMeasured(session.id);
        // In the middle of a look it does not hear.
        setTimeout(worker.end, 500);
      });
      setPaused = (on) => void worker.api.pause(on).catch(UNHEARD);
      askKept = () => worker.api.keep();
      showOn = (canvas, pens) =>
        void worker.api.show(canvas && transfer(canvas, [canvas]), pens).catch(UNHEARD);
      const { width = CAMERA.widthPx, height = CAMERA.heightPx } = track.getSettings();
      put({
        cameras: await camerasHere(),
        camera: { label: track.label, widthPx: width, heightPx: height },
        phase: 'looking',
      });
      try {
        const pictures = picturesOf(stream);
        const { frame, crank } = setupNow(session);
        const ask = {
          wheelbaseMm: frame.wheelbaseMm,
          crankMm: crank.lengthMm ?? USUAL_CRANK_MM,
          protocol: protocolOf(session),
        };
        await worker.api.follow(transfer(pictures, [pictures as unknown as Transferable]), ask, proxy(hear));
        throw new Error(UNPLUGGED);
      } finally {
        forget();
        deaf();
        worker.end();
        stream.getTracks().forEach((t) => t.stop());
        await keepMeasured(session.id);
      }
    },
  });
  const { trouble } = liveStore.getState();
  put({ phase: 'off', trouble: trouble ?? (end.ok || end.stopped ? null : end.why) });
}

/** Told to a worker that has ended: nobody is there to hear it, and nothing is lost. */
const UNHEARD = (): void => undefined;

const USUAL_CRANK_MM = 172.5;
const UNPLUGGED =
  'The camera was unplugged, switched off or taken by another program. The figures so far are kept; start it again.';
