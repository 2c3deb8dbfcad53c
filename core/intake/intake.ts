/** What riders complain of, in the field's words and the rider's: places on the body, and two ways of sitting that have none. */
export const REGIONS = [
  { key: 'neck', name: 'neck and upper shoulders', sided: 'maybe' },
  { key: 'betweenShoulders', name: 'between the shoulder blades', sided: 'maybe' },
  { key: 'hands', name: 'hands', sided: true },
  { key: 'wrist', name: 'wrist', sided: true },
  { key: 'lowBack', name: 'low back', sided: 'maybe' },
  { key: 'sitBones', name: 'sit bones', sided: true },
  { key: 'softTissue', name: 'saddle: soft tissue', sided: 'maybe' },
  { key: 'buttock', name: 'buttock and high hamstring', sided: true },
  { key: 'outerHip', name: 'outer hip', sided: true },
  { key: 'hipFront', name: 'front of hip', sided: true },
  { key: 'kneeFront', name: 'front of knee', sided: true },
  { key: 'kneeInside', name: 'inside of knee', sided: true },
  { key: 'kneeOutside', name: 'outside of knee', sided: true },
  { key: 'kneeBehind', name: 'behind the knee', sided: true },
  { key: 'calf', name: 'calf and Achilles tendon', sided: true },
  { key: 'ankle', name: 'ankle', sided: true },
  { key: 'forefoot', name: 'forefoot: numb or hot', sided: true },
  { key: 'toes', name: 'toes', sided: true },
  { key: 'footOutside', name: 'outside edge of foot', sided: true },
  { key: 'crooked', name: 'sits crooked', sided: 'maybe' },
  { key: 'cramped', name: 'cramped, arms engaged', sided: false },
  { key: 'other', name: 'somewhere else', sided: 'maybe' },
] as const satisfies readonly {
  key: string;
  name: string;
  /** Two sides; one place, which may yet be worse on one side; or one place alone. */
  sided: boolean | 'maybe';
}[];

export type RegionKey = (typeof REGIONS)[number]['key'];
export type Side = 'left' | 'right' | 'both' | 'middle';
export type Onset = 'at-once' | 'builds-up' | 'after';

export const ONSET_WORDS: Record<Onset, string> = {
  'at-once': 'starts at once',
  'builds-up': 'builds up',
  after: 'after the ride',
};

export interface Complaint {
  id: string;
  region: RegionKey;
  side: Side;
  /** Where and how, in the rider's own words. */
  words: string;
  /** 0 nothing … 10 unbearable. */
  severity: number;
  onset: Onset;
  since: string;
  eases: string;
  /** When the rider said that it is gone; null while it is open. */
  goneIso: string | null;
  /** Stands as it was at the visit before, and was not asked about at this one yet. */
  carried: boolean;
}

/** A complaint of which only the place was said. */
export const NEW_COMPLAINT = {
  words: '',
  severity: 5,
  onset: 'builds-up',
  since: '',
  eases: '',
  goneIso: null,
  carried: false,
} satisfies Partial<Complaint>;

/** What still hurts. */
export const openComplaints = (complaints: readonly Complaint[]): Complaint[] =>
  complaints.filter((c) => c.goneIso === null);

export const regionName = (key: RegionKey): string => REGIONS.find((r) => r.key === key)!.name;

/** “front of knee, right”; a place that the list does not know by the rider's own words. */
export const complaintName = (c: Pick<Complaint, 'region' | 'side'> & { words?: string }): string => {
  const name = c.region === 'other' && c.words?.trim() ? c.words.trim() : regionName(c.region);
  return c.side === 'middle' ? name : `${name}, ${c.side === 'both' ? 'both sides' : c.side}`;
};

/** What stops a fit until a clinician has spoken (handbook: rules, cautions). */
export const RED_FLAGS = [
  { key: 'acuteJoint', text: 'An acute or swelling joint' },
  { key: 'restPain', text: 'Pain at rest or at night' },
  { key: 'numbDays', text: 'Numbness lasting over a day off the bike, or in the saddle region' },
  { key: 'weakness', text: 'Weakness in an arm or a leg' },
  { key: 'legPain', text: 'Pain running down a leg' },
  { key: 'surgery', text: 'Recent surgery or fracture' },
  { key: 'footNerve', text: 'Suspected nerve growth in the foot' },
  { key: 'newLegLength', text: 'A leg-length difference that is new' },
  { key: 'chest', text: 'Chest pain, breathlessness or fainting on the bike' },
  { key: 'jointReplaced', text: 'A replaced joint without a clinician’s clearance' },
  { key: 'osteoporosis', text: 'Osteoporosis' },
  { key: 'bloodThinners', text: 'Blood thinners, with a new swelling' },
  { key: 'diabeticFeet', text: 'Diabetes, with feet that have lost feeling' },
  { key: 'swollenCalf', text: 'A swollen calf' },
  { key: 'oneSided', text: 'Weakness on one side since a crash' },
  { key: 'pregnancy', text: 'Pregnancy: a clinician’s word, looked at again each month' },
] as const;

export type RedFlagKey = (typeof RED_FLAGS)[number]['key'];

export const DISCIPLINES = [
  { key: 'gravel', name: 'long-distance, gravel', protocolId: 'long-distance' },
  { key: 'road', name: 'road race', protocolId: 'road-race' },
  { key: 'timeTrial', name: 'time trial, pursuit', protocolId: 'time-trial' },
  { key: 'city', name: 'city, upright', protocolId: 'city' },
  { key: 'trail', name: 'trail', protocolId: 'trail' },
] as const;

export type Discipline = (typeof DISCIPLINES)[number]['key'];

export const GOALS = ['comfort', 'distance', 'speed', 'injury'] as const;
export type Goal = (typeof GOALS)[number];

export interface Intake {
  goals: Goal[];
  discipline: Discipline | null;
  ageYears: number | null;
  hoursAWeek: number | null;
  longestRideKm: number | null;
  event: string;
  /** YYYY-MM-DD. */
  eventDate: string | null;
  experience: 'new' | 'some' | 'years' | null;
  /** Back from a long time off. */
  returning: boolean;
  past: string;
  work: string;
  changed: string;
  complaints: Complaint[];
  redFlags: { key: RedFlagKey; acknowledgedIso: string | null }[];
  /** When the rider was asked about red flags; null for not yet. */
  flagsAskedIso: string | null;
  /** Without it no filming; under 18 the guardian's. */
  filmConsent: { givenIso: string; by: string } | null;
}

export const BLANK_INTAKE: Intake = {
  goals: [],
  discipline: null,
  ageYears: null,
  hoursAWeek: null,
  longestRideKm: null,
  event: '',
  eventDate: null,
  experience: null,
  returning: false,
  past: '',
  work: '',
  changed: '',
  complaints: [],
  redFlags: [],
  flagsAskedIso: null,
  filmConsent: null,
};

export const isMinor = (i: Intake): boolean => i.ageYears !== null && i.ageYears < 18;

/** Why filming must wait, or null: consent first, by the guardian for a rider under 18. */
export function filmingHeldBack(i: Intake): string | null {
  if (i.filmConsent) return null;
  return isMinor(i)
    ? 'The rider is under 18: the guardian’s consent to filming is needed first.'
    : 'The rider’s consent to being filmed is needed first.';
}

/** Half steps for the new, the returning, the young and riders over 60 (handbook: targets, steps and limits). */
export const takesHalfSteps = (i: Intake): boolean =>
  i.experience === 'new' || i.returning || isMinor(i) || (i.ageYears !== null && i.ageYears > 60);
