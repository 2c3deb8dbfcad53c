import { transfer } from 'comlink';
import { createStore } from 'zustand/vanilla';
import { measuredChange } from '../../core/kinematics/live/measuring.ts';
import type { MeasuredChange, RiderWord } from '../../core/plan/terms/change.ts';
import { protocolById } from '../../core/protocol/protocols.ts';
import {
  NOT_MOVED,
  practiceRider,
  practiceWord,
  trulyMoved,
  type Moved,
  type PracticeRider,
} from '../../sim/practice.ts';
import { spawnPractice } from '../workers/spawn';
import { liveStore, markChange, runLive, type OpenCamera } from './live';

const PRACTICE = 'practice:';
/** Whose riding it is, where a camera that runs belongs to no visit. */
export const practiceId = (rider: PracticeRider | null): string => `${PRACTICE}${rider?.seed ?? ''}`;
export const isPractice = (ownerId: string | null): boolean => ownerId?.startsWith(PRACTICE) ?? false;

/** What was moved in one go, what is read of it, and what it truly did. */
export interface PracticeChange {
  id: string;
  before: Moved;
  after: Moved;
  /** What the fitter thought that the knee at its straightest would do, bend, degrees. */
  guessDeg: number | null;
  truly: Readonly<Record<string, number>>;
  word: RiderWord;
  measured: MeasuredChange | null;
}

export interface PracticeNow {
  rider: PracticeRider | null;
  moved: Moved;
  changes: readonly PracticeChange[];
  /** Where this rider is at ease has been looked up. */
  isShown: boolean;
}

export const practiceStore = createStore<PracticeNow>()(() => ({
  rider: null,
  moved: NOT_MOVED,
  changes: [],
  isShown: false,
}));

/** The next made-up rider, on a bike that nobody has touched. */
export function meetRider(seed: number): void {
  practiceStore.setState({ rider: practiceRider(seed), moved: NOT_MOVED, changes: [], isShown: false });
}

export const showEase = (): void => practiceStore.setState({ isShown: true });

let tellCamera: (moved: Moved) => void = () => undefined;

/**
 * Moves something on the bike under the rider; before it is measured, what is moved further belongs to the same change.
 * @param guessDeg what the fitter expects of the knee at its straightest, bend
 * @returns why that can't be had, or null
 */
export function moveBike(key: keyof Moved, byMm: number, guessDeg: number | null = null): string | null {
  const { rider, moved, changes } = practiceStore.getState();
  if (!rider) return null;
  const after = { ...moved, [key]: moved[key] + byMm };
  const last = changes.at(-1);
  const { measured, marks } = liveStore.getState();
  const state = last && measured[last.id]?.state;
  const goesOn = last && marks.some((m) => m.id === last.id) && (state === undefined || state === 'settling');
  const before = goesOn ? last.before : moved;
  const truly = trulyMoved(rider, before, after);
  if (!truly) return 'Further the bike does not go, or this rider does not reach.';
  const change: PracticeChange = {
    id: goesOn ? last.id : `practice-${changes.length + 1}`,
    ...{ before, after },
    guessDeg: guessDeg ?? (goesOn ? last.guessDeg : null),
    truly: { ...truly },
    word: practiceWord(rider, before, after),
    measured: null,
  };
  practiceStore.setState({ moved: after, changes: [...(goesOn ? changes.slice(0, -1) : changes), change] });
  tellCamera(after);
  markChange(change.id);
  return null;
}

/** Keeps with each change what was read of it. */
function keepMeasured(): Promise<void> {
  const { measured } = liveStore.getState();
  practiceStore.setState(({ changes }) => ({
    changes: changes.map((c) => {
      const state = measured[c.id];
      return state?.state === 'measured' ? { ...c, measured: measuredChange(state) } : c;
    }),
  }));
  return Promise.resolve();
}

async function openPractice(rider: PracticeRider, moved: Moved): Promise<OpenCamera> {
  const { api, end } = spawnPractice();
  const { port1, port2 } = new MessageChannel();
  tellCamera = (to) => void api.move(to).catch(() => undefined);
  try {
    const size = await api.ride(rider.seed, moved, transfer(port1, [port1]));
    return { pictures: port2, label: 'Simulated camera', ...size, cameras: [], close: end };
  } catch (error) {
    end();
    throw error;
  }
}

/** The made-up rider pedals before a simulated camera, read like any other; nothing of it is stored. */
export async function startPractice(): Promise<void> {
  const { rider, moved } = practiceStore.getState();
  if (!rider) return;
  await runLive({
    ownerId: practiceId(rider),
    label: 'A simulated rider pedals',
    to: '/practice',
    ask: {
      wheelbaseMm: rider.wheelbaseMm,
      crankMm: rider.atEase.crankMm,
      protocol: protocolById('long-distance'),
      keeps: false,
    },
    open: () => openPractice(rider, moved),
    watchBike: () => () => undefined,
    onMeasured: keepMeasured,
  });
}
