import { UNMEASURED_BIKE, type BikeSetup, type FrameGeometry } from './setup.ts';

interface Frame {
  name: string;
  frame: Partial<FrameGeometry>;
  crankMm: number;
}

const FRAMES: readonly Frame[] = [
  {
    name: 'Road, small',
    frame: {
      stackMm: 520,
      reachMm: 375,
      headAngleDeg: 71.5,
      seatAngleDeg: 74.5,
      chainstayMm: 410,
      bbDropMm: 72,
      forkRakeMm: 47,
    },
    crankMm: 165,
  },
  {
    name: 'Road, medium',
    frame: {
      stackMm: 560,
      reachMm: 388,
      headAngleDeg: 73,
      seatAngleDeg: 73.5,
      chainstayMm: 412,
      bbDropMm: 70,
      forkRakeMm: 45,
    },
    crankMm: 172.5,
  },
  {
    name: 'Road, large',
    frame: {
      stackMm: 605,
      reachMm: 402,
      headAngleDeg: 73.5,
      seatAngleDeg: 73,
      chainstayMm: 415,
      bbDropMm: 68,
      forkRakeMm: 43,
    },
    crankMm: 175,
  },
  {
    name: 'Gravel, medium',
    frame: {
      stackMm: 580,
      reachMm: 390,
      headAngleDeg: 71.5,
      seatAngleDeg: 73.5,
      chainstayMm: 428,
      bbDropMm: 75,
      forkRakeMm: 50,
    },
    crankMm: 170,
  },
  {
    name: 'City, medium',
    frame: {
      stackMm: 610,
      reachMm: 385,
      headAngleDeg: 70,
      seatAngleDeg: 72.5,
      chainstayMm: 445,
      bbDropMm: 65,
      forkRakeMm: 50,
    },
    crankMm: 170,
  },
  {
    name: 'Time trial, medium',
    frame: {
      stackMm: 515,
      reachMm: 400,
      headAngleDeg: 72.5,
      seatAngleDeg: 78,
      chainstayMm: 405,
      bbDropMm: 75,
      forkRakeMm: 45,
    },
    crankMm: 165,
  },
];

/**
 * Bikes to start typing from: a frame and a crank as such bikes usually have them, with everything else still to be measured.
 * The front axle follows from stack, reach, head angle and rake, so that the drawing stands at once.
 */
export const BIKE_TEMPLATES: readonly BikeSetup[] = FRAMES.map(({ name, frame, crankMm }) => ({
  ...UNMEASURED_BIKE,
  name,
  frame: { ...UNMEASURED_BIKE.frame, ...frame },
  crank: { ...UNMEASURED_BIKE.crank, lengthMm: crankMm },
}));
