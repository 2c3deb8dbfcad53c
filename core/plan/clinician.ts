import {
  complaintName,
  openComplaints,
  RED_FLAGS,
  type Complaint,
  type Intake,
  type RedFlagKey,
  type RegionKey,
} from '../intake/intake.ts';
import type { Draft } from './lines/draft.ts';

const LEG: readonly RegionKey[] = [
  'kneeFront',
  'kneeInside',
  'kneeOutside',
  'kneeBehind',
  'calf',
  'ankle',
  'hipFront',
  'outerHip',
  'buttock',
];
const FOOT: readonly RegionKey[] = ['forefoot', 'toes', 'footOutside', 'ankle'];
const SEAT: readonly RegionKey[] = ['softTissue', 'sitBones'];
const ARM: readonly RegionKey[] = ['hands', 'wrist', 'neck', 'betweenShoulders'];
const ANY: readonly RegionKey[] | 'all' = 'all';

/** What a reason to refer concerns: complaints at these places wait; “all” holds back the whole plan (handbook: rules, cautions). */
const CONCERNS: Record<RedFlagKey, readonly RegionKey[] | 'all'> = {
  acuteJoint: [...LEG, ...ARM],
  restPain: [...LEG, ...FOOT, ...ARM, 'lowBack', ...SEAT],
  numbDays: [...FOOT, ...SEAT, ...ARM],
  weakness: [...LEG, ...ARM],
  legPain: ['lowBack', 'buttock', ...LEG, ...FOOT],
  surgery: [...LEG, ...ARM, 'lowBack'],
  footNerve: FOOT,
  newLegLength: ['crooked', 'lowBack', ...LEG],
  chest: ANY,
  jointReplaced: LEG,
  osteoporosis: ['lowBack'],
  bloodThinners: LEG,
  diabeticFeet: FOOT,
  swollenCalf: ['calf', 'ankle', ...LEG],
  oneSided: ANY,
  pregnancy: [],
};

/** Whether any moved thing is felt by a leg. */
const LEG_LINES = /^(saddleUp|longerPost|saddleBack|crank|cleatBack|cleatForward|heelOut|stance|shim|wedge)$/;

export interface HeldBack {
  /** Complaints that wait for a clinician's word. */
  complaints: Complaint[];
  everything: boolean;
  words: string[];
  /** Whether a line has to wait. */
  holds: (d: Pick<Draft, 'key' | 'answers'>) => boolean;
}

/** What waits while “a clinician first” stands: the part of the plan that it concerns is held back, not printed beside it. */
export function heldByClinician(intake: Intake): HeldBack {
  const flags = intake.redFlags;
  const open = openComplaints(intake.complaints);
  const everything = flags.some((f) => CONCERNS[f.key] === 'all');
  const concerned = open.filter((q) =>
    flags.some((f) => {
      const at = CONCERNS[f.key];
      return at === 'all' || at.includes(q.region);
    }),
  );
  const ids = concerned.map((q) => q.id);
  const leg = concerned.some((q) => LEG.includes(q.region));
  const words = flags.map((f) => {
    const text = RED_FLAGS.find((r) => r.key === f.key)!.text;
    const at = CONCERNS[f.key];
    const where = at === 'all' ? [] : concerned.filter((q) => at.includes(q.region));
    return at === 'all'
      ? `${text}: a clinician first; nothing is moved before that word.`
      : where.length
        ? `${text}: a clinician first. What concerns ${where.map((q) => complaintName(q)).join(' and ')} is held back.`
        : `${text}: a clinician first.`;
  });
  return {
    complaints: concerned,
    everything,
    words,
    holds: (d) => everything || d.answers.some((id) => ids.includes(id)) || (leg && LEG_LINES.test(d.key)),
  };
}

/** An operated or replaced joint among what is past: the side that it names, or both. */
export function operatedSide(past: string): { side: 'left' | 'right' | 'both'; words: string } | null {
  // “No surgery” tells of none.
  const reported = past
    .split(/[.;\n]/)
    .filter((t) => !/\b(no|not|never|without|none)\b/i.test(t))
    .join('. ');
  const hit = /(replac|prosthe|operat|surg|fractur|broken|ligament|menisc|arthro|implant|plate)[a-z]*/i.exec(
    reported,
  );
  const joint = /\b(hip|knee|ankle|foot|leg|femur|tibia|patella|achilles)s?\b/i.exec(reported);
  if (!hit || !joint) return null;
  const left = /\bleft\b/i.test(reported);
  const right = /\bright\b/i.test(reported);
  return { side: left === right ? 'both' : left ? 'left' : 'right', words: reported.trim().slice(0, 80) };
}
