/** A number that may not have been measured yet. */
export type Maybe = number | null;

/** The frame, from its sheet or measured. Angles from horizontal, lengths as makers give them. */
export interface FrameGeometry {
  stackMm: Maybe;
  reachMm: Maybe;
  headAngleDeg: Maybe;
  seatAngleDeg: number;
  /** Bottom bracket to the top of the seat tube, along it. */
  seatTubeMm: Maybe;
  frontCentreMm: Maybe;
  chainstayMm: Maybe;
  /** How far the axles stand above the bottom bracket. */
  bbDropMm: Maybe;
  forkRakeMm: Maybe;
  wheelbaseMm: Maybe;
  /** Outer diameter of wheel and tyre, and the tyre's width. */
  wheelDiameterMm: Maybe;
  tyreWidthMm: Maybe;
}

/** What holds one foot. */
export interface FootSetup {
  /** Pedal spindle behind the first metatarsal head, as marked on the shoe; minus = ahead of it. */
  cleatBehindMm: Maybe;
  /** Cleat away from the shoe's middle towards the little toe; minus = towards the big toe. Moves the foot inwards. */
  cleatOutwardMm: Maybe;
  /** Turn of the cleat by which the heel rests further out; minus = further in. */
  heelOutDeg: Maybe;
  shoeSizeEu: Maybe;
  /** Sole between foot and cleat. */
  soleStackMm: Maybe;
  /** Forefoot wedges, degrees; + raises the inside. */
  wedgeDeg: number;
  /** Under the cleat, for a shorter leg. */
  shimMm: number;
  washers: number;
  insole: string;
}

/** A bike as it stands: everything a fitter measures before touching it. Whatever was not measured is null. */
export interface BikeSetup {
  name: string;
  frame: FrameGeometry;
  crank: { lengthMm: Maybe; qFactorMm: Maybe };
  pedals: { model: string; axleLengthMm: Maybe; stackMm: Maybe; floatDeg: Maybe };
  feet: { left: FootSetup; right: FootSetup };
  saddle: {
    model: string;
    lengthMm: Maybe;
    widthMm: Maybe;
    reliefChannel: boolean | null;
    /** Bottom bracket to the saddle's top, along the seat tube. */
    heightMm: Maybe;
    /** The same line measured to the pedal spindle, crank in line with the seat tube. */
    heightToSpindleMm: Maybe;
    /** Horizontally behind the bottom bracket: the nose, and the place where the saddle is 80 mm wide. */
    setbackNoseMm: Maybe;
    setback80Mm: Maybe;
    /** Along the saddle from its nose to where it is 80 mm wide: a property of the saddle. */
    noseTo80Mm: Maybe;
    /** Of the supportive part; nose-up positive. */
    tiltDeg: Maybe;
    /** Post showing above the clamp, and the most it may show. */
    postShowingMm: Maybe;
    postShowingMostMm: Maybe;
  };
  stem: {
    lengthMm: Maybe;
    /** From the normal to the steerer, as printed on it; minus = down when it is not flipped. */
    angleDeg: Maybe;
    flipped: boolean;
    /** Under the stem, and what is left of the steerer above it: spacers that may go under. */
    spacersMm: Maybe;
    steererAboveMm: Maybe;
    /** Bar and stem in one: neither turned over nor rolled. */
    onePiece: boolean;
    /** Headset's top cap under the spacers, and the stem's height on the steerer. */
    capMm: number;
    clampHeightMm: number;
  };
  bar: {
    model: string;
    widthMm: Maybe;
    /** Clamp to the hoods: forward, and up. A flat bar's grips may lie behind the clamp. */
    reachMm: Maybe;
    hoodRiseMm: Maybe;
    dropMm: Maybe;
    /** Rolled up positive. */
    rotationDeg: Maybe;
    /** Measured directly: saddle nose to the bar's middle by tape, and saddle top to bar top, bar lower positive. */
    fromNoseMm: Maybe;
    belowSaddleMm: Maybe;
  };
  /** Where the lever's clamp sits along the bar from its end, how far it is turned in, and how far the fingers reach to it. */
  levers: { fromEndMm: Maybe; turnInDeg: Maybe; reachMm: Maybe };
  /** Time trial: pads above and ahead of the bar's clamp, between their middles, and the extensions beyond them. */
  extensions: { padRiseMm: Maybe; padAheadMm: Maybe; padSpacingMm: Maybe; lengthMm: Maybe } | null;
}

const FOOT: FootSetup = {
  cleatBehindMm: null,
  cleatOutwardMm: null,
  heelOutDeg: null,
  shoeSizeEu: null,
  soleStackMm: null,
  wedgeDeg: 0,
  shimMm: 0,
  washers: 0,
  insole: '',
};

/** A bike of which nothing is known yet. */
export const UNMEASURED_BIKE: BikeSetup = {
  name: '',
  frame: {
    stackMm: null,
    reachMm: null,
    headAngleDeg: null,
    seatAngleDeg: 73,
    seatTubeMm: null,
    frontCentreMm: null,
    chainstayMm: null,
    bbDropMm: null,
    forkRakeMm: null,
    wheelbaseMm: null,
    wheelDiameterMm: null,
    tyreWidthMm: null,
  },
  crank: { lengthMm: null, qFactorMm: null },
  pedals: { model: '', axleLengthMm: null, stackMm: null, floatDeg: null },
  feet: { left: FOOT, right: FOOT },
  saddle: {
    model: '',
    lengthMm: null,
    widthMm: null,
    reliefChannel: null,
    heightMm: null,
    heightToSpindleMm: null,
    setbackNoseMm: null,
    setback80Mm: null,
    noseTo80Mm: null,
    tiltDeg: null,
    postShowingMm: null,
    postShowingMostMm: null,
  },
  stem: {
    lengthMm: null,
    angleDeg: null,
    flipped: false,
    spacersMm: null,
    steererAboveMm: null,
    onePiece: false,
    capMm: 10,
    clampHeightMm: 40,
  },
  bar: {
    model: '',
    widthMm: null,
    reachMm: null,
    hoodRiseMm: null,
    dropMm: null,
    rotationDeg: null,
    fromNoseMm: null,
    belowSaddleMm: null,
  },
  levers: { fromEndMm: null, turnInDeg: null, reachMm: null },
  extensions: null,
};
