import { proxy, transfer } from 'comlink';
import { createStore } from 'zustand/vanilla';
import { measureChange, type ChangeState } from '../../core/kinematics/live/measuring.ts';
import type { HandsRest } from '../../core/kinematics/live/hands.ts';
import type { TrainerSample } from '../../core/kinematics/devices.ts';
import type { LoadAt } from '../../core/kinematics/live/ramp.ts';
import type { Posture, PostureEvent } from '../../core/kinematics/live/posture.ts';
import type { Turn } from '../../core/kinematics/live/turns.ts';
import type { LiveAsk, LiveWarning, LiveWord } from '../../core/live/followLive.ts';
import type { MeasureReading } from '../../core/protocol/measures.ts';
import type { Kept } from '../workers/live.worker';
import type { Pens } from '../workers/livePicture';
import { spawnLive } from '../workers/spawn';
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
  /** Whose riding it is: the visit’s id, or what else was started. */
  ownerId: string | null;
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
  ownerId: null,
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
      if (isNew) void onMeasured();
      break;
    }
    case 'posture':
      put({ events: [...now.events, w.event].slice(-MOST_EVENTS) });
      break;
  }
};

let onMeasured: () => Promise<void> = () => Promise.resolve();

/** Marks that something is put on the bike now, or taken off it again; moved further before the rider has said a word, it goes on. */
export function markChange(id: string, isBack = false): void {
  const { nowS, marks } = liveStore.getState();
  const mark = { id, beganS: nowS, atS: nowS, isBack };
  put({
    marks: marks.some((m) => m.id === id)
      ? marks.map((m) => (m.id === id ? { ...m, atS: nowS } : m))
      : [...marks, mark],
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

/** Pictures that come by themselves, or where to ask for the next one. */
export interface OpenCamera {
  pictures: ReadableStream<VideoFrame> | MessagePort;
  label: string;
  widthPx: number;
  heightPx: number;
  cameras: readonly MediaDeviceInfo[];
  close: () => void;
}

/** Where the pictures come from, and who is told of what they show. */
export interface LiveSource {
  ownerId: string;
  /** What is being done, and the page on which it is seen. */
  label: string;
  to: string;
  ask: LiveAsk & { keeps: boolean };
  /** @param ended to be called when it is unplugged or taken away  @throws Error in words */
  open: (ended: () => void) => Promise<OpenCamera>;
  /** Marks what is changed on the bike from now on. @returns ends that */
  watchBike: () => () => void;
  /** More is known of the changes, or no more will be. */
  onMeasured: () => Promise<void>;
}

export const whenStopped = (): Promise<void> => jobEnded(JOB);

/** Reads whoever rides before a camera, whatever page is drawn, until it is stopped or ends. */
export async function runLive(source: LiveSource): Promise<void> {
  if (isRunning(JOB)) return;
  const { ownerId, label, to, ask } = source;
  put({ ...OFF, ownerId, phase: 'starting', cameras: liveStore.getState().cameras });
  const end = await runJob(JOB, {
    ...{ label, to },
    oneTab: true,
    words: () => null,
    work: async ({ signal }) => {
      const opened = await source.open(() => {
        put({ trouble: UNPLUGGED });
        stopLive();
      });
      const worker = spawnLive();
      ({ onMeasured } = source);
      const forget = source.watchBike();
      const deaf = listenForSilence();
      signal.addEventListener('abort', () => {
        void worker.api.stop().catch(UNHEARD);
        void source.onMeasured();
        // In the middle of a look it does not hear.
        setTimeout(worker.end, 500);
      });
      setPaused = (on) => void worker.api.pause(on).catch(UNHEARD);
      askKept = () => worker.api.keep();
      showOn = (canvas, pens) =>
        void worker.api.show(canvas && transfer(canvas, [canvas]), pens).catch(UNHEARD);
      const { cameras, pictures, widthPx, heightPx } = opened;
      put({ cameras, camera: { label: opened.label, widthPx, heightPx }, phase: 'looking' });
      try {
        const given = transfer(pictures, [pictures as unknown as Transferable]);
        await worker.api.follow(given, ask, proxy(hear));
        throw new Error(UNPLUGGED);
      } finally {
        forget();
        deaf();
        worker.end();
        opened.close();
        await source.onMeasured();
      }
    },
  });
  const { trouble } = liveStore.getState();
  put({ phase: 'off', trouble: trouble ?? (end.ok || end.stopped ? null : end.why) });
}

/** Told to a worker that has ended: nobody is there to hear it, and nothing is lost. */
const UNHEARD = (): void => undefined;

const UNPLUGGED =
  'The camera was unplugged, switched off or taken by another program. The figures so far are kept; start it again.';
