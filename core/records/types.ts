import type { Part } from '../bike/parts.ts';
import type { BikeSetup } from '../bike/setup.ts';
import type { BodyRecord } from '../body/tests.ts';
import type { Vec2 } from '../geometry/vec.ts';
import type { Intake } from '../intake/intake.ts';
import type { LengthUnit } from '../units/length.ts';
import type { MassUnit } from '../units/mass.ts';
import type { WheelRims } from '../stroke/keystone.ts';
import type { SideLandmark } from '../stroke/landmarks.ts';
import { RECORD_VERSIONS } from './migrations.ts';

/** A rider. `version` is the record's shape, as in every record: newer shapes are refused and kept as they are. */
export interface Rider {
  version: number;
  id: string;
  name: string;
  /** One line on who this is and why they came. */
  note: string;
  createdIso: string;
  /** Since when it lies in the bin; null while it does not. */
  deletedIso: string | null;
}

/** A landmark pointed out on the marked frame, image pixels. */
export interface Mark extends Vec2 {
  /** Pulled to a sticker's centre; otherwise it stands where it was put. */
  onSticker: boolean;
}

export interface VideoInfo {
  widthPx: number;
  heightPx: number;
  codec: string;
  frames: number;
  durationS: number;
  /** Middle of the steps between frames, as a rate. */
  framesPerS: number;
  evenlyTimed: boolean;
  rotationDeg: number;
}

export interface Take {
  id: string;
  clipName: string;
  clipBytes: number;
  video: VideoInfo;
  /** Where a demo take's files come from when they are not on this device yet. */
  demo: { clipUrl: string; tracksUrl: string | null } | null;
  axles: { rear: Vec2 | null; front: Vec2 | null };
  /** Tops and bottoms of the wheels, as far as they were pointed out: they tell how far the camera is from square. */
  rims: Partial<WheelRims>;
  markedFrame: number;
  marks: Partial<Record<SideLandmark, Mark>>;
  tracking: TrackingState;
}

export interface TrackingState {
  /** `stopped`: kept as far as it went. */
  state: 'none' | 'stopped' | 'done';
  framesDone: number;
  /** Counts up whenever the stored tracks are written anew, so that whoever read them knows to read again. */
  revision: number;
}

export interface FitSession {
  version: number;
  id: string;
  riderId: string;
  startedIso: string;
  /** Since when it lies in the bin; null while it does not. */
  deletedIso: string | null;
  protocolId: string;
  intake: Intake;
  body: BodyRecord;
  /** The bike as it came in, before anyone touched it. */
  asFound: BikeSetup;
  take: Take | null;
  /** The saddle-height change that the fitter looks at, mm; null while it is the advised one. */
  triedSaddleMm: number | null;
}

/** The studio's parts bin. */
export interface PartsBin {
  version: number;
  parts: Part[];
}

export interface Settings {
  version: number;
  theme: 'light' | 'dark' | 'system';
  /** How knee and elbow are quoted: 0° straight (bend), or 180° straight (inside). */
  jointConvention: 'bend' | 'inside';
  lengthUnit: LengthUnit;
  massUnit: MassUnit;
}

export const DEFAULT_SETTINGS: Settings = {
  version: RECORD_VERSIONS.settings,
  theme: 'system',
  jointConvention: 'bend',
  lengthUnit: 'mm',
  massUnit: 'kg',
};
