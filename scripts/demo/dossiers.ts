import { UNMEASURED_BIKE, type BikeSetup, type FootSetup } from '../../core/bike/setup.ts';
import type { BodyRecord, TestKey, TestResult } from '../../core/body/bodyTests.ts';
import { RAD_PER_DEG } from '../../core/math/angles.ts';
import { BLANK_INTAKE, type Complaint, type Intake } from '../../core/intake/intake.ts';
import { CAST } from '../../sim/cast.ts';
import { seated } from '../../sim/human.ts';
import type { VirtualRider } from '../../sim/rider.ts';
import { hoodMm } from '../../sim/rider.ts';

/** What a fitter writes down of each made-up rider before filming: lengths from the virtual rider, the rest its story. */
export interface Dossier {
  intake: Intake;
  body: BodyRecord;
  asFound: BikeSetup;
}

const round = (v: number, step = 1): number => Math.round(v / step) * step;

interface Front {
  headAngleDeg: number;
  forkRakeMm: number;
  stemMm: number;
  stemDeg: number;
  flipped?: boolean;
  steererAboveMm?: number;
  spacersMm: number;
  hoodRiseMm: number;
}

/** The bike under a virtual rider: saddle, axles and hands are where the film has them; the frame's sheet follows from those. */
function bikeUnder(id: string, front: Front): Omit<BikeSetup, 'feet'> {
  const { bike, rider } = CAST.find((m) => m.id === id)!.scene;
  const hand = hoodMm(rider);
  const drop = bike.rearAxle.y;
  const head = front.headAngleDeg * RAD_PER_DEG;
  const stem = front.stemDeg * (front.flipped ? -1 : 1) * RAD_PER_DEG;
  const column = front.spacersMm + UNMEASURED_BIKE.stem.capMm + UNMEASURED_BIKE.stem.clampHeightMm / 2;
  const stackMm = round(
    hand.y - front.hoodRiseMm - column * Math.sin(head) - front.stemMm * Math.cos(head - stem),
  );
  const reachMm = round(
    bike.frontAxle.x - (stackMm - drop) / Math.tan(head) - front.forkRakeMm / Math.sin(head),
  );
  const sit = bike.saddleTop;
  return {
    ...UNMEASURED_BIKE,
    frame: {
      ...UNMEASURED_BIKE.frame,
      stackMm,
      reachMm,
      headAngleDeg: front.headAngleDeg,
      seatAngleDeg: 73,
      chainstayMm: round(Math.hypot(bike.rearAxle.x, drop)),
      bbDropMm: drop,
      forkRakeMm: front.forkRakeMm,
      wheelbaseMm: round(bike.frontAxle.x - bike.rearAxle.x),
      wheelDiameterMm: 2 * bike.wheelRadiusMm,
    },
    crank: { lengthMm: rider.crankMm, qFactorMm: 150 },
    saddle: {
      ...UNMEASURED_BIKE.saddle,
      heightMm: round(Math.hypot(sit.x, sit.y)),
      setback80Mm: round(-sit.x),
      noseTo80Mm: 130,
      lengthMm: 270,
      reliefChannel: false,
      postShowingMostMm: 250,
    },
    stem: {
      ...UNMEASURED_BIKE.stem,
      lengthMm: front.stemMm,
      angleDeg: front.stemDeg,
      flipped: front.flipped ?? false,
      spacersMm: front.spacersMm,
      steererAboveMm: front.steererAboveMm ?? 10,
    },
    bar: {
      ...UNMEASURED_BIKE.bar,
      hoodRiseMm: front.hoodRiseMm,
      reachMm: round(hand.x - reachMm + column * Math.cos(head) - front.stemMm * Math.sin(head - stem)),
      rotationDeg: 0,
    },
  };
}

const foot = (f: Partial<FootSetup>): FootSetup => ({
  ...UNMEASURED_BIKE.feet.left,
  cleatOutwardMm: 0,
  soleStackMm: 6,
  ...f,
});

type Found = number | string | readonly [number | string, number | string];

/** The inseam from which the schools' starts put the saddle where these legs bend by 37.5° at the bottom. */
function inseamOf(rider: VirtualRider): number {
  const fitted = seated(rider, { kneeFlexionMinDeg: 37.5, kneeOverSpindleMm: -10 });
  if (!fitted) throw new Error('One of the cast cannot be seated.');
  return round(Math.hypot(fitted.hipMm.x - 25, fitted.hipMm.y - 92) / 0.883);
}

