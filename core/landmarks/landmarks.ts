/** Side-view landmarks, in the order in which they are asked for. */
export const SIDE_LANDMARKS = ['hip', 'knee', 'ankle', 'heel', 'toe', 'shoulder', 'elbow', 'wrist'] as const;
export type SideLandmark = (typeof SIDE_LANDMARKS)[number];

/** Side-view landmarks that tell more when they are there: pelvis, neck and head, grip, the spindle itself. */
export const SIDE_OPTIONAL = ['head', 'c7', 'sacrum', 'asis', 'hand', 'spindle'] as const;
export type SideOptional = (typeof SIDE_OPTIONAL)[number];

/** Landmarks seen from the front or the rear, in the order in which they are asked for; L and R are the rider's own. */
export const FRONTAL_LANDMARKS = [
  'kneeR',
  'kneeL',
  'toeR',
  'toeL',
  'ankleR',
  'ankleL',
  'hipR',
  'hipL',
  'asisR',
  'asisL',
  'psisR',
  'psisL',
  'shoulderR',
  'shoulderL',
] as const;
export type FrontalLandmark = (typeof FRONTAL_LANDMARKS)[number];

/** Without these four there is no knee path and no crank phase. */
export const FRONTAL_NEEDED: readonly FrontalLandmark[] = ['kneeR', 'kneeL', 'toeR', 'toeL'];

/** Every landmark that can be marked on a film. */
export type Landmark = SideLandmark | SideOptional | FrontalLandmark;
export const LANDMARKS: readonly Landmark[] = [...SIDE_LANDMARKS, ...SIDE_OPTIONAL, ...FRONTAL_LANDMARKS];

/** From where a film was taken. */
export type View = 'drive' | 'nonDrive' | 'front' | 'rear';
export const isFrontal = (view: View): view is 'front' | 'rear' => view === 'front' || view === 'rear';

/** The limbs of the side view, which keep their length in the picture. */
export const SIDE_BONES: readonly (readonly [SideLandmark, SideLandmark])[] = [
  ['hip', 'knee'],
  ['knee', 'ankle'],
  ['ankle', 'heel'],
  ['ankle', 'toe'],
  ['heel', 'toe'],
  ['hip', 'shoulder'],
  ['shoulder', 'elbow'],
  ['elbow', 'wrist'],
];

/** Limbs between the optional points and the others. */
const SIDE_OPTIONAL_BONES: readonly (readonly [Landmark, Landmark])[] = [
  ['sacrum', 'asis'],
  ['shoulder', 'c7'],
  ['c7', 'head'],
  ['wrist', 'hand'],
];

/** From the front a thigh and a shank change their length with every turn: drawn, and never used to judge the tracker. */
const FRONTAL_LINES: readonly (readonly [Landmark, Landmark])[] = [
  ['hipR', 'kneeR'],
  ['kneeR', 'ankleR'],
  ['ankleR', 'toeR'],
  ['hipL', 'kneeL'],
  ['kneeL', 'ankleL'],
  ['ankleL', 'toeL'],
  ['asisR', 'asisL'],
  ['psisR', 'psisL'],
  ['shoulderR', 'shoulderL'],
];

export interface LandmarkGuide {
  key: Landmark;
  name: string;
  plain: string;
  place: string;
  /** Asked for after the others; the reading stands without it. */
  optional?: boolean;
  /** Not asked for in turn, only when it is chosen. */
  onRequest?: boolean;
}

/** What to point at, in the field's word and in plain words (handbook: measuring). */
const LANDMARK_GUIDES: readonly LandmarkGuide[] = [
  {
    key: 'hip',
    name: 'Greater trochanter',
    plain: 'hip',
    place: 'where the thigh turns, found by swinging the leg',
  },
  {
    key: 'knee',
    name: 'Lateral femoral epicondyle',
    plain: 'knee',
    place: 'on the bend axis, the outer side of the knee',
  },
  { key: 'ankle', name: 'Lateral malleolus', plain: 'ankle', place: 'the outer ankle bone' },
  { key: 'heel', name: 'Heel', plain: 'heel', place: 'on the shoe, below the ankle at the sole' },
  {
    key: 'toe',
    name: 'Fifth metatarsal head',
    plain: 'toe',
    place: 'on the shoe at the sole, in line with the pedal spindle',
  },
  {
    key: 'shoulder',
    name: 'Acromion',
    plain: 'shoulder',
    place: 'where the arm turns, as the camera sees it',
  },
  { key: 'elbow', name: 'Lateral humeral epicondyle', plain: 'elbow', place: 'the outer side of the elbow' },
  {
    key: 'wrist',
    name: 'Ulnar styloid',
    plain: 'wrist',
    place: 'the bump on the little-finger side of the wrist',
  },
];

