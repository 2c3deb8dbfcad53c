/** Side-view landmarks, in the order in which they are asked for. */
export const SIDE_LANDMARKS = ['hip', 'knee', 'ankle', 'heel', 'toe', 'shoulder', 'elbow', 'wrist'] as const;
export type SideLandmark = (typeof SIDE_LANDMARKS)[number];

/** Limbs that keep their length in the picture, for the tracker's judgement and for drawing. */
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

export interface LandmarkGuide {
  key: SideLandmark;
  name: string;
  plain: string;
  place: string;
}

/** What to point at, in the field's word and in plain words (handbook: measuring). */
export const LANDMARK_GUIDES: readonly LandmarkGuide[] = [
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

/** A landmark in plain words; its key where it has none. */
export const plainName = (key: string): string => LANDMARK_GUIDES.find((g) => g.key === key)?.plain ?? key;
