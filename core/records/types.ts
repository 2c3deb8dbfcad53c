import type { Part } from '../bike/parts.ts';
import type { BikeSetup } from '../bike/setup.ts';
import type { BodyRecord } from '../body/bodyTests.ts';
import type { ImagePoint } from '../math/vec.ts';
import type { Intake } from '../intake/intake.ts';
import type { LengthUnit } from '../units/length.ts';
import type { Currency } from '../units/money.ts';
import type { MassUnit } from '../units/mass.ts';
import type { WheelRims } from '../camera/keystone.ts';
import type { Landmark, View } from '../landmarks/landmarks.ts';
import type { WidthReference } from '../camera/frontalScale.ts';
import type { MeasureKey, Protocol } from '../protocol/protocols.ts';
import type { Habits } from '../model/bodyModel.ts';
import type { CameraPath } from '../tracking/steadied.ts';
import type { TakeDevices } from '../kinematics/devices.ts';
import type { HandOver, Paper } from './handOver.ts';
import type { Planning } from '../plan/terms/planning.ts';
import type { Statics } from '../body/statics.ts';
import { RECORD_VERSIONS } from './migrations.ts';
import type { Change } from '../plan/terms/change.ts';
import type { FollowUp } from './followUp.ts';
import type { Plan } from '../plan/controls/keptPlan.ts';

/** A rider. `version` is the record's shape, as in every record: newer shapes are refused and kept as they are. */
export interface Rider {
  version: number;
  id: string;
  name: string;
  /** One line on who this is and why they came. */
  note: string;
  /** Empty where it was not given. */
  email: string;
  phone: string;
  createdIso: string;
  /** Since when it lies in the trash; null while it does not. */
  deletedIso: string | null;
  /** How foot and back of this rider answer a change, learned by filming again; null while the usual shares are taken. */
  habits: (Habits & { learnedIso: string }) | null;
}

/** A bike that a rider comes with. It outlives the visits: each visit has the set-up that the bike had then. */
export interface Bike {
  version: number;
  id: string;
  riderId: string;
  name: string;
  note: string;
  createdIso: string;
}