/** Left and right as a pair; the inseam as the virtual rider's legs have it unless told. */
function bodyOf(
  id: string,
  found: Partial<Record<TestKey, Found>>,
  skipped: Partial<Record<TestKey, string>> = {},
): BodyRecord {
  const { rider } = CAST.find((m) => m.id === id)!.scene;
  const all: Partial<Record<TestKey, Found>> = {
    inseam: inseamOf(rider),
    ...found,
  };
  const none: TestResult = { left: null, right: null, both: null, skipped: null };
  const results: BodyRecord['results'] = {};
  for (const [key, v] of Object.entries(all) as [TestKey, Found][])
    results[key] = Array.isArray(v)
      ? { ...none, left: v[0] as number, right: v[1] as number }
      : { ...none, both: v as number };
  for (const [key, why] of Object.entries(skipped) as [TestKey, string][])
    results[key] = { ...none, skipped: why };
  return { results, adjustmentsOff: [] };
}

const complaint = (id: string, c: Omit<Complaint, 'id' | 'goneIso' | 'words' | 'carried'>): Complaint => ({
  id,
  words: '',
  ...c,
  goneIso: null,
  carried: false,
});

function intake(c: Partial<Intake>): Intake {
  return { ...BLANK_INTAKE, flagsAskedIso: '2026-11-16T09:00:00.000Z', ...c };
}

const maren = bikeUnder('maren', {
  headAngleDeg: 72,
  forkRakeMm: 47,
  stemMm: 120,
  stemDeg: -6,
  spacersMm: 10,
  hoodRiseMm: 35,
});
const idris = bikeUnder('idris', {
  headAngleDeg: 69,
  forkRakeMm: 50,
  stemMm: 70,
  stemDeg: -12,
  flipped: true,
  spacersMm: 30,
  hoodRiseMm: 60,
});
const pilar = bikeUnder('pilar', {
  headAngleDeg: 70,
  forkRakeMm: 50,
  stemMm: 70,
  stemDeg: -10,
  spacersMm: 0,
  steererAboveMm: 25,
  hoodRiseMm: 10,
});
const juno = bikeUnder('juno', {
  headAngleDeg: 73,
  forkRakeMm: 43,
  stemMm: 110,
  stemDeg: -17,
  spacersMm: 0,
  hoodRiseMm: 40,
});