const OPTIONAL_GUIDES: readonly LandmarkGuide[] = [
  { key: 'head', name: 'Tragus', plain: 'head', place: 'the small flap in front of the ear' },
  { key: 'c7', name: 'Seventh cervical vertebra', plain: 'C7', place: 'the bump at the root of the neck' },
  {
    key: 'sacrum',
    name: 'Sacrum',
    plain: 'sacrum',
    place: 'the middle between the two dimples of the low back',
  },
  {
    key: 'asis',
    name: 'Anterior superior iliac spine',
    plain: 'ASIS',
    place: 'the point of the hip bone at the front of the pelvis',
  },
  {
    key: 'hand',
    name: 'Hand',
    plain: 'hand',
    place: 'the web between thumb and finger, on the hood or the grip',
  },
  {
    key: 'spindle',
    name: 'Pedal spindle',
    plain: 'spindle',
    place: 'the end of the pedal’s axle: then the crank’s turn needs no estimate from the shoe',
  },
].map((g) => ({ ...(g as LandmarkGuide), optional: true, onRequest: true }));

const BONE_PLACES: Record<'front' | 'rear', Record<string, [name: string, place: string]>> = {
  front: {
    knee: ['Patella', 'the middle of the kneecap'],
    toe: ['Forefoot', 'on the shoe’s top, straight above the pedal spindle'],
    ankle: ['Ankle', 'the middle between the two ankle bones'],
    hip: ['Greater trochanter', 'where the thigh turns, as far out as it is seen'],
    asis: ['Anterior superior iliac spine', 'the point of the hip bone'],
    shoulder: ['Acromion', 'the tip of the shoulder'],
  },
  rear: {
    knee: ['Hollow of the knee', 'the middle of the crease'],
    toe: ['Pedal', 'its rear edge, in the middle under the foot'],
    ankle: ['Achilles tendon', 'at the height of the ankle bones'],
    hip: ['Greater trochanter', 'where the thigh turns, as far out as it is seen'],
    psis: ['Posterior superior iliac spine', 'the dimple of the low back'],
    shoulder: ['Acromion', 'the tip of the shoulder'],
  },
};

const frontalGuides = (view: 'front' | 'rear'): LandmarkGuide[] =>
  FRONTAL_LANDMARKS.flatMap((key) => {
    const side = key.endsWith('R') ? 'right' : 'left';
    const bone = key.slice(0, -1);
    const words = BONE_PLACES[view][bone];
    if (!words) return [];
    const [name, place] = words;
    const plain = `${side} ${/[ps]is$/.test(bone) ? bone.toUpperCase() : bone === 'toe' && view === 'rear' ? 'pedal' : bone === 'toe' ? 'foot' : bone}`;
    return [
      {
        key,
        name: `${name}, ${side}`,
        plain,
        place,
        ...(!FRONTAL_NEEDED.includes(key) && { optional: true }),
      },
    ];
  });

/** What is pointed out on a film of a view, in the order in which it is asked for. */
export const GUIDES: Record<View, readonly LandmarkGuide[]> = {
  drive: [...LANDMARK_GUIDES, ...OPTIONAL_GUIDES],
  nonDrive: [...LANDMARK_GUIDES, ...OPTIONAL_GUIDES],
  front: frontalGuides('front'),
  rear: frontalGuides('rear'),
};

/** Lines between a view's landmarks, for drawing. */
export const LINES: Record<View, readonly (readonly [Landmark, Landmark])[]> = {
  drive: [...SIDE_BONES, ...SIDE_OPTIONAL_BONES],
  nonDrive: [...SIDE_BONES, ...SIDE_OPTIONAL_BONES],
  front: FRONTAL_LINES,
  rear: FRONTAL_LINES,
};

/** Pairs that keep their distance in the picture, on whichever film they are: for the tracker's judgement. */
export const RIGID_BONES: readonly (readonly [Landmark, Landmark])[] = [
  ...SIDE_BONES,
  ['sacrum', 'asis'],
  ['wrist', 'hand'],
  ['toe', 'spindle'],
  ['asisR', 'asisL'],
  ['psisR', 'psisL'],
  ['shoulderR', 'shoulderL'],
];

/** The landmarks without which a film of a view can't be read. */
export const needed = (view: View): readonly Landmark[] =>
  isFrontal(view) ? FRONTAL_NEEDED : SIDE_LANDMARKS;

const PLAIN = new Map(Object.values(GUIDES).flatMap((list) => list.map((g) => [g.key, g.plain] as const)));

/** A landmark in plain words; its key where it has none. */
export const plainName = (key: string): string => PLAIN.get(key as Landmark) ?? key;
