import { useCallback, useEffect, useRef, useState } from 'react';
import { single } from '../../../core/body/bodyTests.ts';
import { setupNow } from '../../../core/visit/setups.ts';
import type { FitSession } from '../../../core/records/types.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import {
  riddenOf,
  summariseMat,
  summariseTrainer,
  type MatFrame,
  type TakeDevices,
  type TrainerSample,
} from '../../../core/kinematics/devices.ts';
import type { Ridden } from '../../../core/kinematics/ridden.ts';
import { MAT_CELL_MM, MAT_HZ, matAt, TRAINER_HZ, trainerAt, type Riding } from '../../../sim/devices.ts';

/** How much of the last riding a figure is the mean of, s; and how much is kept for a table. */
const WINDOW_S = 20;
const KEPT_S = 300;
const USUAL_W = 120;

export interface Devices {
  on: boolean;
  toggle: () => void;
  /** What the simulated rider is asked to work, W. */
  targetW: number;
  ask: (powerW: number) => void;
  live: TrainerSample | null;
  mat: MatFrame | null;
  seconds: number;
  /** Means over the last twenty seconds, as they stand beside a change; null where nothing is connected. */
  ridden: () => Ridden | null;
  /** The same whole, as a take keeps them. */
  summary: () => TakeDevices | null;
  trainerSamples: () => readonly TrainerSample[];
  matFrames: () => readonly MatFrame[];
  cellMm: number;
}

/** Who sits on the simulated devices: this visit's rider, as far as it is known. */
function ridingOf(session: FitSession, reading: Reading | null, targetW: number | null): Riding {
  const { body } = session;
  const bike = setupNow(session);
  const take = session.takes.at(-1);
  return {
    rider: {
      cadenceRpm: reading?.cadenceRpm ?? take?.cadenceRpm ?? 85,
      startThetaDeg: 0,
      unevenness: 0.012,
      backDeg: reading?.angles.backAngleDeg?.curve.mean ?? 45,
    },
    powerW: targetW ?? take?.effortW ?? USUAL_W,
    leftPercent: 48.5,
    massKg: single(body, 'mass') ?? 72,
    tiltDeg: bike.saddle.tiltDeg ?? 0,
    widthMm: bike.saddle.widthMm ?? 148,
    sitBonesMm: single(body, 'sitBones') ?? 120,
    leftByMm: 0,
    seed: [...session.id].reduce((h, c) => (31 * h + c.charCodeAt(0)) >>> 0, 7),
  };
}

/** The stand-ins for trainer and pressure mat: connected by hand, reading as long as the station is open. */
// eslint-disable-next-line max-lines-per-function -- what it gives shares its state
export function useDevices(session: FitSession, reading: Reading | null): Devices {
  const [on, setOn] = useState(false);
  const [now, setNow] = useState<{ live: TrainerSample; mat: MatFrame; seconds: number } | null>(null);
  const trainer = useRef<TrainerSample[]>([]);
  const mats = useRef<MatFrame[]>([]);
  const riding = useRef<Riding | null>(null);
  const [targetW, setTargetW] = useState<number | null>(null);
  riding.current = ridingOf(session, reading, targetW);
  useEffect(() => {
    if (!on) return undefined;
    trainer.current = [];
    mats.current = [];
    const begin = performance.now();
    let reported = 0;
    const tick = (): void => {
      const of = riding.current!;
      const seconds = (performance.now() - begin) / 1000;
      // Readings come at the devices' own rate, however busy the page is.
      for (; reported / TRAINER_HZ <= seconds; reported += 1)
        trainer.current.push(trainerAt(of, reported / TRAINER_HZ));
      const frames = Math.floor(seconds * (MAT_HZ / 5));
      const next = mats.current.length === 0 ? 0 : Math.round(mats.current.at(-1)!.tS * (MAT_HZ / 5)) + 1;
      for (let k = next; k <= frames; k += 1) mats.current.push(matAt(of, (5 * k) / MAT_HZ));
      const old = seconds - KEPT_S;
      trainer.current = trainer.current.filter((s) => s.tS >= old);
      mats.current = mats.current.filter((f) => f.tS >= old);
      setNow({ live: trainer.current.at(-1)!, mat: mats.current.at(-1)!, seconds });
    };
    tick();
    const timer = setInterval(tick, 250);
    return () => clearInterval(timer);
  }, [on]);
  const summary = useCallback((): TakeDevices | null => {
    const last = trainer.current.at(-1);
    if (!last) return null;
    const from = last.tS - WINDOW_S;
    return {
      trainer: summariseTrainer(
        trainer.current.filter((s) => s.tS >= from),
        'simulated trainer',
      ),
      mat: summariseMat(
        mats.current.filter((f) => f.tS >= from),
        MAT_CELL_MM,
        'simulated mat',
      ),
    };
  }, []);
  return {
    on,
    toggle: useCallback(() => setOn((v) => !v), []),
    targetW: riding.current.powerW,
    ask: setTargetW,
    live: on ? (now?.live ?? null) : null,
    mat: now?.mat ?? null,
    seconds: on ? (now?.seconds ?? 0) : 0,
    ridden: useCallback(() => {
      const all = on ? summary() : null;
      return all && riddenOf(all);
    }, [on, summary]),
    summary,
    trainerSamples: useCallback(() => trainer.current, []),
    matFrames: useCallback(() => mats.current, []),
    cellMm: MAT_CELL_MM,
  };
}