export const DOSSIERS: Record<string, Dossier> = {
  maren: {
    intake: intake({
      goals: ['comfort', 'distance'],
      discipline: 'gravel',
      ageYears: 47,
      hoursAWeek: 6,
      longestRideKm: 110,
      event: 'Five days along the towpaths, 420 km',
      eventDate: '2027-05-17',
      experience: 'years',
      past: 'Left ankle sprained 2019, healed. No surgery.',
      work: 'On her feet, ladders and walkways; writes up sitting.',
      changed: 'New saddle in August; since then it stands where it came.',
      complaints: [
        complaint('m1', {
          region: 'kneeFront',
          side: 'both',
          severity: 5,
          onset: 'builds-up',
          since: 'August',
          eases: 'spinning lighter; a day off',
        }),
        complaint('m2', {
          region: 'hands',
          side: 'both',
          severity: 4,
          onset: 'builds-up',
          since: 'the first long ride in spring',
          eases: 'shaking them out',
        }),
      ],
      filmConsent: { givenIso: '2026-10-07T08:42:00.000Z', by: 'Maren Toft' },
    }),
    body: bodyOf('maren', {
      height: 1702,
      mass: 66,
      sitBones: 122,
      shoulderWidth: 372,
      footLength: [246, 247],
      footLengthLoaded: [251, 252],
      footWidth: [94, 95],
      arch: ['medium', 'medium'],
      forefootTilt: [4, 5],
      toeOutWalk: [7, 9],
      toeOutJump: [6, 8],
      malleoliTraction: 1,
      straightLegRaise: [74, 76],
      hipFlexion: [118, 120],
      hipInternal: [34, 33],
      hipExternal: [42, 44],
      iliotibial: ['free', 'free'],
      dorsiflexion: [33, 36],
      pelvis: 'level',
      kneesStanding: 'straight',
      build: 'medium',
      oneLegBend: ['steady', 'steady'],
      standOpen: [9, 9],
      standClosed: [6, 7],
      hinge: 'flat',
      fingertips: 40,
      shoulderRange: ['free', 'free'],
      coreHold: 55,
    }),
    asFound: {
      ...maren,
      name: 'Tolland Drift, gravel',
      frame: { ...maren.frame, tyreWidthMm: 42 },
      pedals: { model: 'Quern two-bolt', axleLengthMm: 53, stackMm: 11, floatDeg: 6 },
      feet: {
        left: foot({ cleatBehindMm: 6, heelOutDeg: -6, shoeSizeEu: 40 }),
        right: foot({ cleatBehindMm: 6, heelOutDeg: -7, shoeSizeEu: 40 }),
      },
      saddle: { ...maren.saddle, model: 'Halm 148', widthMm: 148, tiltDeg: -3.5, postShowingMm: 150 },
      bar: { ...maren.bar, model: 'Brindle flare', widthMm: 420, dropMm: 120 },
      levers: { fromEndMm: 190, turnInDeg: 2, reachMm: 68 },
    },
  },
  idris: {
    intake: intake({
      goals: ['comfort', 'injury'],
      discipline: 'city',
      ageYears: 29,
      hoursAWeek: 22,
      longestRideKm: 45,
      experience: 'new',
      past: 'Nothing to tell.',
      work: 'Rides with 12 kg of letters in front, stops every few doors.',
      changed: 'Clipless pedals four weeks ago.',
      complaints: [
        complaint('i1', {
          region: 'footOutside',
          side: 'both',
          severity: 6,
          onset: 'builds-up',
          since: 'the new pedals',
          eases: 'unclipping; gone within the hour',
        }),
      ],
      filmConsent: { givenIso: '2026-11-20T12:50:00.000Z', by: 'Idris Bellweather' },
    }),
    body: bodyOf('idris', {
      height: 1868,
      mass: 84,
      sitBones: 118,
      shoulderWidth: 425,
      footLength: [272, 271],
      footLengthLoaded: [277, 276],
      footWidth: [106, 106],
      arch: ['medium', 'medium'],
      toeOutWalk: [11, 12],
      toeOutJump: [10, 12],
      malleoliTraction: 0,
      straightLegRaise: [68, 70],
      hipFlexion: [116, 117],
      hipInternal: [21, 22],
      hipExternal: [46, 45],
      dorsiflexion: [30, 31],
      pelvis: 'level',
      kneesStanding: 'bow',
      build: 'broad',
      oneLegBend: ['steady', 'steady'],
      hinge: 'flat',
      coreHold: 80,
    }),
    asFound: {
      ...idris,
      name: 'Parcel Nine, city',
      frame: { ...idris.frame, tyreWidthMm: 47 },
      pedals: { model: 'Quern flat-and-clip', axleLengthMm: 50, stackMm: 14, floatDeg: 4 },
      feet: {
        left: foot({ cleatBehindMm: -3, cleatOutwardMm: 4, heelOutDeg: -4, shoeSizeEu: 43.5 }),
        right: foot({ cleatBehindMm: -3, cleatOutwardMm: 4, heelOutDeg: -4, shoeSizeEu: 43.5 }),
      },
      saddle: { ...idris.saddle, model: 'Bolster 165', widthMm: 165, tiltDeg: 0, postShowingMm: 190 },
      bar: { ...idris.bar, model: 'swept, 40 mm rise', widthMm: 640 },
      levers: { fromEndMm: 115, turnInDeg: 0, reachMm: 80 },
    },
  },
  pilar: {
    intake: intake({
      goals: ['comfort'],
      discipline: 'gravel',
      ageYears: 61,
      hoursAWeek: 3,
      longestRideKm: 35,
      event: 'The observatory’s open night, by bike',
      eventDate: '2027-04-10',
      experience: 'years',
      returning: true,
      past: 'Low back on and off for ten years; physiotherapy, no surgery.',
      work: 'At instruments, bent forward, nights.',
      changed: 'Back on the bike in September after two years.',
      complaints: [
        complaint('p1', {
          region: 'lowBack',
          side: 'middle',
          severity: 6,
          onset: 'builds-up',
          since: 'September',
          eases: 'sitting up; lying flat afterwards',
        }),
        complaint('p2', {
          region: 'hipFront',
          side: 'both',
          severity: 3,
          onset: 'at-once',
          since: 'September',
          eases: 'a slower cadence',
        }),
      ],
      filmConsent: { givenIso: '2026-11-18T10:05:00.000Z', by: 'Pilar Quist' },
    }),
    body: bodyOf(
      'pilar',
      {
        height: 1604,
        mass: 61,
        sitBones: 131,
        shoulderWidth: 352,
        footLengthLoaded: [236, 237],
        arch: ['high', 'high'],
        malleoliTraction: 4,
        malleoliSitUp: 0,
        straightLegRaise: [54, 56],
        hipFlexion: [104, 106],
        hipInternal: [24, 26],
        dorsiflexion: [28, 27],
        pelvis: 'level',
        kneesStanding: 'straight',
        build: 'medium',
        oneLegBend: ['steady', 'wobbles'],
        hinge: 'round',
        fingertips: 190,
        coreHold: 25,
      },
      { standClosed: 'Rider declined.', shoulderRange: 'Not asked for by anything today.' },
    ),
    asFound: {
      ...pilar,
      name: 'Meridian Six, touring',
      frame: { ...pilar.frame, tyreWidthMm: 38 },
      pedals: { model: 'platform', axleLengthMm: 54, stackMm: 16, floatDeg: null },
      feet: {
        left: foot({ cleatBehindMm: 4, heelOutDeg: 0, shoeSizeEu: 38 }),
        right: foot({ cleatBehindMm: 4, heelOutDeg: 0, shoeSizeEu: 38 }),
      },
      saddle: {
        ...pilar.saddle,
        model: 'Halm 160',
        widthMm: 160,
        tiltDeg: -1,
        reliefChannel: true,
        postShowingMm: 110,
      },
      bar: { ...pilar.bar, model: 'flat', widthMm: 600 },
      levers: { fromEndMm: 185, turnInDeg: 0, reachMm: 72 },
    },
  },
  juno: {
    intake: intake({
      goals: ['speed'],
      discipline: 'timeTrial',
      ageYears: 34,
      hoursAWeek: 14,
      longestRideKm: 160,
      event: 'Winter pursuit series',
      eventDate: '2027-01-23',
      experience: 'years',
      past: 'Collarbone 2021, plated, healed.',
      work: 'Workshop, standing.',
      changed: 'Saddle up 8 mm in October “to open the hip”.',
      filmConsent: { givenIso: '2026-11-16T16:40:00.000Z', by: 'Juno Achterberg' },
    }),
    body: bodyOf('juno', {
      height: 1760,
      mass: 68,
      sitBones: 112,
      shoulderWidth: 388,
      footLength: [255, 261],
      footLengthLoaded: [259, 266],
      footWidth: [97, 99],
      arch: ['medium', 'low'],
      forefootTilt: [6, 12],
      toeOutWalk: [5, 12],
      toeOutJump: [5, 11],
      malleoliTraction: -5,
      malleoliSitUp: -5,
      tibia: [474, 469],
      femur: [561, 561],
      straightLegRaise: [88, 86],
      hipFlexion: [126, 114],
      hipInternal: [38, 27],
      hipExternal: [40, 41],
      dorsiflexion: [34, 31],
      pelvis: 'right-low',
      kneesStanding: 'straight',
      build: 'slight',
      oneLegBend: ['steady', 'drops'],
      standOpen: [10, 8],
      standClosed: [8, 4],
      hinge: 'flat',
      fingertips: -60,
      shoulderRange: ['free', 'limited'],
      coreHold: 140,
    }),
    asFound: {
      ...juno,
      name: 'Concrete Arrow, pursuit',
      frame: { ...juno.frame, tyreWidthMm: 23 },
      crank: { ...juno.crank, qFactorMm: 146 },
      pedals: { model: 'Quern track', axleLengthMm: 52, stackMm: 9, floatDeg: 2 },
      feet: {
        left: foot({ cleatBehindMm: 10, heelOutDeg: -4, shoeSizeEu: 41.5 }),
        right: foot({ cleatBehindMm: 7, heelOutDeg: -8, shoeSizeEu: 41.5 }),
      },
      saddle: {
        ...juno.saddle,
        model: 'Stub 132',
        widthMm: 132,
        lengthMm: 240,
        tiltDeg: -2,
        reliefChannel: true,
        postShowingMm: 210,
      },
      bar: { ...juno.bar, model: 'base bar with extensions', widthMm: 380 },
      extensions: { padRiseMm: 45, padAheadMm: -30, padSpacingMm: 170, lengthMm: 330 },
    },
  },
};