/** A landmark pointed out on the marked frame, image pixels. */
export interface Mark extends ImagePoint {
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

/** Where the camera stands: beside the bike on the chain's side (right leg near) or the other, ahead of it or behind. */
export type TakeView = View;

/** Hand position. */
export type TakePosition = 'tops' | 'hoods' | 'drops' | 'extensions' | 'grips';
export type TakeEffort = 'easy' | 'working' | 'hard';

/** One film with what was pointed out and followed on it. */
export interface Take {
  id: string;
  /** Rounds are numbered from 1; a new one begins with the first film of a bike that was changed. */
  round: number;
  /** The bike as it stood when this was filmed; null for as found. */
  setup: BikeSetup | null;
  /** What trainer and pressure mat read meanwhile. */
  devices: TakeDevices;
  view: TakeView;
  position: TakePosition | null;
  effort: TakeEffort | null;
  effortW: number | null;
  /** As the rider or a device told it; what the film shows is read beside it. */
  cadenceRpm: number | null;
  /** The take of the same set-up that this one repeats, off the bike and on again; null for none. */
  baselineOf: string | null;
  /** The take of the other side that belongs to this one; null: whichever was ridden alike. */
  pairWith: string | null;
  note: string;
  /** First and last frame that are followed and read; null for the whole film. */
  trim: { from: number; to: number } | null;
  clipName: string;
  clipBytes: number;
  video: VideoInfo;
  /** Where a demo take's files come from when they are not on this device yet. */
  demo: { clipUrl: string; tracksUrl: string | null } | null;
  axles: { rear: ImagePoint | null; front: ImagePoint | null };
  /** The known width that sets the scale of a film from the front or the rear. */
  width: WidthReference;
  /** Tops and bottoms of the wheels, as far as they were pointed out: they tell how far the camera is from square. */
  rims: Partial<WheelRims>;
  markedFrame: number;
  marks: Partial<Record<Landmark, Mark>>;
  /** Places corrected by hand on other frames; tracks between them are made anew. */
  corrections: Correction[];
  /** Stretches of frames on which a landmark can't be seen: nothing is followed there. */
  hidden: Hidden[];
  /** How the camera moved while it filmed: readings take it out. Null where it stood still, or was not watched. */
  cameraPath: CameraPath | null;
  tracking: TrackingState;
}

/** A landmark put right on a frame, px. */
export interface Correction extends ImagePoint {
  landmark: Landmark;
  frame: number;
}

/** From the first to the last of these frames a landmark is hidden. */
export interface Hidden {
  landmark: Landmark;
  from: number;
  to: number;
}

export interface TrackingState {
  /** `stopped`: kept as far as it went. */
  state: 'none' | 'stopped' | 'done';
  framesDone: number;
  /** The joints are where the pose model sees them, without stickers. */
  estimated: boolean;
  /** Counts up whenever the stored tracks are written anew, so that whoever read them knows to read again. */
  revision: number;
}

export interface FitSession {
  version: number;
  id: string;
  riderId: string;
  startedIso: string;
  /** Since when it lies in the trash; null while it does not. */
  deletedIso: string | null;
  /** The bike it is about. */
  bikeId: string;
  /** The visit that this one goes on from; null for a first one. */
  followsId: string | null;
  protocolId: string;
  /** The studio's own version of it that this visit is judged by; null for the starting one. */
  protocol: Protocol | null;
  intake: Intake;
  body: BodyRecord;
  /** The bike as it came in, before anyone touched it. */
  asFound: BikeSetup;
  /** As it stands, with what was moved; null while nothing was. */
  current: BikeSetup | null;
  /** As it was handed over; null before that. */
  final: BikeSetup | null;
  /** What was moved, in the order it was. */
  changes: Change[];
  /** The plan of this round as it was kept; null before that. */
  plan: Plan | null;
  /** The plans of the rounds before. */
  earlierPlans: Plan[];
  followUps: FollowUp[];
  /** Goniometer readings, taken standing still. */
  statics: Statics;
  /** The films of this visit, in the order they came. */
  takes: Take[];
  /** Films that were removed, and since when they lie in the trash. */
  removedTakes: { take: Take; removedIso: string }[];
  /** The one that the stations work on; null while there is none. */
  takeId: string | null;
  /** What is being thought of; nothing of it is on the bike. */
  planning: Planning;
  /** What the rider and the next fitter take along. */
  handOver: HandOver;
}

/** The studio's parts bin. */
export interface PartsBin {
  version: number;
  parts: Part[];
  /** Parts that were deleted, and since when they lie in the trash. */
  removed: { part: Part; removedIso: string }[];
}

/** The protocols that the studio made or changed, every version of each. */
export interface ProtocolShelf {
  version: number;
  protocols: Protocol[];
}

/** The studio: who it is, and how its figures are shown. */
export interface Studio {
  version: number;
  name: string;
  /** Who fits here, and how to reach them: stands on what the rider takes home. */
  fitter: string;
  contact: string;
  /** Measures shown in the glance, three to five. */
  glance: MeasureKey[];
  theme: 'light' | 'dark' | 'system';
  /** How knee and elbow are quoted: 0° straight (bend), or 180° straight (inside). */
  jointConvention: 'bend' | 'inside';
  lengthUnit: LengthUnit;
  massUnit: MassUnit;
  /** What is printed on. */
  paper: Paper;
  dayFormat: DayFormat;
  /** The protocol that a new rider's first visit begins with. */
  protocolId: string;
  /** What prices are in. */
  currency: Currency;
  /** The keys that a presenter's remote sends, as the browser calls them; empty: the arrows and Page Up and Down. */
  remote: { next: string; back: string };
}

/** How a day is written: 22 Nov 2027, 22/11/2027, 11/22/2027, 2027-11-22. */
export const DAY_FORMATS = ['month-name', 'day-first', 'month-first', 'iso'] as const;
export type DayFormat = (typeof DAY_FORMATS)[number];

export const NEW_STUDIO: Studio = {
  version: RECORD_VERSIONS.studio,
  name: '',
  fitter: '',
  contact: '',
  glance: ['kneeFlexionMinDeg', 'hipAngleMinDeg', 'backAngleDeg', 'footPitch180Deg'],
  theme: 'system',
  jointConvention: 'bend',
  lengthUnit: 'mm',
  massUnit: 'kg',
  paper: 'A4',
  dayFormat: 'month-name',
  protocolId: 'long-distance',
  currency: 'EUR',
  remote: { next: '', back: '' },
};

/** The take that the stations work on. */
export const openTake = (s: Pick<FitSession, 'takes' | 'takeId'>): Take | null =>
  s.takes.find((t) => t.id === s.takeId) ?? null;
